"""How sure a mix is, against Monte Carlo; what each input weighs; planning so as to be sure."""

import math

import numpy as np
import pytest
from scipy.stats import norm, qmc

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import WATER_DENSITY_20C
from temper_core.basis.uncertainty import evenly_spread, quantile
from temper_core.calculate.mix import Inside, MixQuestion, Pour, Spread, mix
from temper_core.calculate.mix.certainty import Mixed
from temper_core.science import Glycol, curve_doubt_k, freeze_point
from temper_core.science.data import PURE

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE
GRID = np.linspace(0, 1, 20_001)


def rho(glycol, w):
    """Density at 20 degC, written out again for whole arrays."""
    pure, skew = PURE[glycol], 1 - 2 * w
    excess = sum(c * skew**k for k, c in enumerate(pure.excess_volume)) * w * (1 - w)
    return 1 / ((1 - w) / WATER_DENSITY_20C + w / pure.density + excess)


def mass_fraction(glycol, strength):
    """Of a strength by volume of the default concentrate, for whole arrays."""
    kg = strength / 100 * rho(glycol, 0.95)
    return 0.95 * kg / (kg + (1 - strength / 100) * WATER_DENSITY_20C)


CURVES = {
    glycol: (
        GRID * rho(glycol, GRID),
        np.array([freeze_point(glycol, w).at_most_c for w in GRID]),
        np.array([curve_doubt_k(glycol, w) for w in GRID]),
    )
    for glycol in Glycol
}


def monte_carlo(q, concentrate_l, draws=100_000, seed=0):
    """The contract's definition, drawn: the plan's concentrate kept, inside = loop - drained, water to the cold mark.

    Draws that cannot be are left out and counted. Returns both intervals and the percentage refused.
    """
    rng, s, g = np.random.default_rng(seed), q.spread, q.glycol
    loop = rng.normal(q.loop_volume_l, s.loop_volume_l, draws)
    drained = rng.normal(q.loop_volume_l - q.inside.volume_l, s.drained_l, draws)
    strength = rng.normal(q.inside.strength_percent, s.inside_strength_percent, draws)
    product = rng.normal(100 * q.concentrate, s.glycol_mass_percent, draws)
    curve = rng.random(draws)
    left = loop - drained
    can = (left >= 0) & (drained >= 0) & (strength >= 0) & (strength <= 100) & (product >= 0) & (product <= 100)
    loop, left, strength, product, curve = (a[can] for a in (loop, left, strength, product, curve))
    w_in, w_p = mass_fraction(g, strength), product / 100
    glycol_g = left * rho(g, w_in) * w_in + concentrate_l * rho(g, w_p) * w_p
    grams, freeze, doubt = CURVES[g]
    w = np.interp(glycol_g / loop, grams, GRID)
    fits = loop * rho(g, w) - left * rho(g, w_in) - concentrate_l * rho(g, w_p) >= -1e-6 * loop * 1000
    at = np.interp(glycol_g / loop, grams, freeze)[fits]
    doubted = at + curve[fits] * np.interp(glycol_g / loop, grams, doubt)[fits]
    return np.quantile(at, [0.025, 0.975]), np.quantile(doubted, [0.025, 0.975]), 100 * (1 - fits.sum() / draws)


def loops(count):
    """Loops as they come into bays: capacities measured, read or remembered, litres weighed or guessed."""
    rng = np.random.default_rng(5)
    for _ in range(count):
        glycol = ETHYLENE if rng.random() < 0.7 else PROPYLENE
        volume = float(rng.choice([5.2, 9.4, 18, 32, 58, 180]))
        left = float(volume * rng.uniform(0, 0.5))
        strength = float(rng.choice([0, rng.uniform(0, 60)]))
        target = float(rng.uniform(-49.5 if glycol is ETHYLENE else -44.5, -12))
        spread = Spread(
            float(volume * rng.choice([0.01, 0.03, 0.10])),
            float((volume - left) * rng.choice([0.007, 0.02, 0.12])),
            float(rng.choice([0, 1.5, 15])),
            0.5,
        )
        yield MixQuestion(glycol, volume, Inside(left, strength), target, spread=spread)


