"""What readings say together, against SciPy and by hand."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from scipy import stats

from temper_core.basis.dates import DAYS_IN_MONTH
from temper_core.basis.policy import Policy
from temper_core.instruments import Scale
from temper_core.instruments.agreement import Pair, SampleRead, agreement, same_samples
from temper_core.instruments.trend import TrendPoint, falling, trend
from temper_core.instruments.zero import ZeroCheck, doubt_spans
from temper_core.job.verify.rules import Doubted, contradiction
from temper_core.science import Glycol

NOW = datetime(2026, 11, 26, 9, 0, tzinfo=UTC)


def day(n):
    return NOW - timedelta(days=n)


def points(*rows, sd=0.0):
    return [TrendPoint(day(n), percent, sd) for n, percent in rows]


def test_the_slope_and_its_doubt_are_those_of_scipy():
    rows = [(200, 50.2), (150, 48.9), (110, 48.4), (60, 47.1), (10, 45.6)]
    line = trend(points(*rows))
    months = [(rows[0][0] - n) / DAYS_IN_MONTH for n, _ in rows]
    fit = stats.linregress(months, [p for _, p in rows])
    assert line.slope == pytest.approx(fit.slope)
    assert line.half == pytest.approx(stats.t.ppf(0.975, len(rows) - 2) * fit.stderr, rel=1e-3)


def test_the_doubt_is_never_less_than_the_instruments():
    exact = [(90, 50.0), (60, 49.0), (30, 48.0)]
    assert trend(points(*exact)).half == pytest.approx(0.0, abs=1e-9)
    assert trend(points(*exact, sd=1.0)).half > 1.0
    assert not trend(points(*exact, sd=1.0)).falls


def test_falling_protection_says_when_the_frost_is_the_stronger():
    """48 % less 1 % a month meets 45 % by volume (about -30 degC) in three months: plain arithmetic."""
    found = falling(points((120, 52.0), (80, 50.7), (40, 49.3), (0, 48.0)), Glycol.ETHYLENE, -30.0, Policy())
    assert found.said.code == "falling_to"
    assert timedelta(days=70) < found.meets_on - NOW.date() < timedelta(days=120)


def test_what_is_past_it_already_is_said_so_and_what_holds_is_not_said():
    assert falling(points((90, 40.0), (45, 38.0), (0, 36.0)), Glycol.ETHYLENE, -38.0, Policy()).said.code == "falling_past"
    assert falling(points((90, 50.0), (45, 50.2), (0, 50.0)), Glycol.ETHYLENE, -30.0, Policy()) is None
    assert falling(points((2, 50.0), (1, 45.0), (0, 40.0)), Glycol.ETHYLENE, -30.0, Policy()) is None


@pytest.mark.parametrize(
    ("read", "expected", "code"),
    [
        ((38, 0.6), (47, 0.8), "weaker_than_ledger"),
        ((50, 0.6), (47, 0.8), "stronger_than_ledger"),
        ((46, 0.6), (47, 0.8), None),
    ],
)
def test_a_reading_contradicts_beyond_both_doubts(read, expected, code):
    said = contradiction(Doubted(*read), Doubted(*expected), Glycol.ETHYLENE, Policy())
    assert (said.code if said else None) == code


def test_samples_are_paired_by_loop_place_and_time_repeats_averaged():
    rows = [
        SampleRead("1", "finished", "B", NOW, 40.0),
        SampleRead("1", "finished", "B", NOW + timedelta(minutes=2), 42.0),
        SampleRead("1", "finished", "A", NOW + timedelta(minutes=5), 44.0),
        SampleRead("1", "finished", "A", NOW + timedelta(hours=3), 60.0),  # another sample
        SampleRead("2", "finished", "A", NOW, 30.0),
        SampleRead("1", "as_found", "A", NOW, 20.0),
    ]
    assert same_samples(rows) == {("A", "B"): [Pair(44.0, 41.0)]}


def test_the_limits_of_agreement_are_those_of_the_differences():
    """Bland and Altman 1986: bias and 1.96 standard deviations, by NumPy; the bias's doubt by SciPy's one-sample t."""
    first = np.array([44.0, 46.1, 48.3, 50.2, 52.4, 47.0])
    second = np.array([42.1, 44.0, 46.5, 48.6, 50.0, 45.4])
    found = agreement([Pair(a, b) for a, b in zip(first, second, strict=True)])
    d = first - second
    assert (found.bias, found.sd) == pytest.approx((d.mean(), d.std(ddof=1)))
    interval = stats.ttest_1samp(d, 0.0).confidence_interval(0.95)
    assert found.bias_half == pytest.approx((interval.high - interval.low) / 2, rel=1e-3)
    assert found.disagrees


def spans(*checks):
    return doubt_spans(
        Scale.FREEZE_ETHYLENE, 1.0, [ZeroCheck(day(n), zero, 20.0, adjusted) for n, zero, adjusted in checks], Policy()
    )


def test_readings_are_in_doubt_from_the_last_good_zero_to_the_one_that_mended_it():
    """Common practice, no source."""
    (one,) = spans((30, 0.0, False), (20, -2.0, True), (10, 0.0, False))
    assert (one.since, one.until) == (day(30), day(20))
    assert one.holds(day(25))
    assert one.holds(day(20))
    assert not one.holds(day(30))
    assert not one.holds(day(15))


def test_a_zero_that_stays_off_leaves_everything_in_doubt_until_it_is_good_again():
    (still,) = spans((30, 0.0, False), (20, -2.0, False), (10, -2.5, False))
    assert (still.since, still.until) == (day(30), None)
    (closed,) = spans((30, 0.0, False), (20, -2.0, False), (10, -0.2, False))
    assert (closed.since, closed.until) == (day(30), day(10))


def test_with_no_good_zero_before_it_all_that_went_before_is_in_doubt():
    (one,) = spans((20, -2.0, True))
    assert one.since is None
    assert one.holds(day(4000))
    assert spans((30, 0.0, False), (1, -0.3, False)) == ()
