"""Rules at their limits: what counts at the value that the rule names, and what one step beyond it; by arithmetic."""

from datetime import UTC, date, datetime, timedelta
from itertools import pairwise

import pytest

from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.job.between.rules import SeenAgain, rechecks
from temper_core.job.between.state import RecheckWhy
from temper_core.job.fill.rules import Convergence, judge_top_ups
from temper_core.job.flush.rules import Flushed, judge_enough
from temper_core.job.inspect.case import Case, Strength
from temper_core.job.inspect.facts import Check, Look, Sampled, Spot
from temper_core.job.inspect.facts import Tested as Made
from temper_core.job.inspect.rules import RULES
from temper_core.job.inspect.state import Weight
from temper_core.job.job_types import JobType
from temper_core.job.verify.rules import Doubted, contradiction
from temper_core.science import Glycol

POLICY = Policy()


def codes(said):
    """The codes of some messages, in order."""
    return [row.code for row in said]


# ---- top-ups of a bleed ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("litres", "capacity", "verdict"),
    [
        ([0.1], 10.0, Convergence.SETTLED),
        ([0.11], 10.0, Convergence.NOT_YET),
        ([0.3], 100.0, Convergence.SETTLED),  # 0.3 % of 100 L
        ([0.31], 100.0, Convergence.NOT_YET),
        ([1.0, 0.6], 10.0, Convergence.CONVERGING),
        ([1.0, 0.61], 10.0, Convergence.NOT_YET),
        ([1.0, 0.85], 10.0, Convergence.NOT_YET),
        ([1.0, 0.86], 10.0, Convergence.WRONG),
        ([0.05, 0.1], 10.0, Convergence.SETTLED),  # larger than before, and yet no more than a settled one
        ([2.0, 0.5, 0.45], 10.0, Convergence.WRONG),  # only the one before counts
    ],
)
def test_top_ups_are_judged_by_the_one_before(litres, capacity, verdict):
    judged = judge_top_ups(litres, capacity, POLICY)
    assert judged.verdict is verdict
    assert judged.litres == tuple(litres)
    assert judged.said.values["last_l"] == litres[-1]


@pytest.mark.parametrize("litres", [[1.0, 0.86], [1.0, 0.6]])
def test_what_is_compared_is_named(litres):
    assert judge_top_ups(litres, 10.0, POLICY).said.values["before_l"] == litres[-2]


# ---- is the flush enough --------------------------------------------------------------------------------------------


def flushed(**changes):
    """Clear, without sediment, well below every limit."""
    known = {
        "looks": (Look.CRYSTAL_CLEAR,),
        "sediment_mm": 0.0,
        "old_percent": 3.0,
        "old_high_percent": 4.9,
        "old_limit_percent": 5.0,
        "cleaner_percent": 0.0,
        "cleaner_limit_percent": None,
        "solids_mg_l": 0.0,
        "circulated": True,
    }
    return Flushed(**known | changes)


@pytest.mark.parametrize(
    ("changes", "short"),
    [
        ({}, []),
        ({"looks": (Look.CLEAN_BRIGHT,)}, []),
        ({"looks": None}, ["no_jar"]),
        ({"looks": None, "circulated": False}, ["no_jar"]),  # no jar: what it speaks for is not asked
        ({"looks": (Look.CRYSTAL_CLEAR, Look.SLIGHT_HAZE)}, ["not_clear"]),
        ({"sediment_mm": None}, []),
        ({"sediment_mm": 2.9}, []),
        ({"sediment_mm": 3.0}, ["sediment"]),
        ({"circulated": False}, ["not_circulated"]),
        ({"old_percent": 5.0}, []),
        ({"old_percent": 5.1}, ["over_limit"]),
        ({"old_percent": 60.0, "old_limit_percent": None}, []),
        ({"cleaner_percent": 1.0, "cleaner_limit_percent": 1.0}, []),
        ({"cleaner_percent": 1.1, "cleaner_limit_percent": 1.0}, ["cleaner_left"]),
        ({"cleaner_percent": 50.0}, []),
        ({"solids_mg_l": 68.0}, []),  # 20 % of 340
        ({"solids_mg_l": 68.1}, ["tap_residue"]),
    ],
)
def test_a_flush_is_enough_up_to_each_limit(changes, short):
    enough = judge_enough(flushed(**changes), POLICY)
    assert codes(enough.short) == short
    assert enough.enough is not bool(short)


