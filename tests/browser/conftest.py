"""The real interface in headless Chromium, against a live server with the demo depot."""

import contextlib
import re
import sqlite3
import time

import pytest
from django.db import connection
from selenium.webdriver.support.select import Select

from tests.midday import where_it_is_midday
from tests.shared_demo import put
from tests.with_django import one_hash_a_password, photos_in_a_folder_of_their_own  # noqa: F401
from tools.browser import Page, chromium, resize


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


class Screen(Page):
    """What a person of the demo does and sees."""

    def sees(self, *words):
        """Wait for words."""
        for word in words:
            self.until(lambda word=word: word in self.text, repr(word))

    def open(self, path=""):
        """Go to an address."""
        self.driver.get(self.url + path)

    def value(self, name):
        """What stands in a field."""
        return self.one(f"input[name={name}]").get_attribute("value")

    @property
    def plate(self):
        """The go plate's words."""
        return self.until(lambda: self.one("[data-testid=go]").text, "the go plate")

    def figure(self, test_id):
        """A number on show."""
        text = self.one(f"[data-testid={test_id}]").text
        return float(re.sub(r"[^\d.\-]", "", text.replace("\N{MINUS SIGN}", "-")))

    def sign_in(self, username="ines"):
        """Somebody of the demo is signed in, and at the board; how people sign in is test_first_day's."""
        from django.test import Client

        from people.models import Person

        person = Person.objects.get(username=username)
        client = Client()
        client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
        self.driver.get(self.url + "/favicon.svg")
        self.driver.add_cookie({"name": "sessionid", "value": client.cookies["sessionid"].value, "path": "/"})
        self.open()
        self.one(".board")
        self.until(lambda: "Loading …" not in self.text, "the board to be loaded")

    def bench(self, fleet_number):
        """From the board to a bench."""
        if self.driver.current_url != f"{self.url}/":
            self.open()
        self.click(".bstrip", fleet_number)
        self.one(".bench")

    def loop_page(self, fleet_number, page="", position=1):
        """The address of a loop by its machine's number."""
        from fleet.models import Loop

        loop = Loop.objects.get(machine__fleet_number=fleet_number, position=position)
        return f"/loops/{loop.id}{page}"

    def wants(self, choice):
        """Units or colours, from the menu of any page."""
        self.click(".menukey, .youkey")
        self.click(".you .MuiToggleButton-root", choice)
        self.click(".MuiBackdrop-root")
        self.until(lambda: not self.all(".menupanel"), "the menu to close")

    def choose(self, label, value):
        """One of a list, by its label."""
        field = self.one(".field.picker", label)
        Select(field.find_element("css selector", "select")).select_by_value(value)

    def find_machine(self, number):
        """The list of machines, filtered down to one of them."""
        self.open("/machines")
        self.type("find", number)
        self.until(lambda: {e.text for e in self.all(".looprow .plate")} == {number}, "one machine")

    def scan(self, code):
        """A barcode reader: the code and Enter into whatever has focus, 5 ms a key by the keyboard's own clock."""
        at = time.time()
        for n, key in enumerate([*code, "Enter"]):
            text = {"text": key, "unmodifiedText": key} if key != "Enter" else {"text": "\r"}
            for kind in ("keyDown", "keyUp"):
                given = {"type": kind, "key": key, "timestamp": at + n * 0.005} | (text if kind == "keyDown" else {})
                self.driver.execute_cdp_cmd("Input.dispatchKeyEvent", given)

    def decide(self, job_type="", reason=""):
        """From the test to what follows it: as advised, or another job with its reason; nothing more is looked at."""
        self.click(".panelpick button", "Decide")
        self.one("[data-testid=advice]")
        if job_type:
            self.click(".jobtypes .opt", job_type)
        if reason:
            self.type("against", reason)
        asked, ready = ".leftout button", "[data-testid=go][aria-disabled=false]"
        self.until(lambda: self.all(asked) or self.all(ready), "what was left out, or nothing")
        if self.all(asked):
            self.click(asked, "no time")
        self.go("against advice" if reason else "as advised")

    def to_drain(self, known=True):
        """The check before it is opened, everything ready; then the drain, its litres as known."""
        self.feel()
        self.one(".drainhead")
        if known:
            self.click(".drainhead button", "litres known")
            self.one("input[name=drained]")
            self.click(".drainhead button", "jug marks")

    def tick(self, css):
        """Tick every box there is, each by itself: not the one that stands for all of them."""
        self.one(css)
        for n in range(len(self.all(css))):
            if not self.all(css)[n].text.startswith("All "):
                self.until(lambda n=n: self.all(css)[n].click() is None, f"{css} to tick")

    def close_up(self):
        """Before fluid: everything the job opened is felt and confirmed."""
        self.tick(".closing [role=checkbox]")
        self.go("tight")

    def demineralised(self):
        """Which water went in."""
        self.click(".poursides button", "demineralised")

    def safe_to_read(self, value, sample="20"):
        """A reading is set; before it is logged somebody checks that the loop may be opened."""
        self.type("sample", sample)
        self.type("value", value)
        self.go("Check it is safe to open")
        self.feel()
        self.one("input[name=value]")

    def bleed(self, *signs):
        """Dry underneath, and two signs of whoever bled it without guided steps."""
        self.click(".under button", "dry")
        self.go("Dry underneath")
        self.click(".key", "Bled without guided steps")
        for sign in signs or ("No bubbles", "Level steady"):
            self.click(".closing [role=checkbox]", sign)
        self.go("The air is out")

    def last_look(self):
        """Level cold at the cold mark, pressure held, covers on."""
        self.go("Final check")
        self.click(".MuiToggleButton-root", "at the mark")
        self.type("level-c", "20")
        self.click(".MuiToggleButton-root", "pressure held")
        self.type("start", "100")
        self.type("fell", "0,5")
        self.type("hold-min", "10")
        self.tick(".closing [role=checkbox]")
        self.go("Record the final check")

    def service_mode_ended(self):
        """Before a high-voltage machine is signed off."""
        self.click("[role=checkbox]", "Service mode ended")

    def stop_rinsing(self, why="no time"):
        """End the flush before the rule says enough."""
        self.click(".panelpick button", "Methods")
        self.type("early", why)
        self.click(".endearly .key", "Finish flush early")

    def resize(self, width, height):
        """Another page size."""
        resize(self.driver, width, height)

    def complaints(self):
        """Severe console lines other than refused requests (400, 401, 403, 409), which are meant."""
        lines = [line["message"] for line in self.driver.get_log("browser") if line["level"] == "SEVERE"]
        return [line for line in lines if not re.search(r"status of (400|401|403|409)", line)]


