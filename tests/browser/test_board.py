"""The board in bands: what rings, what can freeze tonight, what others do, and how much of it fits."""

import time
from datetime import timedelta

import pytest
from django.utils import timezone

from jobs.models import Entry

pytestmark = pytest.mark.browser


def band_of(screen, number):
    """The band that a machine's row stands in; None where it has no row."""
    for band in screen.all(".band"):
        if number in [plate.text for plate in band.find_elements("css selector", ".bstrip .plate")]:
            return band.get_attribute("data-band")
    return None


def in_band(screen, number, band):
    """Wait until it stands there."""
    screen.until(lambda: band_of(screen, number) == band, f"{number} in {band}")


def test_two_alarms_and_everything_in_its_band(screen):
    screen.sign_in()
    urgent = [row.text for row in screen.all(".bstrip.urgent")]
    assert [row.split("\n")[2] for row in urgent] == ["IR-1", "T-22"]
    assert ["over limit" in urgent[0], "tonight" in urgent[1], "\u221212 °C" in urgent[1]] == [True] * 3
    assert [band.get_attribute("data-band") for band in screen.all(".band")][:3] == ["act_now", "your_turn", "running"]
    assert "Go to IR-1" in screen.plate
    rows = [row for row in screen.all(".bstrip") if row.rect["y"] + row.rect["height"] <= 800]
    assert len(rows) >= 10
    screen.resize(390, 844)
    foot = screen.one("[data-testid=go]").rect["y"]
    rows = [row for row in screen.all(".bstrip") if row.rect["y"] + row.rect["height"] <= foot]
    assert len(rows) >= 6


def test_a_clock_that_rings_is_an_alarm_until_it_is_answered(screen):
    screen.sign_in()
    in_band(screen, "G-02", "running")
    entry = Entry.objects.filter(kind="clock_started", loop__machine__fleet_number="G-02").latest("seq")
    rung = timezone.now() - timedelta(minutes=entry.facts["minutes"], seconds=5)
    Entry.objects.filter(pk=entry.pk).update(happened_at=rung)
    from jobs.board import ROWS  # an entry never changes: only a test reaches behind

    ROWS.forget()
    in_band(screen, "G-02", "act_now")  # seen without reloading
    screen.sees("warm-up over")
    screen.bench("G-02")
    screen.click(".runwatch button", "both hot")
    screen.go("Engine off")
    screen.open()
    screen.until(lambda: band_of(screen, "G-02") in ("cooling", "your_turn"), "the clock answered")


def test_where_a_paused_machine_is_parked_decides_whether_it_alarms(screen):
    screen.sign_in()
    in_band(screen, "T-22", "act_now")
    screen.bench("T-22")
    screen.click("[data-testid=parked] button", "Indoors")
    screen.one("[data-testid=parked] button[aria-pressed=true]", "Indoors")
    assert Entry.objects.filter(loop__machine__fleet_number="T-22").latest("seq").facts == {"where": "indoors"}
    screen.open()
    in_band(screen, "T-22", "paused")


def test_a_lead_enters_tonights_low(screen):
    screen.sign_in("maud")
    in_band(screen, "T-22", "act_now")
    screen.click(".night", "Tonight")
    screen.sees("No weather service is set up")
    screen.type("night-low", "9")
    screen.click("[role=dialog] .key", "Save tonight")
    in_band(screen, "T-22", "paused")
    screen.sees("entered by Maud")
    screen.until(lambda: not screen.all("[role=dialog]"), "the dialog to go")
    screen.click(".night", "Tonight")
    screen.type("night-low", "500")
    screen.click("[role=dialog] .key", "Save tonight")
    screen.one("[role=dialog] .refused, [role=dialog] .refusal")


def test_what_somebody_else_does_is_seen_within_five_seconds(screen):
    from fleet.models import Loop
    from jobs.actions import record_entries
    from jobs.entry_schemas import EntriesIn
    from people.models import Person

    screen.sign_in()
    in_band(screen, "H-09", "your_turn")
    loop = Loop.objects.get(machine__fleet_number="H-09")
    given = {"id": "0c0ffee0-0000-4000-8000-000000000009", "kind": "paused", "facts": {"note": "lunch", "parked": "bay"}}
    body = EntriesIn.model_validate({"entries": [given], "seen": None, "between": False})
    record_entries(loop, body, actor=Person.objects.get(username="tomo"))
    started = time.monotonic()
    in_band(screen, "H-09", "paused")
    assert time.monotonic() - started < 8  # 4 s between two questions, and a busy machine


def test_bands_fold_and_mine_is_mine(screen):
    screen.sign_in("tomo")
    many = len(screen.all(".bstrip"))
    screen.click(".bandhead", "Your turn")
    screen.until(lambda: len(screen.all(".bstrip")) < many, "the band to fold")
    screen.driver.refresh()
    screen.until(lambda: 0 < len(screen.all(".bstrip")) < many, "it stays folded")
    screen.click(".bandhead", "Your turn")
    screen.click(".boardhead button", "Mine")
    screen.until(lambda: {row.text for row in screen.all(".bstrip:not(.urgent) .ini")} == {"TR"}, "mine alone")
    assert len(screen.all(".bstrip.urgent")) == 2  # what must be acted on is everybody's
