"""Readings on every scale: the same solution reads the same, whatever is engraved; temperature and zero on the axis."""

import math

import pytest
from chemicals.refractivity import ICUMSA_1974_brix, ICUMSA_1974_RIs
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import WATER_DENSITY_20C
from temper_core.instruments import FACTS, ReadingQuestion, Scale, mark, read, repeats
from temper_core.science import (
    Glycol,
    density,
    density_20c,
    freeze_point,
    index_shift,
    litres_at_20c,
    mass_fraction_of,
    refractive_index_20c,
    strength_of,
)
from tests.accuracy import BY_MASS, reference_density

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE
OWN = {
    ETHYLENE: (Scale.FREEZE_ETHYLENE, Scale.STRENGTH_ETHYLENE),
    PROPYLENE: (Scale.FREEZE_PROPYLENE, Scale.STRENGTH_PROPYLENE),
}


def brix_of(index):
    """Brix by the published table, straight lines between its rows. Source: ICUMSA 1974, by way of chemicals."""
    rows = list(zip(ICUMSA_1974_brix, ICUMSA_1974_RIs, strict=True))
    for (b0, n0), (b1, n1) in zip(rows, rows[1:], strict=False):
        if n0 <= index <= n1:
            return b0 + (b1 - b0) * (index - n0) / (n1 - n0)
    raise ValueError(index)


def seen_on(scale, glycol, w):
    """What a true instrument with this scale shows of a solution."""
    if scale is Scale.BRIX:
        return brix_of(refractive_index_20c(glycol, w))
    if scale is Scale.REFRACTIVE_INDEX:
        return refractive_index_20c(glycol, w)
    if scale is Scale.SPECIFIC_GRAVITY:
        return density_20c(glycol, w) / WATER_DENSITY_20C
    if scale in (Scale.STRENGTH_ETHYLENE, Scale.STRENGTH_PROPYLENE):
        return strength_of(glycol, w)
    return freeze_point(glycol, w).freeze_c


def codes(answer):
    """Codes of the flags."""
    return {flag.code for flag in answer.flags}


@pytest.mark.parametrize("w", [0.12, 0.25, 0.38, 0.49])
@pytest.mark.parametrize("glycol", Glycol)
def test_one_solution_reads_alike_on_every_scale(glycol, w):
    for scale in (*OWN[glycol], Scale.BRIX, Scale.REFRACTIVE_INDEX, Scale.SPECIFIC_GRAVITY):
        answer = read(ReadingQuestion(glycol, scale, seen_on(scale, glycol, w)))
        assert answer.glycol_mass_percent == pytest.approx(100 * w, abs=0.05), scale
        assert answer.freeze_c == pytest.approx(freeze_point(glycol, w).freeze_c, abs=0.1)
        assert answer.flags == ()
        assert answer.spread.freeze_c > 0


@pytest.mark.parametrize("scale", Scale)
def test_water_reads_as_water_on_every_scale(scale):
    """Below detection, an upper bound and never a zero."""
    glycol = scale.glycol or ETHYLENE
    answer = read(ReadingQuestion(glycol, scale, FACTS[scale].water))
    assert answer.below_detection
    assert 0 < answer.strength_percent < 12
    assert "below_detection" in codes(answer)


@given(st.floats(0.10, 0.55), st.floats(5, 45), st.sampled_from(Glycol))
def test_an_uncompensated_prism_is_corrected_on_the_index_axis(w, t_c, glycol):
    """Made up the other way round: the prism sees the index at t_c; zeroed there or not, the strength comes back."""
    seen = refractive_index_20c(glycol, w) + index_shift(glycol, w, t_c)
    water = refractive_index_20c(glycol, 0) + index_shift(glycol, 0, t_c)
    for zero in (None, water):
        question = ReadingQuestion(glycol, Scale.REFRACTIVE_INDEX, seen, sample_c=t_c, compensated=False, zero=zero)
        assert read(question).glycol_mass_percent == pytest.approx(100 * w, abs=1e-6)


