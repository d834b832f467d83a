"""Kinds of number that are easily confused, and the one place where a unit is converted on its way in.

Inside the core: litres at 20 degC, degrees Celsius, kilopascals absolute, kilograms, mass fractions 0-1.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NewType

from temper_core.basis.errors import CoreError

MassFraction = NewType("MassFraction", float)  # kg of glycol in 1 kg of solution, 0-1
VolumePercent = NewType("VolumePercent", float)  # strength: percent by volume of a concentrate, before mixing

ABSOLUTE_ZERO_C = -273.15
WATER_DENSITY_20C = 998.2  # kg/m3; source: IAPWS-95 at 20 degC and 101.325 kPa, 998.21 (checked against iapws)

# What a technician may write, in litres; exact by definition. Source: NIST SP 811, appendix B; tests ask the library pint.
# "gal" alone is missing on purpose: there are two of them.
US_GALLON_L = 3.785411784  # 231 cubic inches
VOLUME_UNITS = {"l": 1.0, "ml": 0.001, "us_qt": US_GALLON_L / 4, "us_gal": US_GALLON_L, "imp_gal": 4.54609}
TEMPERATURE_UNITS = ("degC", "degF")
PSI_KPA = 6.894757293168361  # 0.45359237 kg x 9.80665 m/s2 on a square of 25.4 mm
MILE_KM = 1.609344


def _known(field: str, unit: str, table: Iterable[str]) -> None:
    if unit not in table:
        allowed = ", ".join(table)
        raise CoreError(field, f"The unit '{unit}' is not known here: {allowed} are. Choose one of them.", "unknown_unit")


def to_litres(field: str, value: float, unit: str) -> float:
    """Volume in litres [l] of a value in one of VOLUME_UNITS.

    Raises CoreError (unknown_unit).
    >>> round(to_litres("drained_l", 1, "us_gal"), 4), round(to_litres("drained_l", 1, "imp_gal"), 4)
    (3.7854, 4.5461)
    """
    _known(field, unit, VOLUME_UNITS)
    return value * VOLUME_UNITS[unit]


def to_celsius(field: str, value: float, unit: str) -> float:
    """Temperature [degC] of a value in one of TEMPERATURE_UNITS; raises CoreError (unknown_unit).

    >>> round(to_celsius("target_freeze_c", -34, "degF"), 1)
    -36.7
    """
    _known(field, unit, TEMPERATURE_UNITS)
    return (value - 32) / 1.8 if unit == "degF" else value
