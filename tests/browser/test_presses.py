"""How many presses a job takes: touches of the screen outside the keypad that types a figure.

The same walk took 96 before (counted then by this test): every field was touched, every point ticked by itself.
"""

import uuid

import pytest
from selenium.webdriver.common.keys import Keys

from fleet.models import Loop
from jobs.actions import record_entries
from jobs.entry_schemas import EntriesIn
from jobs.models import Entry
from jobs.queries import state_of
from people.models import Person
from tests.browser.conftest import Screen

pytestmark = pytest.mark.browser

BEFORE = 96


class Hand(Screen):
    """A hand that counts: a press on anything, and on a field that has not the cursor yet."""

    presses = 0

    def click(self, css, text=""):
        """One press."""
        self.presses += 1
        super().click(css, text)

    def type(self, name, text):
        """One press to get to the field; none where the cursor stands in it already."""
        if self.driver.execute_script("return document.activeElement?.getAttribute('name')") != name:
            self.presses += 1
        super().type(name, text)

    def figures(self, first, *texts):
        """Figures into one field after the other, by the keypad's own key for the next one."""
        self.type(first, texts[0])
        for text in texts[1:]:
            active = self.driver.switch_to.active_element
            active.send_keys(Keys.ENTER)
            self.until(lambda active=active: self.driver.switch_to.active_element != active, "the next field")
            self.driver.switch_to.active_element.send_keys(Keys.CONTROL, "a", Keys.NULL, text)


@pytest.fixture
def hand(screen):
    """Somebody at the board."""
    screen.sign_in()
    return Hand(screen.driver, screen.url)


def drain(hand):
    """The safe-to-open check, then full and empty weight at both drains."""
    hand.feel()
    hand.one("input[name=gross-A-0]:focus")
    hand.figures("gross-A-0", "24,3", "1,3", "18", "1,3")
    hand.one(".drainleft")
    hand.go("Record")


def rinse(hand, n, reading):
    """A round: filled, run hot, drained, looked at and read."""
    hand.go(f"Fill for round {n}")
    if n == 1:
        hand.click(".runwatch [role=checkbox]", "Exhaust ventilated")
    hand.click(".runwatch [role=checkbox]", "Heater on full")
    hand.go("Engine on")
    hand.click(".runwatch button", "both hot")
    hand.go("Engine off")
    drain(hand)
    hand.click(".jarpanel .opt", "Crystal clear")
    hand.figures("rinse-value", reading, "20")
    hand.go("Record jar")


def read_three_times(hand):
    """The check, the sample's temperature, three readings of one sample."""
    hand.go("Check it is safe")
    hand.feel()
    hand.one("input[name=sample]:focus")
    hand.figures("sample", "20", "-31")
    for n in (1, 2, 3):
        if n > 1:
            hand.one("input[name=value]:focus")
            hand.type("value", "-31")
        hand.go("Record")
        hand.until(lambda n=n: len(hand.all(".readings li:not(.ink2)")) == n, f"reading {n}")


def look_a_last_time(hand):
    """Level, leak test and what was put back."""
    hand.go("Final check")
    hand.click(".MuiToggleButton-root", "at the mark")
    hand.one("input[name=level-c]:focus")
    hand.type("level-c", "20")
    hand.click(".MuiToggleButton-root", "pressure held")
    hand.one("input[name=start]:focus")
    hand.figures("start", "60", "0.5", "10")
    hand.click(".closing [role=checkbox]", "All done")
    hand.go("Record the final check")


def change_type_of_r02(hand):
    """The whole job, from the board to the sign-off, with two rinses."""
    hand.click(".bstrip", "R-02")
    hand.type("found", "-12")
    hand.click(".choice", "Longhaul N")
    hand.go("Choose Longhaul N")
    hand.decide()
    drain(hand)
    rinse(hand, 1, "-2")
    rinse(hand, 2, "-0.4")
    hand.go("Finish flush")
    hand.one("[data-testid=concentrate]")
    hand.go("Accept")
    hand.click(".closing [role=checkbox]", "All checked by hand")
    hand.go("tight")
    hand.demineralised()
    hand.click("[role=checkbox]", "cold mark")
    hand.go("Record")
    hand.click(".under button", "dry")
    hand.go("Dry underneath")
    hand.click(".key", "Bled without guided steps")
    for sign in ("Heater blows hot", "Bottom hose hot", "No bubbles", "Level steady"):
        hand.click(".closing [role=checkbox]", sign)
    hand.go("The air is out")
    read_three_times(hand)
    look_a_last_time(hand)
    hand.go("Sign off")
    hand.sees("Signed off")


def test_a_change_of_type_with_two_rinses_takes_a_quarter_fewer_presses(hand):
    change_type_of_r02(hand)
    print(f"{hand.presses} presses, {BEFORE} before")
    assert hand.presses <= 0.75 * BEFORE


def test_a_level_that_is_seen_from_outside_takes_one_press(hand):
    hand.open("/machines?show=due")
    hand.one(".looprow")
    hand.presses = 0
    hand.click(".looprow .key[aria-label^='Level at mark: W-02']")
    hand.until(lambda: Entry.objects.filter(loop__machine__fleet_number="W-02", kind="level_seen").count() == 1, "the level")
    assert hand.presses == 1
    hand.click(".undobar .key", "Undo")
    hand.one(".looprow .key[aria-label^='Level at mark: W-02']")


def read_weak(fleet_number):
    """Somebody read the loop between services, and it is too weak for here."""
    loop = Loop.objects.get(machine__fleet_number=fleet_number, position=1)
    person = Person.objects.get(username="ines")
    state = state_of(loop, loop.machine.depot.policy)
    ready = [row.ready for row in state.gate.asked]
    signs = {"warmth": "hand", "held": True, "pressure": "hose", "soft": True, "ready": ready}
    signs["isolated_by_id"] = Person.objects.get(username="tomo").pk
    glass = loop.machine.depot.instruments.get(name="Glass 3")
    read = {"value": -20.0, "place": "as_found", "instrument_id": glass.id, "sample_c": 20.0}
    rows = [("gate_observed", signs), ("read", read)]
    entries = [{"id": uuid.uuid4(), "kind": kind, "facts": facts} for kind, facts in rows]
    record_entries(loop, EntriesIn.model_validate({"entries": entries, "between": True}), actor=person)


def test_the_advised_job_starts_with_one_press_from_its_row(hand):
    read_weak("S-12")
    hand.open("/machines?show=due")
    hand.one(".looprow")
    hand.presses = 0
    hand.click(".looprow .key", "Start: adjust strength")
    hand.one(".bench")
    assert hand.presses == 1
    assert (
        Entry.objects.filter(loop__machine__fleet_number="S-12").latest("recorded_at").facts["job_type"] == "adjust_strength"
    )


def test_a_plate_that_waits_leads_to_what_it_waits_for(hand):
    hand.bench("R-02")
    hand.click(".choice", "Old Guard S")
    hand.go("Choose Old Guard S")
    hand.decide()
    hand.one(".signs")
    hand.click("[data-testid=go][aria-disabled=true]", "Check cap")
    hand.until(lambda: hand.driver.switch_to.active_element.text == "held, both", "the first sign")
    hand.feel()
    hand.one(".drainhead")
    hand.type("gross-A-0", "ten")
    hand.one("input[name=tare-A-0]").click()
    hand.click("[data-testid=go][aria-disabled=true]", "Fix")
    hand.one("input[name=gross-A-0]:focus")
