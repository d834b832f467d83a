"""Step testers, repeats of one sample, zero checks, two instruments on the same samples."""

import statistics
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.instruments import Edge, ReadingQuestion, Scale
from temper_core.instruments.agreement import Pair, agreement
from temper_core.instruments.sameness import judge_sameness
from temper_core.instruments.steps import StepTester, read_steps
from temper_core.instruments.zero import ZeroCheck, zero_state
from temper_core.science import Glycol, density_20c, freeze_point, mass_fraction_at_freeze, mass_fraction_of
from tests.core.test_ledger import filled, read

BALLS = StepTester(Glycol.ETHYLENE, (-7.0, -12.0, -18.0, -23.0, -30.0))
NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)


# ---- step testers -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("steps", "interval"),
    [(0, (None, -7.0)), (1, (-7.0, -12.0)), (3, (-18.0, -23.0)), (5, (-30.0, None))],
)
def test_so_many_steps_are_an_interval_and_never_a_value(steps, interval):
    """A step tester only says 'at least': common practice, no source."""
    reading = read_steps(BALLS, steps, Glycol.ETHYLENE)
    assert (reading.at_least_c, reading.not_to_c) == interval
    assert reading.flags[0].code == "at_least"


def test_one_third_lies_inside_its_interval_and_not_at_its_end():
    """One third is about -18 degC, and coarse testers flatter it as -23: common practice, no source."""
    third = freeze_point(Glycol.ETHYLENE, mass_fraction_of(Glycol.ETHYLENE, VolumePercent(100 / 3))).freeze_c
    shown = sum(third <= mark for mark in BALLS.freezes_c)
    reading = read_steps(BALLS, shown, Glycol.ETHYLENE)
    assert reading.not_to_c < third <= reading.at_least_c
    assert reading.low_percent <= 100 / 3 < reading.high_percent


@given(st.floats(0, 50), st.sampled_from(list(Glycol)))
def test_the_interval_always_holds_the_loop_it_was_taken_from(percent, glycol):
    """Balls float where the solution is at least as dense as the step: the tester simulated through the densities."""
    loop = density_20c(glycol, mass_fraction_of(glycol, VolumePercent(percent)))
    marks = [density_20c(Glycol.ETHYLENE, mass_fraction_at_freeze(Glycol.ETHYLENE, c)) for c in BALLS.freezes_c]
    reading = read_steps(BALLS, sum(loop >= mark for mark in marks), glycol)
    assert reading.low_percent is None or reading.low_percent <= percent + 1e-6
    assert reading.high_percent is None or percent <= reading.high_percent + 1e-6


def test_the_wrong_glycol_is_converted_through_the_density_and_flagged():
    reading = read_steps(BALLS, 1, Glycol.PROPYLENE)
    assert "other_scale" in {flag.code for flag in reading.flags}
    w = mass_fraction_at_freeze(Glycol.PROPYLENE, reading.at_least_c)
    ethylene = density_20c(Glycol.ETHYLENE, mass_fraction_at_freeze(Glycol.ETHYLENE, -7.0))
    assert density_20c(Glycol.PROPYLENE, MassFraction(w)) == pytest.approx(ethylene, rel=1e-5)


def test_propylene_as_dense_as_a_late_step_is_not_told_a_number():
    reading = read_steps(BALLS, 4, Glycol.PROPYLENE)
    assert (reading.at_least_c, reading.not_to_c) == (None, None)
    assert "density_flat" in {flag.code for flag in reading.flags}


def test_a_coarse_step_and_a_cold_sample_are_said():
    coarse = StepTester(Glycol.ETHYLENE, (-10.0, -35.0))
    codes = {flag.code for flag in read_steps(coarse, 1, Glycol.ETHYLENE, sample_c=4.0).flags}
    assert {"wide", "outside_compensation"} <= codes
    assert "all_steps" in {flag.code for flag in read_steps(coarse, 2, Glycol.ETHYLENE).flags}
    assert "no_step" in {flag.code for flag in read_steps(coarse, 0, Glycol.ETHYLENE).flags}


