"""What comes due by week, what a depot reports, where a machine can freeze tonight; common practice, no source."""

from datetime import UTC, date, datetime, timedelta

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.between.season import frost_dates, season_plan
from temper_core.job.entries import Entry, JobOpened, Voided
from temper_core.job.flush.facts import WasteKept, WasteKind
from temper_core.job.fold import at_rest
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.life.snapshot import snapshot_of
from temper_core.job.parking.facts import Parked, Parking
from temper_core.job.parking.state import (
    LoopParked,
    LowSource,
    NightLow,
    can_freeze,
    low_at,
    night_low,
    night_of,
    parking_of,
)
from temper_core.job.verify.facts import SignedOff
from temper_core.job.waiting.facts import Paused, Resumed
from temper_core.job.waiting.state import TimerKind, Wait, WaitKind
from temper_core.views.board.bands import Band, band_of, turn
from temper_core.views.figures import FigureKind, loop_figures
from temper_core.views.plan import PlanKind, plan_items, refill_l
from tests.core.test_ledger import NEW, a_loop, planned, pour, weighed
from tests.walks import FILLING, FINISH

POLICY = Policy()
LOOP = a_loop()
T0 = datetime(2026, 11, 2, 8, tzinfo=UTC)


def entries_of(*timed):
    """Entries of one job: (hours after T0, facts)."""
    return [
        Entry(f"e{n}", "j1", T0 + timedelta(hours=h), T0 + timedelta(hours=h), "Ines", facts, "1", n)
        for n, (h, facts) in enumerate(timed, 1)
    ]


# ---- where it is parked, and the night ------------------------------------------------------------------------------


def at(hours, where, in_hands=False):
    return LoopParked(T0 + timedelta(hours=hours), where, in_hands)


@pytest.mark.parametrize(
    ("loops", "where"),
    [
        ([], Parking.OUTDOORS),
        ([at(1, None)], Parking.OUTDOORS),  # not said
        ([at(1, Parking.INDOORS)], Parking.INDOORS),
        ([at(1, None, in_hands=True)], Parking.BAY),
        ([at(1, Parking.OUTDOORS, in_hands=True)], Parking.OUTDOORS),  # worked on in the open
        ([at(1, Parking.INDOORS), at(2, None)], Parking.OUTDOORS),  # moved since, nobody said where
        ([at(3, Parking.INDOORS), at(2, None)], Parking.INDOORS),
        ([at(3, Parking.OUTDOORS), at(2, None, in_hands=True)], Parking.BAY),  # one loop of it is in hands
    ],
)
def test_where_a_machine_stands_by_all_of_its_loops(loops, where):
    assert parking_of(loops) is where


NIGHT = NightLow(date(2026, 11, 2), -12.0, LowSource.FORECAST)


@pytest.mark.parametrize(
    ("warm_end_c", "where", "freezes"),
    [
        (-12.0, Parking.OUTDOORS, True),  # equal counts
        (-12.1, Parking.OUTDOORS, False),
        (-0.3, Parking.OUTDOORS, True),
        (-0.3, Parking.INDOORS, False),
        (2.0, Parking.INDOORS, True),
        (-0.3, Parking.BAY, False),
        (None, Parking.OUTDOORS, False),  # nothing inside, or nothing known of it
    ],
)
def test_what_can_freeze_tonight_where_it_stands(warm_end_c, where, freezes):
    assert can_freeze(warm_end_c, where, NIGHT, POLICY) is freezes


def test_without_a_night_nothing_freezes_and_a_cold_hall_is_the_depots_rule():
    assert not can_freeze(0.0, Parking.OUTDOORS, None, POLICY)
    assert can_freeze(-1.0, Parking.INDOORS, NIGHT, Policy({"hall_low_c": -5.0}))
    assert low_at(Parking.BAY, 15.0, POLICY) == 15.0  # never colder inside than outside


@pytest.mark.parametrize(
    ("given", "low", "source"),
    [
        ((-9.0, -12.0, -38.0), -9.0, LowSource.ENTERED),
        ((None, -12.0, -38.0), -12.0, LowSource.FORECAST),
        ((None, None, -38.0), -38.0, LowSource.COLDEST),
        ((0.0, -12.0, -38.0), 0.0, LowSource.ENTERED),  # nought is a low as well
    ],
)
def test_a_lead_goes_before_the_forecast_and_that_before_the_coldest(given, low, source):
    found = night_low(date(2026, 11, 2), *given)
    assert (found.low_c, found.source) == (low, source)
    assert night_low(date(2026, 11, 2), None, None, None) is None


def test_a_night_turns_over_at_noon():
    assert night_of(datetime(2026, 11, 2, 11, 59)) == date(2026, 11, 1)
    assert night_of(datetime(2026, 11, 2, 12, 0)) == date(2026, 11, 2)


def test_pausing_resuming_and_signing_off_say_where_it_is_parked():
    job = [(0, JobOpened(JobType.REFILL))]

    def parked(*more):
        return walk(LOOP, entries_of(*job, *more), POLICY).life.parked

    assert parked() == (T0, None)
    assert parked((1, Paused("lunch", Parking.INDOORS)))[1] is Parking.INDOORS
    assert parked((1, Paused("lunch")), (2, Parked(Parking.OUTDOORS)))[1] is Parking.OUTDOORS
    assert parked((1, Paused("lunch", Parking.INDOORS)), (2, Resumed())) == (T0 + timedelta(hours=2), None)