def test_intervals_of_two_hundred_loops_are_those_of_a_monte_carlo():
    """Seeded Monte Carlo of 100,000 draws each; every end within 5 % of the width, refusals within a percent."""
    worst = refused_most = 0.0
    for seed, q in enumerate(loops(200)):
        answer = mix(q)
        plain, doubted, refused = monte_carlo(q, answer.concentrate_l, seed=seed)
        assert answer.likely.refused_percent == pytest.approx(refused, abs=1.0)
        refused_most = max(refused_most, refused)
        for said, drawn in ((answer.likely, plain), (answer.likely_with_curve, doubted)):
            width = drawn[1] - drawn[0]
            if width < 1e-6:
                continue
            off = max(abs(said.freeze_c_low - drawn[0]), abs(said.freeze_c_high - drawn[1])) / width
            assert off < 0.05, (q, said, drawn)
            worst = max(worst, off)
    assert worst > 0.005  # it is an estimate: zero would mean that nothing was compared
    assert refused_most > 30  # and the hard cases were among them


def test_the_cases_are_the_sobol_sequence():
    """Source: SciPy's, unscrambled, half a step off zero."""
    reference = qmc.Sobol(5, scramble=False).random(256) + 0.5 / 256
    assert np.array(evenly_spread(256)) == pytest.approx(reference)


@pytest.mark.parametrize("share", [0.025, 0.5, 0.975])
def test_a_smoothed_quantile_is_the_normal_one(share):
    """Source: SciPy's normal quantile, over an even normal sample; and over a straight line it is the line."""
    sample = norm.ppf((np.arange(256) + 0.5) / 256).tolist()
    assert quantile(sample, share) == pytest.approx(norm.ppf(share), abs=1e-3)
    assert quantile([3.0, 3.0, 3.0, 3.0], share) == pytest.approx(3.0)
    assert quantile([1.0, 2.0], share) in (1.0, 2.0)


def groomer(**changes):
    """32 l, 7.5 l of nearly water inside, to -45 degC."""
    given = {"spread": Spread(0.32, 0.17, 0.1, 0.5), "inside": Inside(7.5, 1.9), "target_freeze_c": -45.0}
    given |= {"glycol": ETHYLENE, "loop_volume_l": 32.0}
    return MixQuestion(**(given | changes))


def test_both_ways_of_working_the_cases_out_agree():
    """Where all cases can be, the short way (cubics) and the long way (a row at a time) give the same points."""
    q = groomer()
    plan = mix(MixQuestion(q.glycol, q.loop_volume_l, q.inside, q.target_freeze_c))
    mixed = Mixed(q, plan.concentrate_l, plan.water_l, plan.final.glycol_mass_percent / 100)
    assert mixed._all_can_be()
    short, long = mixed._freeze_points_of_all(), mixed.freeze_points(256)
    for a, b in zip(short, long, strict=True):
        assert a == pytest.approx(b, abs=0.02)


def test_what_was_poured_already_is_known_and_what_was_left_is_not():
    """Half the concentrate in already: the same litres in all, and the same doubt."""
    at_once = mix(groomer())
    half = at_once.concentrate_l / 2
    later = mix(groomer(inside=Inside(7.5, 1.9, (Pour(half, 100.0),))))
    assert later.concentrate_l + half == pytest.approx(at_once.concentrate_l, abs=1e-6)
    assert later.likely.freeze_c_high == pytest.approx(at_once.likely.freeze_c_high, abs=0.2)


def test_a_remainder_of_the_other_base_counts_as_water():
    water = mix(groomer(inside=Inside(7.5, 0.0)))
    other = mix(groomer(inside=Inside(7.5, 40.0, other_base_l=7.5)))
    partly = mix(groomer(inside=Inside(7.5, 40.0, other_base_l=3.0)))
    assert other.concentrate_l == pytest.approx(water.concentrate_l)
    assert partly.concentrate_l < water.concentrate_l
    assert other.likely.freeze_c_low == pytest.approx(water.likely.freeze_c_low, abs=0.1)


# ---- what weighs --------------------------------------------------------------------------------------------------