@pytest.mark.parametrize("marks", [(), (-10.0, -10.0), (-20.0, -10.0), (5.0,), (-60.0,), tuple(range(0, -13, -1))])
def test_a_table_that_cannot_be_is_refused(marks):
    with pytest.raises(CoreError):
        StepTester(Glycol.ETHYLENE, tuple(float(c) for c in marks))


@pytest.mark.parametrize(("steps", "sample_c"), [(-1, 20), (6, 20), (2, 80)])
def test_a_count_that_cannot_be_is_refused(steps, sample_c):
    with pytest.raises(CoreError):
        read_steps(BALLS, steps, Glycol.ETHYLENE, sample_c)


# ---- repeats ------------------------------------------------------------------------------------------------------


def rows(*values, division=1.0):
    """Readings of one sample."""
    return [ReadingQuestion(Glycol.ETHYLENE, Scale.FREEZE_ETHYLENE, v, zero=0.0, resolution=division) for v in values]


@pytest.mark.parametrize(
    ("values", "outlier", "one_more"),
    [
        ((-44.0, -45.0, -44.0), None, False),
        ((-44.0, -47.0), None, True),
        ((-44.0, -45.0, -38.0), 2, True),
        ((-38.0, -44.0, -45.0), 0, True),
        ((-40.0, -44.0, -48.0), None, True),
        ((-10.0, -11.0, -10.0), None, False),
    ],
)
def test_an_outlier_is_named_where_the_others_agree(values, outlier, one_more):
    found = judge_sameness(rows(*values), Policy())
    assert (found.outlier, found.one_more) == (outlier, one_more)


def test_divisions_are_counted_where_the_line_stands():
    """Degrees crowd towards the cold: one division of a degree is one division anywhere on the scale."""
    for at in (-5.0, -25.0, -45.0):
        assert judge_sameness(rows(at, at - 1.0), Policy()).range_divisions == pytest.approx(1.0, abs=0.06)


def test_rounding_alone_names_no_outlier():
    """20,000 seeded threes of one true line, each read to the nearest division: none is named, none asked for again."""
    rng = np.random.default_rng(3)
    for true in rng.uniform(-45, -5, 200):
        values = np.round(true + rng.uniform(-0.5, 0.5, (100, 3)))
        for three in {tuple(row) for row in values}:
            found = judge_sameness(rows(*three), Policy())
            assert found.outlier is None
            assert not found.one_more


def test_fewer_than_two_on_the_scale_say_nothing():
    assert judge_sameness(rows(-44.0, -70.0), Policy()) is None


@pytest.mark.parametrize(("edge", "code"), [(Edge.SOFT, "blurred"), (Edge.TWO_LINES, "two_lines")])
def test_a_line_that_is_not_sharp_is_kept_flagged_and_not_counted(edge, code):
    """A blurred line: dirty or oily sample, reject: common practice, no source."""
    book = filled()
    sharp = book.add(read(-46.6), read(-46.4))
    state_ = book.add(read(-30.0, edge=edge))
    assert state_.readings[-1].answer.flags[0].code == code
    assert state_.repeats == sharp.repeats
    assert state_.proof.verdict == sharp.proof.verdict


# ---- zero ---------------------------------------------------------------------------------------------------------


def checks(*rows_):
    """Days ago, value, whether it was then set."""
    return [ZeroCheck(NOW - timedelta(days=days), value, adjusted=set_) for days, value, set_ in rows_]


def state(*rows_):
    """The zero of a glass with an ethylene scale."""
    return zero_state(Scale.FREEZE_ETHYLENE, 0.5, checks(*rows_), NOW, Policy())


def test_a_zero_out_of_tolerance_puts_in_doubt_what_was_read_since_the_last_good_one():
    found = state((30, -0.2, False), (12, -0.4, False), (1, -2.0, False))
    assert not found.good
    assert found.doubtful_since == NOW - timedelta(days=12)
    assert found.zero == -2.0
    assert found.said.code == "zero_off"


