"""Make docs/screenshots/ from the demo data, in headless Chromium, with a server and a database of its own."""

from __future__ import annotations

import contextlib
import os
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from demo import PASSWORD
from tools.browser import Page, chromium, cut_network, resize

ROOT = Path(__file__).resolve().parent.parent
OUT = ROOT / "docs" / "screenshots"
BENCH, PHONE = (1280, 800), (390, 844)


class Camera(Page):
    """A browser at the demo depot."""

    def open(self, path: str, size: tuple[int, int] = BENCH) -> None:
        """An address at a size."""
        resize(self.driver, *size)
        self.driver.get(self.url + path)
        self.one("#work")

    def loop(self, fleet_number: str) -> str:
        """The address of a machine's first loop, as the list of machines knows it."""
        script = (
            "const [number, done] = arguments; fetch('/api/machines').then((r) => r.json()).then((d) =>"
            " done(d.machines.find((c) => c.machine.fleet_number === number).loops[0].id))"
        )
        return f"/loops/{self.driver.execute_async_script(script, fleet_number)}"

    def take(self, name: str) -> None:
        """The picture, once everything has come to rest."""
        time.sleep(1.2)
        self.driver.save_screenshot(str(OUT / f"{name}.png"))
        print(f"shots: {name}.png")


def sign_in(c: Camera, who: str) -> None:
    """Another person of the demo."""
    c.driver.delete_all_cookies()
    c.driver.get(c.url)
    c.type("username", who)
    c.type("password", PASSWORD)


def look_at_it(c: Camera) -> None:
    """Board, machines, what is in it and what may go in."""
    sign_in(c, "ines")
    c.go("Sign in")
    c.one(".bstrip")
    c.take("board")
    c.open("/machines")
    c.one(".looprow")
    c.open("/shelf")
    c.one(".canrow")
    c.take("shelf")
    c.open(c.loop("R-02"))
    c.click(".choice", "Longhaul N")
    c.take("identify")
    c.open(c.loop("V-31"))
    c.go("Next: sample")
    c.go("Check it is safe")
    c.feel()
    c.click(".samplepanel button", "At the neck")
    c.click(".samplepanel .opt", "Sand-like rust")
    c.one(".drafted")
    c.take("inspect")
    c.open(c.loop("W-05") + "/history")
    c.one(".MuiLineChart-line")
    c.one(".lifefigure")
    c.take("history")


def rinse_it(c: Camera) -> None:
    """Rounds with a reading, and the methods for what is left to do."""
    c.open(c.loop("T-22"))
    c.go("Resume job")
    c.one(".signs")
    c.feel()
    c.type("gross-A-0", "8.4")
    c.type("tare-A-0", "1.3")
    c.one(".drainleft")
    c.go("Record")
    c.click(".jarpanel .opt", "Slight haze")
    c.go("Record jar")
    c.one("[data-testid=go]", "Fill for")
    c.click(".panelpick button", "Methods")
    c.one(".flushmethods")
    c.take("flush")


def work_on_it(c: Camera) -> None:
    """From the mix to the proof."""
    c.open(c.loop("G-07"))
    c.type("target", "-45")
    c.one(".facts", "Expect")
    c.take("mix")
    c.one(".facts", "protects to about")
    c.go("Accept this mix")
    tick(c, ".closing [role=checkbox]")
    c.go("tight")
    c.type("product", "5.6")
    c.type("water", "4.4")
    c.click(".poursides button", "demineralised")
    c.go("Record 5.6")
    c.one("[data-testid=slip]")
    c.take("fill")
    c.click("[role=checkbox]", "cold mark")
    c.go("Record")
    c.click(".under button", "dry")
    c.go("Dry")
    c.click(".key", "Bled without guided steps")
    for sign in ("Heater blows hot", "Bottom hose hot"):
        c.click(".closing [role=checkbox]", sign)
    c.go("The air is out")
    c.one("[role=checkbox][aria-checked=true]", "after a hot run")
    c.type("sample", "20")
    c.type("value", "-46.6")
    c.go("Check it is safe")
    c.feel()
    for value in ("-46.6", "-46.2"):
        c.type("value", value)
        c.go("Record")
        c.one(".readings li", value.replace("-", "\N{MINUS SIGN}"))
    c.type("value", "-46.4")
    c.one("[data-testid=verdict]")
    c.take("verify")
    c.open(c.loop("B-14"))
    c.one(".signs")
    c.feel()
    c.type("gross-A-0", "14,9")
    c.type("tare-A-0", "1,3")
    c.one(".drainleft")
    c.take("drain")


def come_back_to_it(c: Camera) -> None:
    """The sheet of a signed job, and a recheck on a phone."""
    c.open(c.loop("S-12") + "/sheet")
    c.one(".plainwords")
    c.take("sheet")
    c.open(c.loop("S-12") + "/check", PHONE)
    c.one("[data-testid=due]")
    c.click(".lookpage button", "low")
    c.type("topped", "0.4")
    c.click(".lookpage button", "demineralised water")
    c.click(".lookpage button", "now at the mark")
    c.go("Check it is safe")
    c.feel()
    c.one("[data-testid=diluted]")
    c.take("check-phone")


def tick(c: Camera, css: str) -> None:
    """Every box there is."""
    c.one(css)
    for box in c.all(css):
        if not box.text.startswith("All "):
            box.click()


def colours(c: Camera, choice: str) -> None:
    """Light or dark, from the menu."""
    c.click(".youkey")
    c.click(".you .MuiToggleButton-root", choice)
    c.click(".MuiBackdrop-root")