@pytest.mark.parametrize(
    ("old", "sd", "noted"),
    [(4.0, 0.5, False), (4.0, 0.52, True), (5.0, 0.01, True), (5.0, 0.0, False), (5.1, 1.0, False)],
)
def test_only_just_enough_is_said_with_the_worst_it_may_be(old, sd, noted):
    notes = judge_enough(flushed(old_percent=old, old_high_percent=old + 1.96 * sd), POLICY).notes
    assert codes(notes) == (["only_just"] if noted else [])
    if noted:
        assert notes[0].values["worst_percent"] == pytest.approx(old + 1.96 * sd)  # the normal distribution's 97.5 %


def test_without_a_limit_nothing_is_only_just_enough():
    assert judge_enough(flushed(old_limit_percent=None, old_high_percent=99.0), POLICY).notes == ()


# ---- a reading against the litres -----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("read", "expected", "code"),
    [
        ((44.0, 0.6), (46.4, 0.8), None),  # hypot(0.6, 0.8) is 1: 2.4 is within 2.5
        ((44.0, 0.6), (46.6, 0.8), "weaker_than_ledger"),
        ((46.6, 0.6), (44.0, 0.8), "stronger_than_ledger"),
        ((46.4, 0.6), (44.0, 0.8), None),
    ],
)
def test_reading_and_litres_disagree_beyond_both_doubts(read, expected, code):
    said = contradiction(Doubted(*read), Doubted(*expected), Glycol.ETHYLENE, POLICY)
    assert (said.code if said else None) == code
    if said:  # the stronger freezes colder
        assert (said.values["read_c"] < said.values["expected_c"]) is (read[0] > expected[0])


# ---- checks after the job -------------------------------------------------------------------------------------------

LEFT = date(2026, 11, 2)


def seen(days, read=False):
    """A look some days after it left."""
    return SeenAgain(datetime(2026, 11, 2, 9, tzinfo=UTC) + timedelta(days=days), read)


def test_each_check_has_its_day_and_opens_before_it():
    first, second, diluted = rechecks(LEFT, LEFT + timedelta(days=2), (), LEFT)
    assert [row.why for row in (first, second, diluted)] == [RecheckWhy.FIRST, RecheckWhy.SECOND, RecheckWhy.DILUTED]
    days = [(row.due_on - LEFT).days for row in (first, second, diluted)]
    assert days == [1, 4, 9]
    assert [(row.opens_on - LEFT).days for row in (first, second, diluted)] == [0, 3, 2]


@pytest.mark.parametrize(
    ("looks", "done"),
    [
        ((), (False, False)),
        ((seen(0),), (True, False)),
        ((seen(2, read=True),), (True, False)),  # the second opens a day ahead of its date
        ((seen(3, read=True),), (True, True)),
        ((seen(3),), (True, False)),  # without a reading the second stays
        ((seen(-1, read=True),), (False, False)),
    ],
)
def test_a_look_does_what_it_saw(looks, done):
    rows = rechecks(LEFT, None, looks, LEFT + timedelta(days=3))
    assert tuple(row.done_at is not None for row in rows) == done


@pytest.mark.parametrize(
    ("days", "overdue"), [(1, (False, False)), (2, (True, False)), (4, (True, False)), (5, (True, True))]
)
def test_a_check_is_overdue_the_day_after_its_date(days, overdue):
    assert tuple(row.overdue for row in rechecks(LEFT, None, (), LEFT + timedelta(days=days))) == overdue


def test_a_loop_that_never_left_has_no_check():
    assert rechecks(None, None, (), LEFT) == ()


# ---- what a case advises --------------------------------------------------------------------------------------------


def found(**case):
    """Code and weight of every finding of a case, in the order of the rules."""
    rows = [row for rule in RULES for row in rule(Case(JobType.REFILL, **case))]
    return [(row.said.code, row.weight) for row in rows]


def hold(start, end, minutes=10.0):
    """A pressure hold."""
    return (("t", Made(Check.PRESSURE, None, {"start_kpa": start, "end_kpa": end, "minutes": minutes})),)


@pytest.mark.parametrize(
    ("tests", "code", "weight"),
    [
        (hold(100, 98), "tight", Weight.FOR),
        (hold(100, 97.9), "pressure_lost", Weight.STOPS),
        (hold(100, 99, 5.0), "tight", Weight.FOR),
        (hold(100, 99, 4.9), "held_short", Weight.HINT),
        (hold(90, 89), "tight", Weight.FOR),  # nine tenths of the cap's 100 kPa
        (hold(89.9, 89), "held_low", Weight.HINT),
    ],
)
def test_a_hold_is_judged_by_drop_time_and_the_cap(tests, code, weight):
    assert found(tests=tests, cap_gauge_kpa=100.0) == [(code, weight)]


