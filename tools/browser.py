"""Headless Chromium as this project drives it, for browser tests and pictures."""

from __future__ import annotations

import json
import tempfile
import time
from collections.abc import Callable
from typing import TypeVar
from urllib.request import urlopen

from selenium.common.exceptions import (
    ElementClickInterceptedException,
    ElementNotInteractableException,
    StaleElementReferenceException,
)
from selenium.webdriver import Chrome, ChromeOptions
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from websocket import WebSocket, create_connection

CHROMIUM, DRIVER = "/usr/bin/chromium", "/usr/bin/chromedriver"
FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-dev-shm-usage",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--hide-scrollbars",
    "--force-device-scale-factor=1",
    "--lang=en-GB",
)


# a device that takes no kit along for work without a network: nothing is fetched behind what is looked at
STAYS_HOME = "localStorage.getItem('temper.takes-along') ?? localStorage.setItem('temper.takes-along', 'no')"


def chromium(
    width: int = 1280, height: int = 800, more: tuple[str, ...] = (), profile: str | None = None, kit: bool = False
) -> Chrome:
    """A new browser with exactly this page size; more: flags beside the usual ones.

    profile: the folder of one that was there before, an empty one where left out. kit: it takes a kit along.
    """
    options = ChromeOptions()
    options.binary_location = CHROMIUM
    folder = profile or tempfile.mkdtemp(prefix="temper-chromium-")
    for flag in (*FLAGS, *more, f"--user-data-dir={folder}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = Chrome(options=options, service=Service(DRIVER))
    resize(driver, width, height)
    if not kit:
        driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": f"try {{ {STAYS_HOME} }} catch {{}}"})
    return driver


def resize(driver: Chrome, width: int, height: int) -> None:
    """Exactly this page size; narrow ones as a phone sees them."""
    driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 500},
    )


def cut_network(driver: Chrome, off: bool) -> None:
    """No network, or again one, for the page on show and for the service worker behind it."""
    conditions = {"offline": off, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    driver.execute_cdp_cmd("Network.enable", {})
    driver.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)
    for worker in _workers(driver):
        for command, given in (("Network.enable", {}), ("Network.emulateNetworkConditions", conditions)):
            worker.send(json.dumps({"id": 1, "method": command, "params": given}))
            worker.recv()


_SOCKETS: dict[str, WebSocket] = {}  # of service workers: cut off for as long as somebody holds the line to them


def _workers(driver: Chrome) -> list[WebSocket]:
    """A line to each service worker of this browser; they answer once they have been woken."""
    driver.execute_script("navigator.serviceWorker?.controller?.postMessage({ type: 'WAKE' })")
    address = driver.capabilities["goog:chromeOptions"]["debuggerAddress"]
    with urlopen(f"http://{address}/json/list") as answer:
        found = [row["webSocketDebuggerUrl"] for row in json.load(answer) if row["type"] == "service_worker"]
    for url in found:
        if url not in _SOCKETS:
            _SOCKETS[url] = create_connection(url, suppress_origin=True, timeout=30)
    return [_SOCKETS[url] for url in found]


# what is written in an element and can be seen, by the page itself: the driver's own way takes a tenth of a second a page
SHOWN = "(e) => (e.getClientRects().length ? (e.innerText ?? e.textContent) : '').replaceAll('\\u00a0', ' ')"
# redrawn, still moving, or under something that is about to go: a person would look and press again
NOT_YET = (StaleElementReferenceException, ElementNotInteractableException, ElementClickInterceptedException)
T = TypeVar("T")
WAIT_S = 15


class Page:
    """What a person does at the screen: everything is awaited, and tried again if the page was just redrawn."""

    def __init__(self, driver: Chrome, url: str) -> None:
        self.driver, self.url = driver, url

    def until(self, see: Callable[[], T], what: str) -> T:
        """Wait until `see()` gives something true; AssertionError with what the page says instead."""
        end = time.monotonic() + WAIT_S
        while time.monotonic() < end:
            try:
                if found := see():
                    return found
            except NOT_YET:
                pass
            time.sleep(0.05)
        raise AssertionError(f"never saw {what}; the page says: {self.text[:1500]}")

    @property
    def text(self) -> str:
        """All that is written on the page."""
        return str(self.driver.execute_script(f"return ({SHOWN})(document.body)"))

    def all(self, css: str) -> list[WebElement]:
        """Elements by CSS, now."""
        return self.driver.find_elements(By.CSS_SELECTOR, css)

    def one(self, css: str, text: str = "") -> WebElement:
        """The first element by CSS (holding a text), awaited."""
        script = f"return [...document.querySelectorAll(arguments[0])].find((e) => ({SHOWN})(e).includes(arguments[1]))"
        found: WebElement = self.until(lambda: self.driver.execute_script(script, css, text), f"{css} {text!r}")
        return found

    def click(self, css: str, text: str = "") -> None:
        """Press."""

        def press() -> bool:
            found = self.one(css, text)
            try:
                found.click()
            except ElementClickInterceptedException:  # under the plate or a head: a person scrolls on
                self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
                raise
            return True

        self.until(press, f"{css} {text!r} to click")

    def type(self, name: str, text: str) -> None:
        """Replace what stands in a field."""

        def press() -> bool:
            field = self.one(f"input[name={name}]")
            field.send_keys(Keys.CONTROL, "a")
            field.send_keys(text)
            return True

        self.until(press, f"{name} to type into")

    def feel(self, act: str = "Confirm safe to open") -> None:
        """The check before it is opened: can be held, hose soft, everything stands ready, confirmed."""
        self.click(".signs button", "held, both")
        self.click(".signs button", "soft")
        self.stand_ready()
        self.go(act)

    def stand_ready(self) -> None:
        """Tick what stands ready, by one tick for all where there are several."""
        asked, ready = ".ready [role=checkbox]", "[data-testid=go][aria-disabled=false]"
        self.until(lambda: self.all(asked) or self.all(ready), "what has to stand ready, or nothing")
        boxes = len(self.all(asked))
        if boxes:
            self.click(".ready [role=checkbox]", "All ready" if boxes > 1 else "")

    def go(self, act: str) -> None:
        """Press the go plate once it says this and is ready."""
        self.click("[data-testid=go][aria-disabled=false]", act)
