"""The mix against hand-worked examples and conservation laws."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError, OutOfRange
from temper_core.basis.quantity import WATER_DENSITY_20C
from temper_core.calculate.mix import Inside, MixQuestion, Spread, mix
from temper_core.calculate.mix.question import left_masses
from temper_core.science import Glycol, curve_doubt_k, density_20c, freeze_interval, freeze_point, mass_fraction_of

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE


def question(**changes):
    """A groomer's loop: 32 l, 7.5 l of water inside, to -45 degC."""
    given_ = {"glycol": ETHYLENE, "loop_volume_l": 32.0, "inside": Inside(7.5), "target_freeze_c": -45.0}
    return MixQuestion(**(given_ | changes))


def final_w(q, concentrate_l, water_l):
    """Mass fraction after pouring, worked by hand from densities alone."""
    inside_w = mass_fraction_of(q.glycol, q.inside.strength_percent)
    inside_kg = q.inside.volume_l * density_20c(q.glycol, inside_w)
    concentrate_kg = concentrate_l * density_20c(q.glycol, q.concentrate)
    total = inside_kg + concentrate_kg + water_l * WATER_DENSITY_20C
    return (inside_kg * inside_w + concentrate_kg * q.concentrate) / total


loops = st.floats(1, 500)
targets = st.floats(-49, -3)


# ---- worked examples ----------------------------------------------------------------------------------------------


def test_the_groomers_litres():
    """Worked by hand: 32 l at 56.16 % by mass weigh 34.4 kg, 19.3 kg of it glycol. Within 0.08 l of the worked point
    18.33 + 6.56 l (which takes a concentrate 0.3 % lighter, its excess volume at 95 % left out)."""
    answer = mix(question())
    assert answer.feasible
    assert answer.concentrate_l == pytest.approx(18.33, abs=0.08)
    assert answer.water_l == pytest.approx(6.56, abs=0.01)
    assert answer.blend_percent == pytest.approx(73.6, abs=0.2)
    assert answer.final.freeze_c == pytest.approx(-45.0, abs=1e-6)


@pytest.mark.parametrize(("poured_percent", "ends_c"), [(50, -22.6), (56.54, -28.0)])
def test_a_blend_poured_at_the_loops_strength_ends_short(poured_percent, ends_c):
    """The commonest error of the trade: 24.5 l of ready-mix, or of a bucket blended at the loop's strength, on top of
    7.5 l of flush water. Worked points, within 0.15 K."""
    pour_w = mass_fraction_of(ETHYLENE, poured_percent)
    water_kg = 7.5 * WATER_DENSITY_20C

    def volume(pour_kg):
        return (water_kg + pour_kg) / density_20c(ETHYLENE, pour_kg * pour_w / (water_kg + pour_kg))

    low, high = 0.0, 40_000.0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if volume(middle) < 32 else (low, middle)
    w = low * pour_w / (water_kg + low)
    assert freeze_point(ETHYLENE, w).freeze_c == pytest.approx(ends_c, abs=0.15)


@pytest.mark.parametrize(
    ("residual_share", "strength_to_pour"),
    # derived: (1/2) / (1 - R/V) by simple volumes, for 50 % in the loop on clean water
    [(0.10, 55.6), (1 / 6, 60.0), (0.20, 62.5), (0.25, 66.7), (2 / 7, 70.0), (0.40, 83.3)],
)
def test_strength_to_pour_on_clean_water(residual_share, strength_to_pour):
    """Simple volumes leave contraction out: within 1.5 percentage points of the real calculation."""
    target = freeze_point(ETHYLENE, mass_fraction_of(ETHYLENE, 50)).freeze_c
    answer = mix(question(inside=Inside(32 * residual_share), target_freeze_c=target))
    assert answer.blend_percent == pytest.approx(strength_to_pour, abs=1.5)


def test_more_than_half_inside_cannot_reach_half_and_half():
    """Derived: at R/V = 50 % neat concentrate just about does it, beyond it is impossible."""
    target = freeze_point(ETHYLENE, mass_fraction_of(ETHYLENE, 50)).freeze_c
    answer = mix(question(inside=Inside(18.0), target_freeze_c=target))
    assert not answer.feasible
    assert answer.reason.code == "too_much_inside"
    assert answer.water_l == 0
    assert answer.reason.best_freeze_c > target
    assert answer.reason.drain_more_l == pytest.approx(18.0 - 16.2, abs=0.3)


def test_draining_the_advised_litres_brings_the_target_into_reach():
    short = mix(question(inside=Inside(20.0, 10.0)))
    less = Inside(20.0 - short.reason.drain_more_l, 10.0)
    assert not short.feasible
    assert mix(question(inside=Inside(less.volume_l - 0.01, 10.0))).feasible
    assert not mix(question(inside=Inside(less.volume_l + 0.01, 10.0))).feasible


