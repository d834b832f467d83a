"""Readings: zero on the axis of refractive index, the right scale, honest ends."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.instruments import ReadingQuestion, Scale, read, repeats
from temper_core.science import Glycol, freeze_point, mass_fraction_at_freeze, refractive_index_20c

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE


def seen(value, zero=0.0, glycol=ETHYLENE, scale=Scale.FREEZE_ETHYLENE, **more):
    """A line on a freeze scale."""
    return ReadingQuestion(glycol, scale, value, zero=zero, **more)


def codes(answer):
    """Codes of the flags."""
    return {flag.code for flag in answer.flags}


def test_zero_comes_off_on_the_index_axis():
    """Worked point: seen -44.6 with water at -0.4 is -42.6, not -44.2: 0.4 K at zero is 2 K down there."""
    assert read(seen(-44.6, -0.4)).freeze_c == pytest.approx(-42.6, abs=0.1)


def test_the_worked_sum_of_mass_strengths():
    """Worked example: 57.2 - 1.3 = 55.9 % by mass, seen -46.6 with zero -0.4, is about -44.6."""
    answer = read(seen(-46.6, -0.4))
    assert answer.glycol_mass_percent == pytest.approx(55.9, abs=0.1)
    assert answer.freeze_c == pytest.approx(-44.6, abs=0.15)


@given(st.floats(-49, -4))
def test_a_true_instrument_reads_what_is_there(value):
    answer = read(seen(value))
    assert answer.freeze_c == pytest.approx(value, abs=1e-6)
    w = mass_fraction_at_freeze(ETHYLENE, value)
    assert answer.refractive_index_20c == pytest.approx(refractive_index_20c(ETHYLENE, w), abs=1e-9)


@given(st.floats(-45, -10), st.floats(-0.9, 0.9))
def test_a_zero_on_the_cold_side_flatters(value, zero):
    corrected = read(seen(value, zero)).freeze_c
    assert (corrected > value) == (zero < 0) or abs(zero) < 1e-9


def test_a_zero_on_the_warm_side_is_extended_with_the_slope_at_zero():
    """+0.4 weighs as much as -0.4, the other way, to first order."""
    cold, warm = read(seen(-30, -0.4)), read(seen(-30, 0.4))
    off_cold = read(seen(-30)).glycol_mass_percent - cold.glycol_mass_percent
    off_warm = warm.glycol_mass_percent - read(seen(-30)).glycol_mass_percent
    assert off_warm == pytest.approx(off_cold, rel=0.05)


def test_the_other_scale_is_converted_and_said():
    """A line at -30 on a propylene scale in an ethylene loop: same index, other strength, other freeze point."""
    answer = read(seen(-30, scale=Scale.FREEZE_PROPYLENE))
    index = refractive_index_20c(PROPYLENE, mass_fraction_at_freeze(PROPYLENE, -30))
    assert answer.refractive_index_20c == pytest.approx(index)
    assert answer.freeze_c < -35
    assert "other_scale" in codes(answer)
    assert "right scale" in answer.flags[0].message


def test_past_the_end_of_the_scale_no_number_is_invented():
    answer = read(seen(-52))
    assert codes(answer) == {"off_scale"}
    assert (answer.freeze_c, answer.strength_percent, answer.glycol_mass_percent, answer.spread) == (None,) * 4


@pytest.mark.parametrize("value", [0.0, -0.4, 0.6])
def test_below_detection_the_strength_is_a_bound(value):
    answer = read(seen(value))
    assert answer.below_detection
    assert answer.strength_percent > 0
    assert "below_detection" in codes(answer)


def test_a_finer_instrument_sees_less():
    coarse, fine = read(seen(-1.0)), read(seen(-1.0, resolution=0.1))
    assert coarse.below_detection
    assert not fine.below_detection
    assert fine.spread.freeze_c < coarse.spread.freeze_c


@given(st.floats(-48, -6), st.floats(0.1, 2))
def test_spread_grows_towards_the_cold_and_with_the_division(value, resolution):
    """A freeze scale is linear in index: near zero a division is wide in strength, so a zero's doubt weighs in the cold."""
    answer = read(seen(value, resolution=resolution))
    twice = read(seen(value, resolution=2 * resolution))
    assert answer.spread.freeze_c > 0
    assert twice.spread.strength_percent > answer.spread.strength_percent


@pytest.mark.parametrize(
    ("question", "code"),
    [
        ({"sample_c": 5.0}, "outside_compensation"),  # common practice, no source: 10 to 30 degC
        ({"sample_c": 35.0}, "outside_compensation"),
        ({"zero": -1.5}, "zero_off"),
    ],
)
def test_doubtful_circumstances_are_flagged(question, code):
    assert code in codes(read(seen(-30, **question)))


def test_policy_moves_the_limits():
    assert "zero_off" not in codes(read(seen(-30, zero=-1.5), Policy({"zero_tolerance_k": 2.0})))


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"value": -200}, "value"),
        ({"value": float("nan")}, "value"),
        ({"value": 50}, "value"),
        ({"zero": -30}, "zero"),
        ({"resolution": 0}, "resolution"),
        ({"sample_c": 95}, "sample_c"),
        ({"compensated": False, "sample_c": -2}, "sample_c"),
    ],
)
def test_what_cannot_be_read_is_refused_by_name(changes, field):
    with pytest.raises(CoreError) as refused:
        seen(**({"value": -30.0} | changes))
    assert refused.value.field == field


# ---- repeats ------------------------------------------------------------------------------------------------------


def test_repeats_average_in_strength_and_share_their_zero():
    one = repeats([seen(-46, -0.4)])
    three = repeats([seen(-46, -0.4)] * 3)
    mixed = repeats([seen(-46, -0.4), seen(-47, -0.4), seen(-46, -0.4)])
    assert 0.98 * one.sd_mass_percent < three.sd_mass_percent < one.sd_mass_percent  # they share the rounding of one line
    assert mixed.count == 3
    assert read(seen(-47, -0.4)).freeze_c < mixed.freeze_c < read(seen(-46, -0.4)).freeze_c
    assert mixed.range_k == pytest.approx(1.0, abs=0.1)


def test_many_repeats_never_prove_the_zero():
    few, many = repeats([seen(-40)] * 3), repeats([seen(-40)] * 300)
    assert many.sd_mass_percent > 0.6 * few.sd_mass_percent


def test_off_scale_repeats_are_left_out():
    assert repeats([seen(-55)]) is None
    assert repeats([seen(-55), seen(-45)]).count == 1


def test_the_interval_brackets_the_mean():
    together = repeats([seen(-31), seen(-32), seen(-30)])
    assert together.likely.low < together.freeze_c < together.likely.high
    assert freeze_point(ETHYLENE, together.glycol_mass_percent / 100).freeze_c == pytest.approx(together.freeze_c)
