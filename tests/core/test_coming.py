"""What a loop at rest asks for: common practice, no source; dates and litres are each case's own."""

from dataclasses import replace
from datetime import timedelta

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.between.season import Season, frost_dates
from temper_core.job.between.state import RecheckWhy
from temper_core.job.fold import at_rest
from temper_core.job.ledger import walk
from temper_core.job.life.snapshot import snapshot_of
from temper_core.job.read.facts import Place, Read
from temper_core.views.coming import FORGOTTEN_DAYS, coming, frost_asks, order
from tests.core.test_coming_back import Away
from tests.core.test_ledger import GLASS, pour


def rest_of(away, start, snapshot, now):
    """The loop at rest, at a time."""
    return at_rest(away.loop, away.entries[start:], snapshot, None, now)


@pytest.fixture
def away():
    """A loop that left, what it handed on, and how many entries it had then."""
    loop = Away()
    return loop, snapshot_of(walk(loop.loop, loop.entries, Policy())), len(loop.entries)


def test_a_check_that_is_due_is_asked_for_once_and_forgotten_after_months(away):
    loop, snapshot, start = away
    soon = coming(loop.loop, rest_of(loop, start, snapshot, loop.at), loop.at)
    assert len(soon) == 1
    later = loop.at + timedelta(days=30)
    rows = coming(loop.loop, rest_of(loop, start, snapshot, later), later)
    assert [row.overdue for row in rows if row.why] == [True]
    gone = loop.at + timedelta(days=FORGOTTEN_DAYS + 60)
    assert [row for row in coming(loop.loop, rest_of(loop, start, snapshot, gone), gone) if row.why] == []


def test_water_on_top_that_leaves_too_little_protection_is_overdue_until_it_is_mended(away):
    loop, snapshot, start = away
    loop.add(pour(None, 0, 6.0))
    rows = coming(loop.loop, rest_of(loop, start, snapshot, loop.at), loop.at)
    first = next(row for row in rows if row.why is RecheckWhy.UNPROTECTED)
    assert first.overdue
    assert "Keep indoors" in first.said.sentence
    loop.add(Read(-45.0, Place.AS_FOUND, GLASS))
    again = coming(loop.loop, rest_of(loop, start, snapshot, loop.at), loop.at)
    assert RecheckWhy.UNPROTECTED not in {row.why for row in again}


def test_frost_asks_nothing_in_summer_and_by_what_was_found_last(away):
    loop, snapshot, start = away
    rest = rest_of(loop, start, snapshot, loop.at)
    winter, summer = (frost_dates(loop.at.date().replace(month=month, day=5), Policy()) for month in (1, 7))
    assert summer.season is Season.FREE
    assert frost_asks(loop.loop, rest, -45.0, summer) is None
    assert frost_asks(loop.loop, rest, loop.loop.coldest_c - 5, winter) is None
    assert frost_asks(loop.loop, rest, -5.0, winter).loud
    loop.add(Read(-10.0, Place.AS_FOUND, GLASS))
    found = rest_of(loop, start, snapshot, loop.at)
    assert frost_asks(loop.loop, found, loop.loop.coldest_c - 5, winter).loud


def test_a_list_begins_with_what_is_overdue():
    rows = [(True, None, 1), (False, RecheckWhy.SECOND, 5), (True, RecheckWhy.SECOND, 3), (False, RecheckWhy.SECOND, 2)]
    loop = Away()
    base = coming(
        loop.loop, at_rest(loop.loop, [], snapshot_of(walk(loop.loop, loop.entries, Policy())), None, loop.at), loop.at
    )
    today = loop.at.date()
    made = [replace(base[0], overdue=late, why=why, due_on=today + timedelta(days=n)) for late, why, n in rows]
    made.sort(key=lambda row: order(row, today))
    assert [(row.overdue, row.why is None) for row in made] == [(True, False), (True, True), (False, False), (False, False)]
    assert made[2].due_on < made[3].due_on
