"""Whole cans instead of a decilitre out of one more: the litres are whole, and the mix of that target agrees."""

import CoolProp.CoolProp as CP  # noqa: N817
import pytest

from temper_core.calculate.mix import Container, Inside, MixQuestion, Spread, mix
from temper_core.calculate.mix.whole_cans import LEFT_OUT_L, WholeCansQuestion, whole_cans
from temper_core.science import Glycol


def asked(target_c, size_l, inside_l=7.5, loop_l=32.0, **more):
    """The question for a loop of 32 l."""
    return WholeCansQuestion(MixQuestion(Glycol.ETHYLENE, loop_l, Inside(inside_l), target_c, **more), (Container(size_l),))


def just_over(cans, size_l, by_l):
    """The target whose litres are so many whole cans and a little more."""
    warm, cold = -2.0, -49.0
    for _ in range(60):
        middle = (warm + cold) / 2
        litres = mix(MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), middle)).concentrate_l
        warm, cold = (middle, cold) if litres < cans * size_l + by_l else (warm, middle)
    return cold


@pytest.mark.parametrize(("cans", "size_l"), [(3, 5.0), (1, 10.0), (2, 8.0)])
@pytest.mark.parametrize("by_l", [0.05, 0.1, 0.29])
def test_a_little_more_than_whole_cans_is_left_out(cans, size_l, by_l):
    target = just_over(cans, size_l, by_l)
    answer = whole_cans(asked(target, size_l))
    assert answer.product_l == pytest.approx(cans * size_l)
    assert answer.left_out_l == pytest.approx(by_l, abs=1e-6)
    again = mix(MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), answer.target_freeze_c))
    assert again.concentrate_l == pytest.approx(cans * size_l, abs=0.002)
    assert 0 < answer.warmer_k < 1.5
    assert answer.target_freeze_c == pytest.approx(target + answer.warmer_k)


def test_a_real_part_of_a_can_stays_in_the_plan():
    assert whole_cans(asked(just_over(3, 5.0, LEFT_OUT_L + 0.01), 5.0)).product_l is None
    assert whole_cans(asked(just_over(3, 5.0, 4.0), 5.0)).product_l is None


def test_nothing_is_offered_where_not_one_can_is_whole_or_the_target_is_out_of_reach():
    assert whole_cans(asked(-1.0, 25.0, inside_l=31.0)).product_l is None
    assert whole_cans(asked(-49.0, 5.0, inside_l=20.0)).product_l is None


def test_a_guarantee_is_not_given_away_for_a_can():
    target = just_over(3, 5.0, 0.1)
    assert whole_cans(asked(target, 5.0)).product_l == pytest.approx(15.0)
    assert whole_cans(asked(target, 5.0, be_sure=True, spread=Spread(drained_l=0.2))).product_l is None


def test_the_freeze_point_of_whole_cans_agrees_with_a_reference():
    """18.15 L of 95 % ethylene glycol on 7.5 L of water, filled up to 32 L: by mass with a handbook density of the product
    (1.109 kg/L at 20 degC), frozen by CoolProp (INCOMP::MEG)."""
    answer = whole_cans(asked(-45.0, 6.05))
    water_l = mix(MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), answer.target_freeze_c)).water_l
    product_kg, water_kg = 1.109 * answer.product_l, 0.9982 * (7.5 + water_l)
    w = 0.95 * product_kg / (product_kg + water_kg)
    freezes_c = CP.PropsSI("T_FREEZE", "T", 293.15, "P", 101325, f"INCOMP::MEG[{w}]") - 273.15
    assert answer.target_freeze_c == pytest.approx(freezes_c, abs=0.2)
