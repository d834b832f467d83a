"""A bare data folder, one person: from the code in the terminal to a level check, on a desk and on a phone."""

import pytest
from django.core.management import call_command

from depots.models import Depot
from fleet.models import Machine
from jobs.models import Entry
from people.first_run import new_code

pytestmark = pytest.mark.browser

MOST_TO_LEVEL_CHECK, MOST_TO_TAKE_IN = 40, 12


class Counted:
    """A screen whose presses and fields are counted."""

    def __init__(self, screen):
        self.screen, self.presses, self.fields = screen, 0, 0

    def click(self, *what):
        self.presses += 1
        self.screen.click(*what)

    def go(self, *what):
        self.presses += 1
        self.screen.go(*what)

    def type(self, *what):
        self.fields += 1
        self.screen.type(*what)


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844)])
def test_from_nothing_to_a_machine_with_its_level_check(screen, width, height, capsys):
    call_command("flush", verbosity=0, interactive=False)
    screen.resize(width, height)
    one = Counted(screen)
    screen.open("/")
    screen.sees("Open this workshop")
    one.type("code", new_code())
    one.type("workshop", "Hill Farm Garage")
    one.type("coldest", "20")
    one.type("person", "Ada Hill")
    one.type("username", "ada")
    one.type("password", "rain-on-the-roof")
    screen.until(lambda: "Check the minus" in screen.plate, "the missing minus to be asked about")
    one.type("coldest", "-20")
    one.go("Open the workshop")
    screen.sees("Getting started", "What stands on the shelf")
    for step, pick in (
        ("coolants", "organic acid, concentrate"),
        ("water", "Demineralised water"),
        ("instrument", "ethylene"),
    ):
        one.click(f"[data-step={step}] button", "Add from the list")
        one.click(".addfromlist [role=checkbox]", pick)
        one.click(".addfromlist .key", "Add 1")
        screen.until(lambda: not screen.all(".addfromlist"), "the list to close")
    one.click("[data-step=coolants] a", "Enter labels")
    screen.sees("enter its label first")
    one.click(".catrow .key", "Enter label")
    one.type("glycol", "94")
    one.go("Save")
    screen.until(lambda: "enter its label first" not in screen.text, "the label to be entered")
    before = one.presses + one.fields
    screen.open("/machines/new")
    one.type("number", "AB 12 CDE")
    one.click(".kinds .opt", "Small car")
    one.click(".capacityfrom button", "Not known")
    one.click(".highvoltage button", "No")
    one.go("Take in AB 12 CDE")
    screen.sees("What is the job?")
    taken_in = one.presses + one.fields - before
    one.click(".rowkeys a", "Level check")
    screen.sees("Level check")
    with capsys.disabled():
        print(f"\n  {width}: {one.presses} presses, {one.fields} fields to the first level check; {taken_in} to take in")
    assert taken_in <= MOST_TO_TAKE_IN
    assert one.presses + one.fields <= MOST_TO_LEVEL_CHECK
    assert Depot.objects.get().coldest_c == -20
    assert Machine.objects.get().loops.get().capacity_source == "kind"
    assert not Entry.objects.exists()


def test_a_password_typed_fast_stays_where_it_was_typed(screen):
    """A password manager or a badge reader types faster than any hand."""
    screen.driver.delete_all_cookies()
    screen.open("/")
    screen.one("input[name=password]").click()
    screen.scan("snow-and-cable")
    assert "find=" not in screen.driver.current_url
    assert screen.one("input[name=password]").get_attribute("value") == "snow-and-cable"
    screen.sign_in("ines")
    screen.open("/machines/new")
    screen.one("input[name=description]").click()
    screen.scan("G-07")
    assert screen.driver.current_url.endswith("/machines/new")
    assert screen.one("input[name=description]").get_attribute("value") == "G-07"