def test_without_a_known_cap_a_low_hold_is_tight():
    assert found(tests=hold(30, 29)) == [("tight", Weight.FOR)]


@pytest.mark.parametrize(
    ("safe_c", "code", "weight"),
    [
        (-24.9, "too_weak", Weight.DECIDES),
        (-25.0, "thin_margin", Weight.HINT),
        (-29.9, "thin_margin", Weight.HINT),
        (-30.0, "may_stay", Weight.FOR),
    ],
)
def test_strength_is_judged_by_its_warm_end_and_the_margin(safe_c, code, weight):
    assert found(strength=Strength(safe_c - 2, safe_c, -25.0, 5.0)) == [(code, weight)]


def test_without_a_warm_end_the_freeze_point_is_taken():
    assert found(strength=Strength(-24.0, None, -25.0, 5.0)) == [("too_weak", Weight.DECIDES)]
    assert found(strength=Strength(None, None, -25.0, 5.0)) == []
    assert found(strength=Strength(None, None, -25.0, 5.0, past_useful=True)) == [("too_strong", Weight.DECIDES)]


def rust(*places):
    """Rust seen at these places, one sample each."""
    return tuple((f"s{n}", Sampled(place, (Look.ORANGE_RUST,))) for n, place in enumerate(places))


@pytest.mark.parametrize(
    ("places", "cleans", "first"),
    [
        ((Spot.NECK,), 0, ("dirt", Weight.HINT)),
        ((Spot.NECK, Spot.DRAIN), 0, ("rust", Weight.DECIDES)),
        ((Spot.NECK,), 1, ("rust_back", Weight.DECIDES)),
        ((Spot.NECK,), 2, ("stop_cleaning", Weight.STOPS)),
        ((Spot.NECK,), 3, ("stop_cleaning", Weight.STOPS)),
    ],
)
def test_rust_once_is_a_hint_and_after_two_cleans_stops_them(places, cleans, first):
    assert found(samples=rust(*places), cleans=cleans)[0] == first


@pytest.mark.parametrize(("height", "any_"), [(2.9, False), (3.0, True)])
def test_sediment_counts_from_its_limit_on(height, any_):
    samples = (("s", Sampled(Spot.DRAIN, (Look.CLEAN_BRIGHT,), height)),)
    assert bool(found(samples=samples)) is any_


def test_after_two_cleans_gas_decides():
    gas = {word: (("g", Made(Check.COMBUSTION_GAS, word)),) for word in ("negative", "positive")}
    clean = found(samples=rust(Spot.NECK), cleans=2, tests=gas["negative"])
    assert ("part_by_part", Weight.DECIDES) in clean
    leaks = found(samples=rust(Spot.NECK), cleans=2, tests=gas["positive"])
    assert leaks[0] == ("combustion_gas", Weight.STOPS)
    assert "part_by_part" not in dict(leaks)


@pytest.mark.parametrize(("in_c", "flat"), [(80.0, True), (80.4, True), (80.5, False)])
def test_radiator_sides_are_flat_below_the_limit(in_c, flat):
    tests = (("r", Made(Check.RADIATOR, None, {"in_c": in_c, "out_c": 75.0})),)
    assert bool(found(tests=tests)) is flat


def test_readings_that_fall_stop_until_the_loop_held_its_pressure():
    falling = say("falls", "Falls.")
    assert found(falling=falling) == [("falls", Weight.STOPS)]
    assert ("falls", Weight.HINT) in found(falling=falling, tests=hold(100, 99))
    assert ("falls", Weight.STOPS) in found(falling=falling, tests=hold(100, 90))


@pytest.mark.parametrize(
    ("case", "codes_"),
    [
        ({"known": False}, ["inside_unknown"]),
        ({"other_on_top": True}, ["mixed"]),
        ({"other_on_top": True, "known": False}, ["mixed"]),  # the mixture says more than the unknown
        ({"watered": True}, ["watered"]),
    ],
)
def test_what_was_told_of_the_filling_is_a_finding(case, codes_):
    assert [code for code, _ in found(**case)] == codes_


def test_weights_are_told_apart():
    assert all(a is not b for a, b in pairwise(Weight))
