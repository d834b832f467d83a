"""Boiling point of a glycol-water solution at an absolute pressure."""

from __future__ import annotations

import math

from temper_core.basis.errors import check_between
from temper_core.basis.quantity import ABSOLUTE_ZERO_C
from temper_core.science.data import PURE
from temper_core.science.record import Glycol

ATMOSPHERE_KPA = 101.325
_WATER_MOLAR_MASS_G = 18.01528
_WATER_CRITICAL_K, _WATER_CRITICAL_KPA = 647.096, 22064.0
_WATER_TERMS = (
    (-7.85951783, 1.0),
    (1.84408259, 1.5),
    (-11.7866497, 3.0),
    (22.6807411, 3.5),
    (-15.9618719, 4.0),
    (1.80122502, 7.5),
)


def water_vapour_kpa(t_c: float) -> float:
    """Saturation pressure of water [kPa absolute] at t_c [degC]. Source: IAPWS SR1-86 (1992), equation 1."""
    t_k = t_c - ABSOLUTE_ZERO_C
    tau = 1 - t_k / _WATER_CRITICAL_K
    return _WATER_CRITICAL_KPA * math.exp(_WATER_CRITICAL_K / t_k * sum(a * tau**e for a, e in _WATER_TERMS))


def glycol_vapour_kpa(glycol: Glycol, t_c: float) -> float:
    """Vapour pressure of the neat glycol [kPa absolute] at t_c [degC]. Source: PURE[glycol].vapour_source."""
    a, b, c, d, e = PURE[glycol].vapour
    t_k = t_c - ABSOLUTE_ZERO_C
    return math.exp(a + b / t_k + c * math.log(t_k) + d * t_k**e) / 1000


def boil_c(glycol: Glycol, glycol_w: float, absolute_kpa: float = ATMOSPHERE_KPA) -> float:
    """Boiling point [degC] of a solution; glycol_w: mass fraction, 0 to 1; pressure 20 to 500 kPa absolute.

    Raoult's law for both, within about 1 K of the handbooks up to 60 % by mass. Raises OutOfRange.
    >>> round(boil_c(Glycol.ETHYLENE, 0.0), 1), round(boil_c(Glycol.ETHYLENE, 0.5), 0)
    (100.0, 107.0)
    """
    check_between("glycol_mass_percent", glycol_w * 100, 0, 100, "% by mass")
    check_between("absolute_kpa", absolute_kpa, 20, 500, "kPa")
    glycol_mol = glycol_w / PURE[glycol].molar_mass_g
    share = glycol_mol / (glycol_mol + (1 - glycol_w) / _WATER_MOLAR_MASS_G)

    def excess(t_c: float) -> float:
        pressure = (1 - share) * water_vapour_kpa(t_c) + share * glycol_vapour_kpa(glycol, t_c)
        return math.log(pressure / absolute_kpa)

    before, now = 100.0, 110.0
    f_before, f_now = excess(before), excess(now)
    for _ in range(20):  # secant; ln p is nearly straight, five steps are usual
        if abs(f_now) < 1e-10 or f_now == f_before:
            break
        before, now, f_before = now, now - f_now * (now - before) / (f_now - f_before), f_now
        f_now = excess(now)
    return now
