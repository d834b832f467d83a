"""Cooling down, against SciPy's integrator; an estimate with a range."""

import math

import pytest
from scipy.integrate import solve_ivp

from temper_core.basis.errors import CoreError
from temper_core.calculate.cooldown import CooldownQuestion, CoolPoint, cooldown


def newton(from_c, ambient_c, tau_min, minute):
    """Temperature after so many minutes by Newton's law, integrated."""
    return solve_ivp(lambda _, c: -(c - ambient_c) / tau_min, (0, minute), [from_c], rtol=1e-10, atol=1e-10).y[0, -1]


@pytest.mark.parametrize(("litres", "tau"), [(5.0, 60), (10.0, 120), (25.0, 120), (25.1, 180), (None, 120)])
def test_without_points_the_constant_is_that_of_its_size(litres, tau):
    """Common practice, no source: 60, 120 or 180 minutes; a factor 1.6 either way."""
    answer = cooldown(CooldownQuestion(90.0, 12.0, 45.0, litres))
    assert answer.time_constant_min == tau
    assert newton(90.0, 12.0, tau, answer.minutes) == pytest.approx(45.0, abs=1e-4)
    assert answer.minutes_high / answer.minutes == pytest.approx(1.6)
    assert answer.minutes / answer.minutes_low == pytest.approx(1.6)


def points_of(tau, minutes, from_c=88.0, ambient_c=10.0, soak_c=0.0):
    """A loop that cools by Newton's law from a little warmer than it was stopped at."""
    return tuple(CoolPoint(minute, newton(from_c + soak_c, ambient_c, tau, minute)) for minute in minutes)


def test_points_find_the_loops_own_constant_though_the_heat_soak_came_first():
    points = (CoolPoint(2.0, 93.0), CoolPoint(9.9, 94.0), *points_of(75.0, (12, 25, 40), soak_c=8.0))
    answer = cooldown(CooldownQuestion(88.0, 10.0, 45.0, 30.0, points))
    assert answer.points_counted == 3
    assert answer.time_constant_min == pytest.approx(75.0, rel=1e-4)
    assert newton(96.0, 10.0, 75.0, answer.minutes) == pytest.approx(45.0, abs=0.01)
    assert answer.minutes_low < answer.minutes < answer.minutes_high


def test_more_points_and_later_ones_narrow_the_range():
    few = cooldown(CooldownQuestion(88.0, 10.0, 45.0, None, points_of(75.0, (12, 20))))
    more = cooldown(CooldownQuestion(88.0, 10.0, 45.0, None, points_of(75.0, (12, 20, 30, 45))))
    unlogged = cooldown(CooldownQuestion(88.0, 10.0, 45.0))
    widths = [a.minutes_high - a.minutes_low for a in (more, few, unlogged)]
    assert widths == sorted(widths)


def test_scattered_points_say_so():
    good = points_of(75.0, (12, 20, 30, 40))
    bad = tuple(CoolPoint(p.minute, p.c + d) for p, d in zip(good, (4, -4, 4, -4), strict=True))
    ranges = [cooldown(CooldownQuestion(88.0, 10.0, 45.0, None, points)) for points in (good, bad)]
    assert (ranges[1].minutes_high - ranges[1].minutes_low) > 3 * (ranges[0].minutes_high - ranges[0].minutes_low)


def test_one_point_halves_the_doubt():
    answer = cooldown(CooldownQuestion(88.0, 10.0, 45.0, 30.0, points_of(90.0, (30,))))
    assert answer.time_constant_min == pytest.approx(90.0, rel=1e-4)
    assert answer.minutes_high / answer.minutes == pytest.approx(math.sqrt(1.6))


def test_cool_already():
    assert cooldown(CooldownQuestion(30.0, 10.0, 45.0)).minutes == 0


@pytest.mark.parametrize(
    ("changes", "field", "code"),
    [
        ({"until_c": 12.0}, "until_c", "never_reached"),
        ({"until_c": 5.0}, "until_c", "never_reached"),
        ({"loop_volume_l": 0.0}, "loop_volume_l", "out_of_range"),
        ({"from_c": 400.0}, "from_c", "out_of_range"),
        ({"points": (CoolPoint(12.0, 60.0), CoolPoint(20.0, 11.0))}, "points.1.c", "at_ambient"),
        ({"points": (CoolPoint(12.0, 60.0), CoolPoint(20.0, 66.0))}, "points", "not_falling"),
        ({"points": (CoolPoint(12.0, 60.0), CoolPoint(12.0, 61.0))}, "points", "one_minute"),
        ({"points": (CoolPoint(20.0, 95.0),)}, "points", "not_falling"),
    ],
)
def test_what_cannot_be_is_refused_by_its_place(changes, field, code):
    with pytest.raises(CoreError) as refused:
        cooldown(CooldownQuestion(**({"from_c": 90.0, "ambient_c": 12.0, "until_c": 45.0} | changes)))
    assert (refused.value.field, refused.value.code) == (field, code)