def test_shares_are_those_of_one_input_at_a_time():
    """Each input's share of the variance, drawn alone, against its share as told (GUM, first order)."""
    q = groomer(spread=Spread(0.64, 0.5, 1.5, 0.5), inside=Inside(7.5, 30.0))
    told = {row.name: row.share_percent for row in mix(q).inputs}
    widths = {}
    for name in told:
        alone = Spread(**{name: getattr(q.spread, name)})
        likely = mix(groomer(spread=alone, inside=q.inside)).likely
        widths[name] = (likely.freeze_c_high - likely.freeze_c_low) ** 2
    for name, share in told.items():
        assert share == pytest.approx(100 * widths[name] / sum(widths.values()), abs=3)
    assert sum(told.values()) == pytest.approx(100)
    assert list(told.values()) == sorted(told.values(), reverse=True)


def test_what_measuring_would_gain_is_what_it_gains():
    """A remembered capacity: the interval promised for measuring it is the one that comes of it."""
    rough = groomer(spread=Spread(3.2, 0.17, 0.1, 0.5), target_freeze_c=-35)
    promised = mix(rough).inputs[0]
    assert promised.name == "loop_volume_l"
    assert promised.measured_sd == pytest.approx(0.01 * 32)
    measured = mix(groomer(spread=Spread(promised.measured_sd, 0.17, 0.1, 0.5), target_freeze_c=-35)).likely
    assert promised.freeze_c_low == pytest.approx(measured.freeze_c_low, abs=0.25)
    assert promised.freeze_c_high == pytest.approx(measured.freeze_c_high, abs=0.25)


def test_what_is_measured_well_promises_nothing_more():
    for row in mix(groomer()).inputs:
        assert row.measured_sd is None
        assert row.freeze_c_low is None


# ---- to be sure ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("target", [-15, -25, -38])
@pytest.mark.parametrize("glycol", Glycol)
def test_a_sure_plan_is_warm_ended_on_the_target(glycol, target):
    answer = mix(groomer(glycol=glycol, target_freeze_c=target, be_sure=True))
    assert answer.feasible
    assert answer.likely_with_curve.freeze_c_high == pytest.approx(target, abs=0.05)
    assert answer.final.freeze_c < target


def test_what_cannot_be_made_sure_is_said_with_the_surest_there_is():
    answer = mix(groomer(target_freeze_c=-49, be_sure=True))
    assert not answer.feasible
    assert answer.reason.code == "not_sure"
    assert answer.final.freeze_c == pytest.approx(-50, abs=0.01)
    assert "measure more exactly" in answer.reason.message


def test_without_any_spread_being_sure_reckons_with_the_handbooks_alone():
    answer = mix(groomer(spread=None, target_freeze_c=-36, be_sure=True))
    w = answer.final.glycol_mass_percent / 100
    assert answer.final.freeze_c + 0.975 * curve_doubt_k(ETHYLENE, w) == pytest.approx(-36, abs=0.1)


def test_a_sure_plan_out_of_reach_says_why():
    answer = mix(groomer(inside=Inside(17.5), target_freeze_c=-33, be_sure=True))
    assert not answer.feasible
    assert answer.reason.code == "too_much_inside"


# ---- warnings -----------------------------------------------------------------------------------------------------


def test_under_the_corrosion_minimum_is_warned_of_by_policy():
    """Common practice, no source: 40 % by volume, even in the tropics."""
    weak = mix(groomer(target_freeze_c=-15))
    assert [w.code for w in weak.warnings] == ["below_corrosion_minimum"]
    assert "40 %" in weak.warnings[0].sentence
    assert mix(groomer(target_freeze_c=-30)).warnings == ()
    assert mix(groomer(target_freeze_c=-15), Policy({"corrosion_minimum_percent": 25.0})).warnings == ()


def test_what_does_not_fit_before_it_settles_is_kept_back():
    """The litres poured exceed the room by the contraction: that much water waits for the top-up."""
    answer = mix(groomer())
    room = 32 - 7.5
    assert answer.kept_back_l == pytest.approx(answer.concentrate_l + answer.water_l - room, abs=1e-6)
    assert 0.2 < answer.kept_back_l < 0.6
    neat = mix(groomer(inside=Inside(16.5), target_freeze_c=-45))
    assert neat.kept_back_l == 0  # no water to keep


def test_an_empty_loop_has_nothing_to_drain():
    answer = mix(groomer(inside=Inside(0.0), concentrate=0.5, target_freeze_c=-45))
    assert not answer.feasible
    assert answer.reason.drain_more_l is None
    assert math.isfinite(answer.likely.freeze_c_high)