def test_ten_degrees_uncorrected_are_kelvins_of_protection():
    """Common practice, no source: an uncompensated reading at the wrong temperature is off by degrees, not tenths."""
    cold = read(ReadingQuestion(ETHYLENE, Scale.FREEZE_ETHYLENE, -36.0, sample_c=10, compensated=False))
    right = read(ReadingQuestion(ETHYLENE, Scale.FREEZE_ETHYLENE, -36.0, sample_c=20, compensated=False))
    assert right.freeze_c == pytest.approx(-36.0, abs=1e-6)
    assert 1.5 < cold.freeze_c - right.freeze_c < 4  # cold fluid bends more light: the line flatters


def test_temperature_adds_its_doubt():
    far = read(ReadingQuestion(ETHYLENE, Scale.FREEZE_ETHYLENE, -36.0, sample_c=40, compensated=False))
    near = read(ReadingQuestion(ETHYLENE, Scale.FREEZE_ETHYLENE, -36.0, sample_c=21, compensated=False))
    assert far.spread.strength_percent > near.spread.strength_percent
    assert "outside_compensation" in codes(far)


@given(st.floats(0.05, 0.48), st.floats(5, 45), st.sampled_from(Glycol))
def test_a_hydrometer_in_warm_fluid_is_corrected(w, t_c, glycol):
    value = density(glycol, w, t_c) / WATER_DENSITY_20C
    zero = density(glycol, 0.0, t_c) / WATER_DENSITY_20C
    question = ReadingQuestion(glycol, Scale.SPECIFIC_GRAVITY, value, sample_c=t_c, compensated=False, zero=zero)
    assert read(question).glycol_mass_percent == pytest.approx(100 * w, abs=1e-5)


@pytest.mark.parametrize(("glycol", "within"), [(ETHYLENE, 0.3), (PROPYLENE, 1.0)])
@pytest.mark.parametrize("t_c", [20.0, 35.0])
def test_specific_gravity_against_published_densities(glycol, within, t_c):
    """Source: CoolProp INCOMP::MEG and MPG at 45 % by mass; propylene's density is flat there, so it says less."""
    value = reference_density(BY_MASS[glycol], 0.45, t_c) / WATER_DENSITY_20C
    answer = read(ReadingQuestion(glycol, Scale.SPECIFIC_GRAVITY, value, sample_c=t_c, compensated=False))
    assert answer.glycol_mass_percent == pytest.approx(45, abs=within)


def test_propylene_too_strong_for_a_hydrometer_is_refused():
    with pytest.raises(CoreError, match="refractometer") as refused:
        read(ReadingQuestion(PROPYLENE, Scale.SPECIFIC_GRAVITY, 1.06))
    assert refused.value.code == "density_flat"


@pytest.mark.parametrize(
    ("scale", "value"),
    [
        (Scale.BRIX, 88.0),
        (Scale.STRENGTH_ETHYLENE, 104.0),
        (Scale.FREEZE_PROPYLENE, -46.0),
        (Scale.REFRACTIVE_INDEX, 1.47),  # beyond neat glycol
        (Scale.BRIX, 70.0),  # on the scale, but no glycol is so strong
    ],
)
def test_past_the_end_no_number_is_invented(scale, value):
    answer = read(ReadingQuestion(scale.glycol or ETHYLENE, scale, value))
    assert codes(answer) == {"off_scale"}
    assert answer.freeze_c is answer.strength_percent is answer.spread is None


def test_a_brix_reading_past_the_turn_is_said_and_the_gap_is_not_filled():
    rich = read(ReadingQuestion(ETHYLENE, Scale.REFRACTIVE_INDEX, refractive_index_20c(ETHYLENE, 0.9)))
    assert codes(rich) == {"past_the_turn"}
    assert rich.freeze_c == pytest.approx(-30, abs=0.2)
    gap = read(ReadingQuestion(ETHYLENE, Scale.REFRACTIVE_INDEX, refractive_index_20c(ETHYLENE, 0.7)))
    assert gap.freeze_c is None
    assert gap.freeze_below_c == -50


def test_propylene_on_an_ethylene_scale_reads_too_weak_or_too_strong_by_the_two_curves():
    """Worked from the two index curves: 50 % propylene on an ethylene freeze scale."""
    w = mass_fraction_of(PROPYLENE, 50)
    wrong = read(ReadingQuestion(PROPYLENE, Scale.STRENGTH_ETHYLENE, strength_of(ETHYLENE, index_twin(w))))
    assert "other_scale" in codes(wrong)
    assert wrong.glycol_mass_percent == pytest.approx(100 * w, abs=0.01)