def lead_it(c: Camera) -> None:
    """What leads keep: readings, instruments, products, rules, the plan."""
    sign_in(c, "maud")
    c.go("Sign in")
    c.one(".board")
    c.open("/readings?view=together")
    c.one(".MuiScatterChart-series, .compared")
    c.take("readings")
    colours(c, "Dark")
    c.open("/instruments")
    c.click(".pick button", "Glass 3")
    c.one(".MuiLineChart-line, .MuiChartsAxis-line")
    c.take("instruments")
    colours(c, "Light")
    c.open("/getting-started")
    c.one(".startsteps")
    c.take("getting-started")
    c.open("/machines/new")
    c.type("number", "AB 12 CDE")
    c.click(".kinds .opt", "Van")
    c.click(".capacityfrom button", "Not known")
    c.driver.execute_script("window.scrollTo(0, 0)")
    c.take("take-in")


def at_machine(c: Camera, *keys: str) -> None:
    """Acts at the practice machine, one after the other; "+" lets time pass."""
    for key in keys:
        seen = c.one(".practiceband time").get_attribute("datetime")
        where = ".atmachine [aria-label=Time] .key" if key.startswith("+") else ".atmachine .key"
        c.click(where, key.removeprefix("+"))
        c.until(partial(moved_on, c, seen), key)


def moved_on(c: Camera, seen: str | None) -> bool:
    """Whether the clock of practice shows another time."""
    return c.one(".practiceband time").get_attribute("datetime") != seen


def practise(c: Camera) -> None:
    """A lesson with its trap, and the truth of it."""
    sign_in(c, "ines")
    c.go("Sign in")
    c.one(".bstrip")
    c.open("/practice")
    c.click("[aria-label='Begin: First level check']")
    c.one(".atmachine")
    at_machine(c, "Open the cap", "+1 h", "+1 h", "+1 h", "Look at the level")
    c.click(".atmachine header .key")
    c.click(".looprow .key", "Start job")
    c.click(".startjob .opt", "Top up")
    c.one(".bench")
    c.click(".choice", "Winterline O\n")
    c.go("Choose Winterline O")
    c.click(".panelpick button", "Decide")
    c.one("[data-testid=advice]")
    c.click(".leftout button", "no time")
    c.go("as advised")
    c.feel()
    c.click(".practiceband .key", "To the machine")
    at_machine(c, "Fill to the cold mark")
    c.click(".atmachine header .key")
    c.type("product", "0.4")
    c.type("water", "0.4")
    c.click(".poursides button", "demineralised")
    c.click("[role=checkbox]", "cold mark")
    c.go("Record")
    c.click(".practiceband .key", "To the machine")
    at_machine(c, "Take a sample", "+20 min", "Look at the sample")
    c.one(".eyepiece")
    c.take("practice")
    c.click(".practiceband .key", "Finish")
    c.click(".dialogframe .key", "Finish and see")
    c.one(".truthtable")
    c.take("truth")


TAKEN_ALONG = """
const done = arguments[0];
caches.open('temper-core').then((cache) => cache.keys()).then((files) =>
  done(files.length >= 7 && localStorage.getItem('temper.kit-of') !== null && navigator.serviceWorker.controller !== null));
"""


def go_out(c: Camera) -> None:
    """A tablet that took its kit along, and the network goes."""
    sign_in(c, "ines")
    c.go("Sign in")
    c.one(".board")
    c.until(lambda: c.driver.execute_async_script(TAKEN_ALONG), "the kit to be taken along")
    page = c.loop("D-17")
    cut_network(c.driver, True)
    c.driver.get(c.url + page)
    for _ in range(4):  # the calculator starts
        with contextlib.suppress(AssertionError):
            c.one(".bench")
            break
    c.until(lambda: "starting" not in c.one("[data-testid=offlinebar]").text, "the calculator")
    c.click(".shelfkeys .key", "Pause job")
    c.click("[role=dialog] .key", "Pause job")
    c.go("Resume job")
    c.until(lambda: "2 wait" in c.one("[data-testid=offlinebar]").text, "both to wait")
    c.one("input[name=value]")
    c.take("offline")


def tour(c: Camera) -> None:
    """Every main view once, in the order of the job."""
    look_at_it(c)
    rinse_it(c)
    work_on_it(c)
    come_back_to_it(c)
    lead_it(c)
    practise(c)


def with_server(work: Callable[[str], None]) -> None:
    """A fresh depot behind a server on a free port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with tempfile.TemporaryDirectory() as data:
        env = {**os.environ, "TEMPER_DATA": data}
        for command in (["-m", "manage", "migrate", "-v", "0"], ["-m", "demo.load"]):
            subprocess.run([sys.executable, *command], cwd=ROOT, env=env, check=True)
        command = ["-m", "gunicorn", "config.wsgi", "--chdir", "server", "--threads", "8", "--bind", f"127.0.0.1:{port}"]
        server = subprocess.Popen([sys.executable, *command, "--log-level", "warning"], cwd=ROOT, env=env)
        try:
            for _ in range(600):
                with socket.socket() as probe:
                    if probe.connect_ex(("127.0.0.1", port)) == 0:
                        break
                time.sleep(0.1)
            work(f"http://127.0.0.1:{port}")
        finally:
            server.terminate()
            server.wait()


def main() -> None:
    """Take all pictures."""
    OUT.mkdir(parents=True, exist_ok=True)
    for old in OUT.glob("*.png"):
        old.unlink()

    def work(url: str) -> None:
        driver = chromium(*BENCH)
        try:
            tour(Camera(driver, url))
        finally:
            driver.quit()
        driver = chromium(*BENCH, kit=True)
        try:
            go_out(Camera(driver, url))
        finally:
            driver.quit()

    with_server(work)


if __name__ == "__main__":
    main()
