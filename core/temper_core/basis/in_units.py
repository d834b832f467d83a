"""A message in other units: the same template, its figures converted by their names. Source: NIST SP 811."""

from __future__ import annotations

import string
from enum import StrEnum

from temper_core.basis.message import MINUS, Message, warm_side
from temper_core.basis.quantity import MILE_KM, PSI_KPA, VOLUME_UNITS


class System(StrEnum):
    """How a person reads quantities."""

    METRIC = "metric"
    US = "us"
    IMPERIAL = "imperial"


def _number(value: float, decimals: int) -> str:
    return f"{round(value, decimals) + 0.0:.{decimals}f}".replace("-", MINUS)


def volume_in(litres: float, system: System) -> str:
    """Litres as read in a system.

    >>> volume_in(24.5, System.US), volume_in(24.5, System.IMPERIAL)
    ('25.9 US qt', '5.39 imp gal')
    """
    if system is System.US:
        return f"{_number(litres / VOLUME_UNITS['us_qt'], 1)} US qt"
    if system is System.IMPERIAL:
        return f"{_number(litres / VOLUME_UNITS['imp_gal'], 2)} imp gal"
    return f"{_number(litres, 1)} L"


def temperature_in(celsius: float, system: System, decimals: int = 1) -> str:
    """A temperature as read in a system.

    >>> temperature_in(-36.7, System.US, 0)
    '−34 °F'
    """
    return f"{_number(celsius * 1.8 + 32, decimals)} °F" if system is System.US else f"{_number(celsius, decimals)} °C"


def _figure(name: str, value: float, decimals: int, system: System) -> str:
    if name.startswith("safe"):
        shown = value * 1.8 + 32 if system is System.US else value
        warm = warm_side(shown, decimals)
        return f"{_number(warm, decimals)} {'°F' if system is System.US else '°C'}"
    if name.endswith("_c"):
        return temperature_in(value, system, decimals)
    if name.endswith("_l"):
        return volume_in(value, system)
    if name.endswith("_k"):
        return f"{_number(value * 1.8, 1)} °F" if system is System.US else f"{_number(value, decimals)} K"
    if name.endswith("_kpa") and system is not System.METRIC:
        return f"{_number(value / PSI_KPA, 1)} psi"
    if name.endswith("_km") and system is not System.METRIC:
        return f"{_number(value / MILE_KM, decimals)} mi"
    unit = " km" if name.endswith("_km") else " kPa" if name.endswith("_kpa") else " %" if name.endswith("_percent") else ""
    return f"{_number(value, decimals)}{unit}"


def shown_in(said: Message, system: System) -> str:
    """A message's sentence with its figures in another system."""
    if system is System.METRIC:
        return said.sentence
    parts = []
    for literal, name, decimals, _ in string.Formatter().parse(said.template):
        parts.append(literal)
        if name is not None:
            value = said.values[name]
            parts.append(value if isinstance(value, str) else _figure(name, value, int(decimals) if decimals else 1, system))
    return "".join(parts)
