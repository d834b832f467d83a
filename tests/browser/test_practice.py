"""Two whole lessons at the real screens, one on a phone; the offer to a newcomer; two tabs, one of them in practice."""

import re

import pytest
from practice.models import Offered, Run

from jobs.models import Entry
from tests.browser.conftest import Screen

pytestmark = pytest.mark.browser
PHONE = (390, 844)

# what stands in the eyepiece, read as an eye does: between two figures of the scale
BY_EYE = """
const svg = document.querySelector('.eyepiece svg');
const marks = [...svg.querySelectorAll('text.glasslabel')]
  .map((e) => [parseFloat(e.textContent.replace('−', '-')), e.getBBox().y + e.getBBox().height / 2])
  .filter(([value]) => !Number.isNaN(value)).sort((a, b) => a[1] - b[1]);
const edge = [...svg.querySelectorAll('rect')].find((e) => (e.getAttribute('fill') ?? '').startsWith('url'));
const at = edge.getBBox().y + edge.getBBox().height / 2;
let i = marks.findIndex(([, y]) => y > at);
i = Math.min(Math.max(i === -1 ? marks.length - 1 : i, 1), marks.length - 1);
const [[a, ya], [b, yb]] = [marks[i - 1], marks[i]];
return a + ((at - ya) / (yb - ya)) * (b - a);
"""


class Hands:
    """Somebody who goes to the machine and comes back to the page."""

    def __init__(self, screen: Screen) -> None:
        self.screen = screen

    def do(self, key):
        """One act at the machine; the sentence of what was found."""
        s = self.screen
        before = len(s.all(".foundbefore li, .foundnow"))
        s.click(".atmachine .key", key)
        s.until(lambda: len(s.all(".foundbefore li, .foundnow")) > before, f"what came of {key}")
        return s.one(".foundnow").text

    def wait(self, label):
        """Time runs forward."""
        s = self.screen
        shown = s.one(".practiceband time").get_attribute("datetime")
        s.click(".atmachine [aria-label=Time] .key", label)
        s.until(lambda: s.one(".practiceband time").get_attribute("datetime") != shown, "the clock to run forward")

    def go(self):
        """To the machine."""
        if not self.screen.all(".atmachine"):
            self.screen.click(".practiceband .key", "To the machine")
        self.screen.one(".atmachine")

    def back(self):
        """To the page."""
        self.screen.click(".atmachine header .key", "Back to the page")
        self.screen.until(lambda: not self.screen.all(".atmachine"), "the page alone")

    def glass(self, key):
        """The glass, read by eye."""
        self.do(key)
        self.screen.one(".eyepiece")
        return self.screen.driver.execute_script(BY_EYE)


def begin(screen, lesson, size=None):
    """From the menu to the machine."""
    screen.sign_in()
    if size:
        screen.resize(*size)
    screen.open("/practice")
    screen.click(f"[aria-label='Begin: {lesson}']")
    screen.one(".atmachine")
    return Hands(screen)


def finish(screen):
    """The end, and its truth."""
    screen.click(".practiceband .key", "Finish")
    screen.click(".dialogframe .key", "Finish and see the truth")
    screen.one(".truthtable")
    return Run.objects.get()


def test_zero_the_refractometer_on_a_phone(screen):
    real = Entry.objects.count()
    hands = begin(screen, "Zero the refractometer", PHONE)
    screen.sees("A pickup before its winter tyres")
    assert "gives when squeezed" in hands.do("Feel the hoses")
    assert "the cold mark" in hands.do("Look at the level")  # at it, or a little below in one run of ten: as drawn
    water = hands.glass("Look at water")
    assert water == pytest.approx(-3, abs=1)
    hands.do("Open the cap")
    hands.do("Take a sample")
    hands.wait("20 min")
    read = hands.glass("Look at the sample")
    assert read < -25
    hands.back()
    screen.click(".tabbar .morekey")
    screen.click(".menupanel .placelist a", "Instruments")
    screen.type("zero", f"{round(water)}")
    screen.go("Record zero check")
    screen.click(".tabbar a", "Machines")
    screen.click(".looprow .key", "Start job")
    screen.click(".startjob .opt", "Check")
    screen.one(".bench")
    screen.click(".key", "Read it: safe to open first")
    screen.feel()
    screen.click(".key", "Read it now")
    screen.click(".pick .opt", "Bench glass")
    screen.type("found-sample", "20")
    screen.type("found-read", f"{round(read)}")
    screen.click(".MuiToggleButton-root", "nothing")
    screen.go("")
    screen.decide("Check", "measured, as asked")
    screen.go("Sign off the check")
    screen.sees("Signed off")
    run = finish(screen)
    screen.sees("Nothing to change.", "As found", "The trap of this lesson")
    assert (run.reached, run.unsafe) == (True, 0)
    assert Entry.objects.count() == real
    screen.click(".headtools a", "Practice")
    screen.sees("you reached its aims", "aims reached")
    screen.resize(1280, 800)