# ---- bands ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("wait", "freezes", "band"),
    [
        (Wait(WaitKind.LIMIT, TimerKind.CLEANER, T0), False, Band.ACT_NOW),
        (Wait(WaitKind.HANDS, TimerKind.WARM_UP, T0), False, Band.ACT_NOW),  # a clock rang
        (Wait(WaitKind.HANDS, TimerKind.COOLING, T0), False, Band.YOUR_TURN),  # an estimate rings nothing
        (Wait(WaitKind.HANDS, None, T0), False, Band.YOUR_TURN),
        (Wait(WaitKind.COUNTING, TimerKind.BLEED, None, T0), False, Band.RUNNING),
        (Wait(WaitKind.COOLING, TimerKind.COOLING, None, T0), False, Band.COOLING),
        (Wait(WaitKind.PAUSED, None, T0), False, Band.PAUSED),
        (Wait(WaitKind.PAUSED, None, T0), True, Band.ACT_NOW),
    ],
)
def test_each_loop_is_in_the_band_of_what_it_asks_for(wait, freezes, band):
    assert band_of(wait, can_freeze=freezes) is band


def test_what_is_passed_goes_before_what_will_freeze_and_the_longest_wait_first():
    later = T0 + timedelta(minutes=5)
    rows = [
        (Band.ACT_NOW, Wait(WaitKind.LIMIT, TimerKind.CLEANER, later)),
        (Band.ACT_NOW, Wait(WaitKind.PAUSED, None, T0)),
        (Band.YOUR_TURN, Wait(WaitKind.HANDS, None, T0)),
        (Band.YOUR_TURN, Wait(WaitKind.HANDS, None, later)),
        (Band.PAUSED, Wait(WaitKind.PAUSED, None, T0)),
    ]
    assert sorted([*rows[2:], *rows[:2]], key=lambda row: turn(*row)) == rows


# ---- the plan -------------------------------------------------------------------------------------------------------

SIGNED = entries_of(
    (0, JobOpened(JobType.REFILL)),
    (1, planned()),
    (2, weighed(24.5)),
    *((3, facts) for facts in FILLING),
    (4, FINISH),
    (5, SignedOff("proven", "for the test")),
)


def plan(now, until, frost=False):
    """What the loop asks for, signed off at T0 and five hours."""
    snapshot = snapshot_of(walk(LOOP, SIGNED, POLICY))
    dates = frost_dates(now.date(), POLICY)
    asks = (dates, season_plan(-5.0, LOOP.coldest_c, False, dates)) if frost else None
    rest = at_rest(LOOP, [], snapshot, POLICY, now)
    return list(plan_items(LOOP, rest, T0.date(), now, until, POLICY, asks))


def test_checks_come_with_their_minutes_and_a_service_with_its_litres():
    """A third of the filling is of unknown age: as long as nobody knows, its service is due today."""
    items = {item.kind: item for item in plan(T0 + timedelta(days=1), T0.date() + timedelta(days=30))}
    assert set(items) == {PlanKind.SERVICE, PlanKind.LEVEL_CHECK, PlanKind.READING}
    assert items[PlanKind.LEVEL_CHECK].hours == pytest.approx(0.1)  # six minutes
    assert items[PlanKind.READING].coolant_l == 0.0
    service = items[PlanKind.SERVICE]
    assert (service.due_on, service.hours) == (T0.date() + timedelta(days=1), pytest.approx(1.0))  # 20 min, 40 min
    assert service.coolant_l == pytest.approx(refill_l(LOOP))
    assert service.coolant_l > 0


def test_an_item_keeps_its_key_while_its_loop_goes_on_being_due():
    first = {item.kind: item.key for item in plan(T0 + timedelta(days=1), T0.date() + timedelta(days=2200))}
    later = {item.kind: item.key for item in plan(T0 + timedelta(days=3), T0.date() + timedelta(days=2200))}
    assert first == later


def test_frost_is_due_when_it_begins_or_today():
    now = T0 + timedelta(days=1)
    items = [item for item in plan(now, now.date() + timedelta(days=30), frost=True) if item.kind is PlanKind.FROST]
    assert [(item.due_on, item.overdue) for item in items] == [(now.date(), True)]
    assert list(plan_items(LOOP, None, T0.date(), now, now.date(), POLICY)) == []


# ---- figures --------------------------------------------------------------------------------------------------------


def test_litres_waste_hours_and_verdicts_are_summed_by_month_and_what_was_taken_back_counts_nothing():
    entries = entries_of(
        (0, JobOpened(JobType.REFILL)),
        (1, pour(NEW, 3.0, 1.0)),
        (2, pour(NEW, 9.0, 9.0)),
        (2.5, Voided("e3", "typed twice")),
        (3, Paused("lunch")),
        (5, Resumed()),
        (6, WasteKept(WasteKind.OLD_COOLANT, 12.0, 1)),
        (24 * 30, SignedOff("proven")),
    )
    found = {(row.month.month, row.kind, row.of): row.value for row in loop_figures(entries, T0, UTC)}
    assert found == {
        (11, FigureKind.COOLANT, NEW.name): 3.0,
        (11, FigureKind.COOLANT, "water"): 1.0,
        (11, FigureKind.WASTE, "old_coolant"): 12.0,
        (12, FigureKind.JOBS, "proven"): 1,
        (12, FigureKind.HOURS, ""): pytest.approx(24 * 30 - 2),
    }
    assert loop_figures(entries, T0 + timedelta(days=60), UTC) == []
    assert {row.kind for row in loop_figures(entries, T0 + timedelta(days=20), UTC)} == {FigureKind.JOBS, FigureKind.HOURS}