def test_too_strong_inside_is_filled_with_water_and_said():
    answer = mix(question(inside=Inside(20.0, 70.0), target_freeze_c=-20))
    assert not answer.feasible
    assert answer.reason.code == "inside_too_strong"
    assert answer.concentrate_l == 0
    assert answer.final.freeze_c < -20
    assert mix(question(inside=Inside(20.0 - answer.reason.drain_more_l - 0.01, 70.0), target_freeze_c=-20)).feasible


def test_a_ready_mix_alone_never_reaches_deep_cold():
    answer = mix(question(inside=Inside(0.0), concentrate=0.5))
    assert not answer.feasible
    assert answer.reason.drain_more_l is None
    assert "stronger concentrate" in answer.reason.message


def test_a_best_mix_in_the_gap_has_no_invented_freeze_point():
    q = question(inside=Inside(20.0, 100.0), target_freeze_c=-30)
    answer = mix(MixQuestion(ETHYLENE, 32, Inside(24.0, 100.0), -30))
    assert q.inside.volume_l == 20
    assert answer.final.freeze_c is None
    assert answer.final.freeze_below_c == -50
    assert answer.reason.best_freeze_c is None


# ---- laws ---------------------------------------------------------------------------------------------------------


@given(loops, st.floats(0, 0.95), st.floats(0, 60), targets, st.sampled_from(Glycol), st.floats(0.8, 1))
def test_glycol_and_water_are_conserved_and_the_loop_is_full(volume, share, strength, target, glycol, concentrate):
    assume(glycol is ETHYLENE or target > -44)
    q = MixQuestion(glycol, volume, Inside(volume * share, strength), target, concentrate)
    answer = mix(q)
    assert answer.concentrate_l >= 0
    assert answer.water_l >= 0
    w = final_w(q, answer.concentrate_l, answer.water_l)
    assert w * 100 == pytest.approx(answer.final.glycol_mass_percent, abs=1e-6)
    have = left_masses(glycol, q.inside)
    kg = have.total + (
        answer.concentrate_l * density_20c(glycol, concentrate) / 1000 + answer.water_l * WATER_DENSITY_20C / 1000
    )
    assert kg / density_20c(glycol, w) * 1000 == pytest.approx(volume, rel=1e-6)
    if answer.feasible:
        assert freeze_point(glycol, w).freeze_c == pytest.approx(target, abs=1e-5)


@given(st.floats(0, 0.4), st.floats(0.001, 0.1), targets)
def test_more_water_inside_never_needs_less_concentrate(share, more, target):
    fewer = mix(MixQuestion(ETHYLENE, 32, Inside(32 * share), target))
    greater = mix(MixQuestion(ETHYLENE, 32, Inside(32 * (share + more)), target))
    if greater.feasible:
        assert greater.concentrate_l >= fewer.concentrate_l - 1e-6
        assert greater.water_l < fewer.water_l


@given(targets, st.floats(0.1, 3))
def test_a_colder_target_takes_more_concentrate(target, colder):
    assume(target - colder > -50)
    warm, cold = mix(question(target_freeze_c=target)), mix(question(target_freeze_c=target - colder))
    if cold.feasible:
        assert cold.concentrate_l > warm.concentrate_l


@given(st.floats(2, 100), st.floats(0, 0.5), targets)
def test_litres_scale_with_the_loop(times, share, target):
    small = mix(MixQuestion(ETHYLENE, 5, Inside(5 * share), target))
    large = mix(MixQuestion(ETHYLENE, 5 * times, Inside(5 * share * times), target))
    assert large.concentrate_l == pytest.approx(times * small.concentrate_l, rel=1e-6, abs=1e-6)


# ---- how sure -----------------------------------------------------------------------------------------------------


def monte_carlo(q, answer, draws=40_000, seed=7):
    """The contract's definition of `likely`, drawn: inside = loop - drained, filled with water to the cold mark."""
    rng = np.random.default_rng(seed)
    s = q.spread
    volume = rng.normal(q.loop_volume_l, s.loop_volume_l, draws)
    drained = rng.normal(q.loop_volume_l - q.inside.volume_l, s.drained_l, draws)
    product = rng.normal(q.concentrate, s.glycol_mass_percent / 100, draws)
    inside_w = mass_fraction_of(q.glycol, q.inside.strength_percent)
    inside_l = volume - drained
    glycol = inside_l * density_20c(q.glycol, inside_w) * inside_w
    glycol += answer.concentrate_l * density_20c(q.glycol, q.concentrate) * product
    total = volume * density_20c(q.glycol, answer.final.glycol_mass_percent / 100)
    w = np.quantile(glycol / total, [0.025, 0.975])
    return freeze_point(q.glycol, w[1]).freeze_c, freeze_point(q.glycol, w[0]).freeze_c