def topped_up(screen, hands):
    """A top-up, from the start of the job to its name: poured by the jug, and entered as the jug showed it."""
    screen.click(".looprow .key", "Start job")
    screen.click(".startjob .opt", "Top up")
    screen.one(".bench")
    screen.click(".choice", "Winterline O\n")
    screen.go("Choose Winterline O")
    screen.decide()
    screen.feel()
    hands.go()
    screen.choose("What", "Winterline O")
    screen.type("pour-there", "0.35")
    assert "0.35 L by the jug" in hands.do("Pour it")
    screen.choose("What", "demineralised water")
    water = float(re.search(r"(\d\.\d\d) L by the jug", hands.do("Fill to the cold mark"))[1])
    hands.back()
    screen.type("product", "0.35")
    screen.type("water", f"{water}")
    screen.demineralised()
    screen.click("[role=checkbox]", "cold mark")
    screen.go("Record")
    hands.go()
    hands.do("Close the cap")
    hands.do("Start, heater full hot")
    hands.wait("20 min")
    hands.wait("20 min")
    assert "Hot air" in hands.do("Hand at the heater")
    assert hands.do("Stop the engine").count("too hot to hold") == 2
    for _ in range(3):
        hands.wait("1 h")
    assert "gives when squeezed" in hands.do("Feel the hoses")
    hands.do("Open the cap")
    hands.do("Look at the level")
    hands.back()


def test_the_first_level_check_as_it_should_be_done(screen):
    hands = begin(screen, "First level check")
    assert "hard when squeezed" in hands.do("Feel the hoses")
    hands.wait("1 h")
    hands.wait("1 h")
    assert "gives when squeezed" in hands.do("Feel the hoses")
    assert "below the cold mark" in hands.do("Look at the level")
    hands.do("Open the cap")
    hands.back()
    topped_up(screen, hands)
    hands.go()
    water = hands.glass("Look at water")
    hands.do("Take a sample")
    hands.wait("20 min")
    read = hands.glass("Look at the sample")
    hands.back()
    screen.click("[role=checkbox]", "after a hot run")
    screen.type("zero", f"{water:.1f}")
    screen.safe_to_read(f"{round(read)}")
    screen.go("Record")
    screen.last_look()
    screen.go("Sign off")
    screen.sees("Signed off")
    run = finish(screen)
    assert (run.reached, run.unsafe) == (True, 0)
    screen.sees("Nothing to change.", "Step by step", "Rinsed once, filled with 60 %")


def test_its_trap_scalds_and_the_same_lesson_begins_again(screen):
    hands = begin(screen, "First level check")
    assert "boiled out over hands and face" in hands.do("Open the cap")
    run = finish(screen)
    assert (run.reached, run.unsafe) == (False, 1)
    screen.sees("Unsafe acts", "Wait until the cap can be held")
    screen.click(".headtools .key", "The same lesson again")
    screen.one(".atmachine")
    assert Run.objects.count() == 2


def test_practice_in_one_tab_and_the_depot_in_another(screen):
    hands = begin(screen, "The drain that leaves the block full")
    hands.back()
    practice = screen.driver.current_window_handle
    screen.driver.switch_to.new_window("tab")
    screen.open()
    screen.one(".bstrip", "G-07")
    assert not screen.all(".practiceband")
    depot = screen.driver.current_window_handle
    screen.driver.switch_to.window(practice)
    screen.click(".places a", "Board")
    screen.one(".board")
    screen.sees("Practice depot")
    assert "G-07" not in screen.text
    screen.driver.refresh()
    screen.sees("Practice depot")
    screen.click(".practiceband .key", "Leave")
    screen.one(".lesson")
    assert not screen.all(".practiceband")
    screen.sees("Go on")
    screen.click(".runrow .key", "Go on")
    screen.one(".practiceband")
    screen.driver.switch_to.window(depot)
    screen.driver.close()
    screen.driver.switch_to.window(practice)


def test_a_newcomer_is_offered_the_first_lesson_once(screen):
    Offered.objects.filter(person__username="ines").delete()
    screen.sign_in()
    screen.one(".firstlesson")
    screen.until(lambda: Offered.objects.filter(person__username="ines").exists(), "that it was offered")
    screen.click(".firstlesson .key", "Not now")
    screen.until(lambda: not screen.all(".firstlesson"), "the offer gone")
    screen.open()
    screen.one(".bstrip")
    assert not screen.all(".firstlesson")


def test_a_lead_asks_for_a_lesson_and_reads_the_record(screen):
    screen.sign_in("maud")
    screen.open("/practice")
    screen.choose("Before high-voltage loops", "two-loops")
    screen.sees("asked for before high-voltage loops")
    screen.click("summary", "Write one")
    screen.choose("Begin with the text of", "first-level-check")
    field = screen.one("textarea[name=lesson-text]")
    screen.until(lambda: "first-level-check" in field.get_attribute("value"), "the text to begin with")
    screen.click(".key", "Add the lesson")
    screen.sees("comes with Temper")
    screen.click(".headtools a", "Record")
    screen.sees("Nobody has practised yet.")
    assert screen.complaints() == []