@pytest.mark.parametrize(
    ("given_", "code", "overdue"),
    [
        (((1, -0.3, False),), "zero_good", False),
        (((8, -0.3, False),), "zero_due", True),
        (((1, -2.0, True),), "zero_set", False),
        ((), "zero_never", True),
    ],
)
def test_a_zero_is_good_due_set_or_was_never_taken(given_, code, overdue):
    found = state(*given_)
    assert (found.said.code, found.overdue) == (code, overdue)
    if code == "zero_set":
        assert found.zero == 0.0
        assert found.doubtful_since is None


def test_the_drift_is_scipys_slope_since_it_was_last_set():
    given_ = ((90, -1.5, True), (60, 0.0, False), (40, -0.2, False), (20, -0.5, False), (2, -0.6, False))
    found = state(*given_)
    off = [point.off_k for point in found.points[1:]]
    months = [(60 - days) / 30.4375 for days in (60, 40, 20, 2)]
    fit = stats.linregress(months, off)
    assert found.drift_k_month == pytest.approx(fit.slope)
    assert found.drift_half == pytest.approx(stats.t.ppf(0.975, 2) * fit.stderr, rel=1e-3)
    assert off[-1] == pytest.approx(-0.6, abs=0.02)  # at zero a degree of the scale is a kelvin


def test_two_checks_make_no_drift():
    assert state((9, 0.0, False), (1, -0.3, False)).drift_k_month is None


# ---- two instruments ----------------------------------------------------------------------------------------------


def test_bias_and_limits_are_bland_and_altmans():
    """Against NumPy and SciPy on seeded pairs."""
    rng = np.random.default_rng(11)
    truth = rng.uniform(20, 55, 24)
    first, second = truth + rng.normal(1.6, 0.5, 24), truth + rng.normal(0, 0.5, 24)
    found = agreement([Pair(a, b) for a, b in zip(first, second, strict=True)])
    d = first - second
    assert found.bias == pytest.approx(d.mean())
    assert found.sd == pytest.approx(d.std(ddof=1))
    assert (found.low, found.high) == (
        pytest.approx(d.mean() - stats.norm.ppf(0.975) * d.std(ddof=1)),
        pytest.approx(d.mean() + stats.norm.ppf(0.975) * d.std(ddof=1)),
    )
    low, high = stats.t.interval(0.95, 23, d.mean(), stats.sem(d))
    assert found.bias_half == pytest.approx((high - low) / 2, rel=0.005)
    assert found.disagrees


def test_one_instrument_that_agrees_is_not_blamed_and_two_samples_say_nothing():
    pairs = [Pair(40.0, 40.4), Pair(35.2, 34.9), Pair(51.0, 51.2)]
    assert not agreement(pairs).disagrees
    assert agreement(pairs[:2]) is None
    assert pairs[0].mean == statistics.mean([40.0, 40.4])


def test_two_instruments_on_one_sample_agree_or_nobody_can_tell_which_is_right():
    """-36.7 degC of ethylene glycol is 31.1 Brix (index 1.3836; the scale's own polynomial)."""
    glass = ReadingQuestion(Glycol.ETHYLENE, Scale.FREEZE_ETHYLENE, -36.7, zero=0.0)
    brix = [ReadingQuestion(Glycol.ETHYLENE, Scale.BRIX, value, zero=0.0, resolution=0.2) for value in (31.4, 36.0)]
    agree = judge_sameness([glass, brix[0]], Policy())
    assert (agree.said.code, agree.one_more) == ("instruments_agree", False)
    apart = judge_sameness([glass, brix[1]], Policy())
    assert (apart.said.code, apart.one_more) == ("instruments_apart", True)


def test_two_glasses_of_one_make_are_two_instruments():
    """Alike in scale and division, they do not share a zero: what they say apart is no scatter of one of them."""
    rows = [ReadingQuestion(Glycol.ETHYLENE, Scale.FREEZE_ETHYLENE, value, zero=0.0) for value in (-36.0, -36.5, -27.0)]
    assert judge_sameness(rows, Policy(), ["a", "a", "b"]).apart
    assert judge_sameness(rows, Policy(), ["a", "a", "a"]).outlier == 2
    assert judge_sameness(rows[:2], Policy(), ["a", "b"]).said.code == "instruments_agree"