@pytest.mark.parametrize(
    "spread",
    [Spread(0.32, 0.17, 0, 0.5), Spread(0.6, 0.1, 0, 0), Spread(0, 0.5, 0, 1.0), Spread(0.2, 0.2, 0, 0.2)],
)
@pytest.mark.parametrize("target", [-20, -35, -42])
def test_likely_is_what_a_monte_carlo_gives(spread, target):
    """Seeded Monte Carlo of 40,000 draws; ends within 5 % of the width."""
    q = question(spread=spread, target_freeze_c=target)
    answer = mix(q)
    low, high = monte_carlo(q, answer)
    width = high - low
    assert answer.likely.freeze_c_low == pytest.approx(low, abs=0.05 * width)
    assert answer.likely.freeze_c_high == pytest.approx(high, abs=0.05 * width)


def test_the_warm_end_carries_the_other_handbook():
    answer = mix(question(spread=Spread(0.32, 0.17, 0.1, 0.5)))
    assert answer.likely_with_curve.freeze_c_high > answer.likely.freeze_c_high
    assert answer.likely_with_curve.freeze_c_low > answer.likely.freeze_c_low  # one-sided: it only ever warms


def test_with_no_other_spread_only_the_curve_is_in_doubt():
    """The doubt is uniform between the two handbooks: its 97.5 % point is 97.5 % of it."""
    w = 0.55
    interval = freeze_interval(ETHYLENE, w, 0.0, with_curve=True)
    centre = freeze_point(ETHYLENE, w).freeze_c
    assert interval.low - centre == pytest.approx(0.025 * curve_doubt_k(ETHYLENE, w), abs=0.1)
    assert interval.high - centre == pytest.approx(0.975 * curve_doubt_k(ETHYLENE, w), abs=0.1)


def test_propylene_carries_no_doubt_of_the_curve():
    interval = freeze_interval(PROPYLENE, 0.5, 0.01, with_curve=True)
    plain = freeze_interval(PROPYLENE, 0.5, 0.01, with_curve=False)
    assert interval.high == pytest.approx(plain.high, abs=0.05)


def test_the_litres_say_how_sure_they_are():
    answer = mix(question(spread=Spread(0.32, 0.17, 0.1, 0.5)))
    assert answer.litres_spread.concentrate_l == pytest.approx(0.4, abs=0.05)
    assert answer.litres_spread.water_l == pytest.approx(0.5, abs=0.05)
    assert mix(question()).litres_spread is None


def test_a_residual_that_may_not_exist_is_counted_not_clamped():
    answer = mix(question(inside=Inside(0.5), spread=Spread(1.0, 0.0)))
    assert answer.likely.refused_percent == pytest.approx(100 * 0.5 * math.erfc(0.5 / 2**0.5), abs=0.5)


# ---- refusals -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"loop_volume_l": -1}, "loop_volume_l"),
        ({"loop_volume_l": 0}, "loop_volume_l"),
        ({"loop_volume_l": 1e308}, "loop_volume_l"),
        ({"loop_volume_l": math.nan}, "loop_volume_l"),
        ({"inside": Inside(-0.1)}, "inside.volume_l"),
        ({"inside": Inside(33)}, "inside.volume_l"),
        ({"inside": Inside(5, 120)}, "inside.strength_percent"),
        ({"inside": Inside(5, -1)}, "inside.strength_percent"),
        ({"target_freeze_c": -51}, "target_freeze_c"),
        ({"target_freeze_c": 5}, "target_freeze_c"),
        ({"glycol": PROPYLENE, "target_freeze_c": -46}, "target_freeze_c"),
        ({"concentrate": 95.0}, "concentrate.glycol_mass_percent"),
        ({"concentrate": 0.0095}, "concentrate.glycol_mass_percent"),
        ({"spread": Spread(-1)}, "spread.loop_volume_l"),
        ({"spread": Spread(0, 40)}, "spread.drained_l"),
        ({"spread": Spread(0, 0, 60)}, "spread.inside_strength_percent"),
        ({"spread": Spread(0, 0, 0, math.inf)}, "spread.glycol_mass_percent"),
    ],
)
def test_what_cannot_be_is_refused_by_name(changes, field):
    with pytest.raises(CoreError) as refused:
        question(**changes)
    assert refused.value.field == field
    assert "allowed" in refused.value.message


def test_more_inside_than_the_loop_holds_is_a_question():
    with pytest.raises(OutOfRange, match="Check the litres, or the capacity"):
        question(inside=Inside(40))
