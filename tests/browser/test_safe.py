"""What must never be: a hot loop opened by another door, a verdict on two bases, a record that takes the board down."""

import pytest

from jobs.board import ROWS
from jobs.models import Entry
from tests.browser.test_identify_and_inspect import new_job
from tests.browser.test_job import kinds

pytestmark = pytest.mark.browser


def test_a_hot_machine_on_the_top_up_route_is_not_opened(screen):
    screen.sign_in()
    new_job(screen, "W-02", "Top up")
    screen.click(".choice", "Winterline O\n")
    screen.go("Choose Winterline O")
    screen.decide()
    screen.sees("Safe to open?")
    screen.click(".signs button", "too hot")
    screen.click(".signs button", "hard")
    screen.stand_ready()
    screen.go("Record: not safe yet")
    screen.sees("Not safe to open.", "Too hot to hold for 5 s", "the loop is under pressure")
    assert not screen.all("input[name=product]")
    assert "poured" not in kinds("W-02")[kinds("W-02").index("signed_off") :]
    screen.feel()
    screen.one("input[name=product]")


def test_another_base_in_the_can_gives_no_verdict_and_only_a_lead_signs(screen):
    screen.sign_in()
    screen.open(screen.loop_page("C-03"))
    screen.type("target", "-20")
    screen.go("Accept this mix")
    screen.close_up()
    can = screen.one("select[name=can]")
    option = next(row for row in can.find_elements("tag name", "option") if row.text.strip() == "Winterline O")
    option.click()
    screen.type("product", "12")
    screen.type("water", "0")
    screen.click("[role=checkbox]", "cold mark")
    screen.go("Record 12.0 L poured")
    screen.bleed()
    screen.sees("Mixed bases", "no scale fits")
    screen.until(lambda: "Mixed bases: ask a lead" in screen.plate, "the plate that waits for a lead")
    assert not Entry.objects.filter(loop__machine__fleet_number="C-03", kind="signed_off").exists()


def test_a_record_that_cannot_be_worked_out_stands_on_the_board_and_is_mended_there(screen):
    entry = Entry.objects.filter(loop__machine__fleet_number="H-09").latest("seq")
    Entry.objects.filter(pk=entry.pk).update(facts={"nothing": "known"})
    ROWS.forget()  # it was altered behind the application's back
    screen.sign_in("maud")
    screen.click("[data-testid=broken]", "H-09")
    screen.sees("This record cannot be calculated.")
    screen.click(".refusal .key", "Undo last entry")
    screen.until(lambda: not screen.all(".refusal"), "the record calculated again")
    screen.open()
    screen.until(lambda: screen.one(".bstrip", "H-09"), "its strip again")
    assert not screen.all("[data-testid=broken]")
