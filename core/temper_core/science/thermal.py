"""Density away from 20 degC: what a volume measured warm is at 20 degC, and how far a filled loop rises."""

from __future__ import annotations

import math

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import say
from temper_core.basis.quantity import MassFraction
from temper_core.science.data import EXPANSION
from temper_core.science.density import density_20c
from temper_core.science.freezing import freeze_point
from temper_core.science.record import Glycol

SETTLING_K = 0.05  # a loop held at its freeze point by rounding is not called ice


def density(glycol: Glycol, glycol_w: float, t_c: float) -> float:
    """Density [kg/m3] of a liquid solution; glycol_w: mass fraction, 0 to 1; t_c: -40 to 130 degC.

    Raises OutOfRange outside that, CoreError (frozen) below the freeze point. See is_extrapolated for how well it is known.
    Source: EXPANSION[glycol].source over density_20c.
    >>> round(density(Glycol.ETHYLENE, 0.5, 80), 0)
    1026.0
    """
    record = EXPANSION[glycol]
    check_between("temperature_c", t_c, record.temperature_c.low, record.extrapolated_to_c, "°C", "Check the temperature.")
    first_ice = freeze_point(glycol, MassFraction(glycol_w)).freeze_c
    if first_ice is not None and t_c < first_ice - SETTLING_K:
        words = "At {at_c} there is ice in it: it freezes at {freeze_c}. Ask for a warmer temperature."
        raise CoreError("temperature_c", say("frozen", words, at_c=t_c, freeze_c=first_ice))
    return density_20c(glycol, glycol_w) * _ratio(glycol, glycol_w, t_c)


def _ratio(glycol: Glycol, glycol_w: float, t_c: float) -> float:
    """Density at t_c over density at 20 degC."""
    s = (t_c - 20) / 100
    total = 0.0
    for row in reversed(EXPANSION[glycol].coefficients):
        by_temperature = 0.0
        for c in reversed(row):
            by_temperature = (by_temperature + c) * s
        total = total * glycol_w + by_temperature
    return math.exp(total)


def is_extrapolated(glycol: Glycol, glycol_w: float, t_c: float) -> bool:
    """Whether a density is carried on beyond what its source tabulates."""
    record = EXPANSION[glycol]
    return glycol_w not in record.glycol_w or t_c not in record.temperature_c


def litres_at_20c(glycol: Glycol, glycol_w: float, litres: float, t_c: float) -> float:
    """Litres at 20 degC of litres measured at t_c [degC]; mass is what stays.

    >>> round(litres_at_20c(Glycol.ETHYLENE, 0.5, 24.5, 45), 1)
    24.2
    """
    return litres * density(glycol, glycol_w, t_c) / density_20c(glycol, glycol_w)