def pytest_collection_modifyitems(items):
    """Tests of a clock that runs in the demo come first: it was started when the demo was loaded, once for all of them."""
    items.sort(key=lambda item: item.get_closest_marker("soon") is None)


@pytest.fixture(scope="session")
def django_db_use_migrations():
    """The demo's database comes with its tables, as the migrations make them."""
    return False


@pytest.fixture(scope="session")
def shelf(tmp_path_factory):
    """The database as the demo leaves it, kept aside: loading it again takes seconds, copying it back does not."""
    from django.conf import settings

    with contextlib.closing(sqlite3.connect(":memory:", check_same_thread=False)) as kept:
        put(tmp_path_factory, kept, settings.DATA / "photos")
        yield kept


def put_demo(shelf):
    """A fresh demo in the test database."""
    from depots.models import Depot, NightLow

    shelf.backup(connection.connection)
    Depot.objects.update(time_zone=where_it_is_midday())
    NightLow.objects.update(night=Depot.objects.get().night)  # a night turns over at noon


@pytest.fixture
def screen(driver, live_server, shelf, django_db_reset_sequences):
    """A fresh depot, a fresh person at the screen."""
    driver.get(live_server.url + "/favicon.svg")  # the last test's page asks nothing more while the depot is put back
    driver.delete_all_cookies()
    put_demo(shelf)
    driver.get_log("browser")
    driver.execute_script("localStorage.clear(); sessionStorage.clear()")
    resize(driver, 1280, 800)
    shown = Screen(driver, live_server.url)
    yield shown
    assert shown.complaints() == []


@pytest.fixture
def tablet(live_server, screen):
    """A tablet with Ines signed in and everything along. screen: for the depot of the demo."""
    from tests.browser.tablet import new_tablet

    found = new_tablet(live_server.url)
    found.sign_in()
    found.take_along()
    yield found
    found.driver.quit()


@pytest.fixture
def own_server(screen, tmp_path):
    """A server that may be killed, and somebody's session there. screen: for the depot of the demo."""
    from tests.browser.tablet import OwnServer

    server = OwnServer(tmp_path)
    server.start()
    yield server
    with contextlib.suppress(ProcessLookupError):
        server.kill()


@pytest.fixture
def far_tablet(own_server):
    """A tablet with Ines signed in at a server that may be killed."""
    from tests.browser.tablet import new_tablet

    found = new_tablet(own_server.url)
    found.sign_in_at_the_door()
    found.take_along()
    yield found
    found.driver.quit()