def index_twin(w):
    """The ethylene solution that bends light like this propylene one, by halving."""
    low, high, index = 0.0, 1.0, refractive_index_20c(PROPYLENE, w)
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if refractive_index_20c(ETHYLENE, middle) < index else (low, middle)
    return low


def test_a_strength_scale_past_zero_goes_on_with_its_slope():
    slope = (mark(Scale.STRENGTH_ETHYLENE, 0.1) - mark(Scale.STRENGTH_ETHYLENE, 0.0)) / 0.1
    assert mark(Scale.STRENGTH_ETHYLENE, -1.0) == pytest.approx(mark(Scale.STRENGTH_ETHYLENE, 0.0) - slope, rel=1e-4)
    assert mark(Scale.BRIX, -1.0) < mark(Scale.BRIX, 0.0)


@pytest.mark.parametrize(
    ("scale", "zero", "flagged"),
    [
        (Scale.BRIX, 0.3, False),
        (Scale.BRIX, 2.5, True),
        (Scale.REFRACTIVE_INDEX, 1.3334, False),
        (Scale.REFRACTIVE_INDEX, 1.3370, True),
        (Scale.SPECIFIC_GRAVITY, 1.006, True),
    ],
)
def test_a_zero_out_of_tolerance_is_flagged_in_kelvin_on_any_scale(scale, zero, flagged):
    value = {Scale.BRIX: 30.0, Scale.REFRACTIVE_INDEX: 1.38, Scale.SPECIFIC_GRAVITY: 1.06}[scale]
    answer = read(ReadingQuestion(ETHYLENE, scale, value, zero=zero), Policy())
    assert ("zero_off" in codes(answer)) is flagged


def test_weaker_than_water_is_an_instruments_fault():
    answer = read(ReadingQuestion(ETHYLENE, Scale.BRIX, -3.0, zero=0.0))
    assert {"below_detection", "weaker_than_water"} <= codes(answer)


def test_repeats_work_on_any_scale():
    together = repeats([ReadingQuestion(ETHYLENE, Scale.BRIX, value) for value in (31.0, 31.4, 31.2)])
    assert together.count == 3
    assert together.likely.low < together.freeze_c < together.likely.high


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"scale": Scale.BRIX, "value": 200.0}, "value"),
        ({"scale": Scale.REFRACTIVE_INDEX, "value": 38.0}, "value"),
        ({"scale": Scale.SPECIFIC_GRAVITY, "value": 1065.0}, "value"),
        ({"scale": Scale.STRENGTH_ETHYLENE, "value": math.nan}, "value"),
        ({"scale": Scale.BRIX, "value": 30.0, "zero": 40.0}, "zero"),
        ({"scale": Scale.REFRACTIVE_INDEX, "value": 1.38, "resolution": 1.0}, "resolution"),
        ({"scale": Scale.BRIX, "value": 30.0, "compensated": False, "sample_c": -3.0}, "sample_c"),
    ],
)
def test_what_cannot_be_is_refused_by_name(changes, field):
    with pytest.raises(CoreError) as refused:
        ReadingQuestion(**({"glycol": ETHYLENE} | changes))
    assert refused.value.field == field


# ---- density away from 20 degC ------------------------------------------------------------------------------------


def test_litres_measured_warm():
    """Common practice, no source: 24.5 l at 45 degC are 24.2 l at 20 degC."""
    w = mass_fraction_of(ETHYLENE, 50)
    assert litres_at_20c(ETHYLENE, w, 24.5, 45) == pytest.approx(24.2, abs=0.05)


@given(st.floats(0.1, 0.6), st.floats(20, 120), st.floats(1, 10), st.sampled_from(Glycol))
def test_warmer_is_lighter(w, t_c, more, glycol):
    assert density(glycol, w, t_c + more) < density(glycol, w, t_c)


def test_ice_is_no_liquid():
    with pytest.raises(CoreError, match="ice") as refused:
        density(ETHYLENE, 0.3, -20)
    assert refused.value.code == "frozen"


@pytest.mark.parametrize("t_c", [-41, 131, math.nan])
def test_temperatures_beyond_the_table_are_refused(t_c):
    with pytest.raises(CoreError, match="allowed"):
        density(ETHYLENE, 0.55, t_c)
