"""Ambient pressure at an altitude."""

from __future__ import annotations

from temper_core.basis.errors import check_between

LOWEST_M, HIGHEST_M = -450.0, 5500.0  # the lowest shore and the highest road


def ambient_kpa(altitude_m: float) -> float:
    """Pressure of the standard atmosphere [kPa absolute]; altitude_m: -450 to 5500 m. Raises OutOfRange.

    Source: US Standard Atmosphere 1976, lowest layer (lapse rate 6.5 K/km).
    >>> round(ambient_kpa(0), 3), round(ambient_kpa(1120), 1)
    (101.325, 88.6)
    """
    todo = "Altitude in metres above the sea is meant."
    check_between("altitude_m", altitude_m, LOWEST_M, HIGHEST_M, "m", todo)
    return float(101.325 * (1 - 0.0065 * altitude_m / 288.15) ** 5.25588)
