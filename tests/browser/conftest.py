"""The real interface in headless Chromium, against a live server with the demo depot."""

import re
import time

import pytest
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from demo import PASSWORD
from tools.browser import chromium, resize

WAIT_S = 15


@pytest.fixture(scope="session")
def django_db_modify_db_settings(tmp_path_factory):
    """A database file: the live server answers from other threads."""
    from django.conf import settings

    settings.DATABASES["default"]["TEST"]["NAME"] = str(tmp_path_factory.mktemp("db") / "browser.sqlite3")


@pytest.fixture(scope="session")
def driver():
    """One browser for all tests."""
    browser = chromium()
    yield browser
    browser.quit()


class Screen:
    """What a person does and sees."""

    def __init__(self, driver, url):
        self.driver, self.url = driver, url

    def until(self, see, what):
        """Wait until `see()` gives something true."""
        end = time.monotonic() + WAIT_S
        while time.monotonic() < end:
            try:
                if found := see():
                    return found
            except StaleElementReferenceException:
                pass
            time.sleep(0.05)
        raise AssertionError(f"never saw {what}; the page says: {self.text[:1500]}")

    def all(self, css):
        """Elements by CSS."""
        return self.driver.find_elements(By.CSS_SELECTOR, css)

    def one(self, css, text=""):
        """The first element by CSS (holding a text), awaited."""
        return self.until(lambda: next((e for e in self.all(css) if text in e.text), None), f"{css} {text!r}")

    @property
    def text(self):
        """All that is written on the page."""
        return self.driver.find_element(By.TAG_NAME, "body").text

    def sees(self, *words):
        """Wait for words."""
        for word in words:
            self.until(lambda word=word: word in self.text, repr(word))

    def open(self, path=""):
        """Go to an address."""
        self.driver.get(self.url + path)

    def click(self, css, text=""):
        """Click, again if the page was just redrawn."""

        def press():
            self.one(css, text).click()
            return True

        self.until(press, f"{css} {text!r} to click")

    def type(self, name, text):
        """Replace what stands in a field."""
        field = self.one(f"input[name={name}]")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)

    def value(self, name):
        """What stands in a field."""
        return self.one(f"input[name={name}]").get_attribute("value")

    @property
    def plate(self):
        """The go plate's words."""
        return self.one("[data-testid=go]").text

    def go(self, act):
        """Press the go plate once it says this and is ready."""
        ready = "[data-testid=go][aria-disabled=false]"
        self.until(lambda: any(act in e.text for e in self.all(ready)), f"go plate {act!r}")
        self.one(ready).click()

    def figure(self, test_id):
        """A number on show."""
        text = self.one(f"[data-testid={test_id}]").text
        return float(re.sub(r"[^\d.\-]", "", text.replace("\N{MINUS SIGN}", "-")))

    def sign_in(self, username="ines"):
        """Sign in as somebody of the demo."""
        self.open()
        self.type("username", username)
        self.type("password", PASSWORD)
        self.go("Sign in")
        self.one(".board")

    def bench(self, fleet_number):
        """From the board to a bench."""
        self.open()
        self.click(".bstrip", fleet_number)
        self.one(".bench")

    def resize(self, width, height):
        """Another page size."""
        resize(self.driver, width, height)

    def complaints(self):
        """Severe console lines other than refused requests (400, 401, 409), which are meant."""
        lines = [line["message"] for line in self.driver.get_log("browser") if line["level"] == "SEVERE"]
        return [line for line in lines if not re.search(r"status of (400|401|409)", line)]


@pytest.fixture
def screen(driver, live_server, django_db_reset_sequences):
    """A fresh depot, a fresh person at the screen."""
    from demo.depot import load

    load()
    driver.get(live_server.url + "/favicon.svg")
    driver.delete_all_cookies()
    driver.execute_script("localStorage.clear(); sessionStorage.clear()")
    resize(driver, 1280, 800)
    shown = Screen(driver, live_server.url)
    yield shown
    assert shown.complaints() == []
