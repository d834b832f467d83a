"""Litres out by weight and by marks, against CoolProp's densities."""

import CoolProp.CoolProp as CP  # noqa: N817
import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate.weighing import MeasureQuestion, measure
from temper_core.science import Glycol, mass_fraction_of

FLUID = {Glycol.ETHYLENE: "MEG", Glycol.PROPYLENE: "MPG"}


def kg_per_l(glycol, strength, at_c=20.0):
    """CoolProp's incompressible solutions (Melinder 2010), by mass."""
    w = mass_fraction_of(glycol, VolumePercent(strength))
    return CP.PropsSI("D", "T", at_c + 273.15, "P", 1e5, f"INCOMP::{FLUID[glycol]}[{w}]") / 1000


@pytest.mark.parametrize("glycol", Glycol)
@pytest.mark.parametrize("strength", [5, 20, 35, 50])
def test_litres_are_kilograms_over_density(glycol, strength):
    answer = measure(MeasureQuestion(glycol, VolumePercent(strength), gross_kg=27.5, tare_kg=1.5))
    assert answer.litres == pytest.approx(26.0 / kg_per_l(glycol, strength), rel=0.003)


def test_half_and_half_is_about_1_07_kg_a_litre():
    """Common practice, no source."""
    answer = measure(MeasureQuestion(Glycol.ETHYLENE, VolumePercent(50), gross_kg=10))
    assert answer.density_kg_l == pytest.approx(1.07, abs=0.01)


def test_warm_litres_are_fewer_when_cold():
    """Common practice, no source: 24.5 l at 45 degC are 24.2 l at 20 degC; CoolProp says the same."""
    answer = measure(MeasureQuestion(Glycol.ETHYLENE, VolumePercent(50), marks_l=24.5, at_c=45))
    assert answer.litres == pytest.approx(24.2, abs=0.05)
    assert answer.litres == pytest.approx(
        24.5 * kg_per_l(Glycol.ETHYLENE, 50, 45) / kg_per_l(Glycol.ETHYLENE, 50), rel=0.002
    )


def test_spills_count_and_widen_the_doubt():
    plain = measure(MeasureQuestion(Glycol.ETHYLENE, VolumePercent(50), marks_l=20))
    spilled = measure(MeasureQuestion(Glycol.ETHYLENE, VolumePercent(50), marks_l=20, spilled_l=1.0))
    assert spilled.litres == pytest.approx(plain.litres + 1.0)
    assert spilled.sd_l > plain.sd_l


def test_an_unknown_strength_is_a_doubt_of_the_weight_and_not_of_the_marks():
    """Water to 60 % by volume is 1.00 to 1.08 kg/l: evenly spread, 8 % over the square root of 12."""
    known = measure(MeasureQuestion(Glycol.ETHYLENE, VolumePercent(30), gross_kg=20))
    unknown = measure(MeasureQuestion(Glycol.ETHYLENE, None, gross_kg=20))
    assert unknown.litres == pytest.approx(known.litres)
    extra = (unknown.sd_l**2 - known.sd_l**2) ** 0.5 / known.litres
    assert extra == pytest.approx(0.08 / 12**0.5, abs=0.003)
    marks = [measure(MeasureQuestion(Glycol.ETHYLENE, s, marks_l=20)).sd_l for s in (None, VolumePercent(30))]
    assert marks[0] == marks[1]


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({}, "gross_kg"),
        ({"gross_kg": 5, "marks_l": 5}, "gross_kg"),
        ({"gross_kg": 5, "tare_kg": 6}, "tare_kg"),
        ({"gross_kg": -5}, "gross_kg"),
        ({"marks_l": -1}, "marks_l"),
        ({"marks_l": 5, "at_c": 400}, "at_c"),
        ({"marks_l": 5, "spilled_l": -1}, "spilled_l"),
        ({"marks_l": 5, "strength_percent": 140}, "strength_percent"),
    ],
)
def test_what_cannot_be_is_refused_by_name(changes, field):
    with pytest.raises(CoreError) as refused:
        MeasureQuestion(**({"glycol": Glycol.ETHYLENE, "strength_percent": VolumePercent(50)} | changes))
    assert refused.value.field == field
