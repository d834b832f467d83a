"""Kinds of number that are easily confused, and the one place where a unit is converted on its way in.

Inside the core: litres at 20 degC, degrees Celsius, kilopascals absolute, kilograms, mass fractions 0-1.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NewType

import pint

from temper_core.basis.errors import CoreError

MassFraction = NewType("MassFraction", float)  # kg of glycol in 1 kg of solution, 0-1
VolumePercent = NewType("VolumePercent", float)  # strength: percent by volume of a concentrate, before mixing

ABSOLUTE_ZERO_C = -273.15
WATER_DENSITY_20C = 998.2  # kg/m3; source: IAPWS-95 at 20 degC and 101.325 kPa, 998.21 (checked against iapws)

# What a technician may write, and the unit it means. "gal" alone is missing on purpose: there are two of them.
VOLUME_UNITS = {
    "l": "liter",
    "ml": "milliliter",
    "us_qt": "US_liquid_quart",
    "us_gal": "US_liquid_gallon",
    "imp_gal": "imperial_gallon",
}
TEMPERATURE_UNITS = {"degC": "degC", "degF": "degF"}


@lru_cache(maxsize=1)
def _registry() -> pint.UnitRegistry[float]:
    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


def _known(field: str, unit: str, table: dict[str, str]) -> str:
    if unit not in table:
        allowed = ", ".join(table)
        raise CoreError(field, f"The unit '{unit}' is not known here: {allowed} are. Choose one of them.", "unknown_unit")
    return table[unit]


def to_litres(field: str, value: float, unit: str) -> float:
    """Volume in litres [l] of a value in one of VOLUME_UNITS.

    Raises CoreError (unknown_unit). Source: NIST SP 811, by way of pint.
    >>> round(to_litres("drained_l", 1, "us_gal"), 4), round(to_litres("drained_l", 1, "imp_gal"), 4)
    (3.7854, 4.5461)
    """
    return float(_registry().Quantity(value, _known(field, unit, VOLUME_UNITS)).to("liter").magnitude)


def unit_factor(unit: str, base: str) -> float:
    """How many of the base unit one of the unit is; both as pint names them.

    >>> round(unit_factor("psi", "kilopascal"), 3)
    6.895
    """
    return float(_registry().Quantity(1, unit).to(base).magnitude)


def to_celsius(field: str, value: float, unit: str) -> float:
    """Temperature [degC] of a value in one of TEMPERATURE_UNITS; raises CoreError (unknown_unit).

    >>> round(to_celsius("target_freeze_c", -34, "degF"), 1)
    -36.7
    """
    return float(_registry().Quantity(value, _known(field, unit, TEMPERATURE_UNITS)).to("degC").magnitude)
