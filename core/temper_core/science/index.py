"""Refractive index at 20 degC (sodium D line): the axis on which every refractometer really measures."""

from __future__ import annotations

from functools import lru_cache

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction
from temper_core.science.data import BRIX, GLYCOL_INDEX_SLOPE, INDEX_RISE, WATER_INDEX_20C, WATER_INDEX_SHIFT
from temper_core.science.density import density_20c
from temper_core.science.record import Glycol


@lru_cache(maxsize=4096)
def refractive_index_20c(glycol: Glycol, glycol_w: float) -> float:
    """Refractive index of a solution at 20 degC; glycol_w: mass fraction, 0 to 1; monotonic. Raises OutOfRange.

    Source: INDEX_RISE[glycol].source, water from IAPWS R9-97.
    >>> round(refractive_index_20c(Glycol.ETHYLENE, 0.5), 3)
    1.383
    """
    check_between("glycol_mass_percent", glycol_w * 100, 0, 100, "% by mass")
    return _index(glycol, glycol_w)


def _index(glycol: Glycol, glycol_w: float) -> float:
    a, b, c = INDEX_RISE[glycol].coefficients
    return WATER_INDEX_20C + glycol_w * (a + glycol_w * (b + glycol_w * c))


def index_by_mixing(glycol: Glycol, glycol_w: float) -> float:
    """Refractive index at 20 degC by a second road: molar refractions add up (Lorentz and Lorenz), by mass.

    Needs only the neat liquids' indices and the density of the solution. Source: any handbook of physical chemistry; the
    neat glycol's index is that of refractive_index_20c.
    >>> round(1e4 * (index_by_mixing(Glycol.ETHYLENE, 0.5) - refractive_index_20c(Glycol.ETHYLENE, 0.5)))
    7
    """
    neat, density = _index(glycol, 1.0), density_20c(glycol, glycol_w)
    water, pure = (_refraction(n) / rho for n, rho in ((WATER_INDEX_20C, WATER_DENSITY_20C), (neat, density_20c(glycol, 1))))
    refraction = ((1 - glycol_w) * water + glycol_w * pure) * density
    return float(((1 + 2 * refraction) / (1 - refraction)) ** 0.5)


def _refraction(index: float) -> float:
    return (index * index - 1) / (index * index + 2)


@lru_cache(maxsize=1024)
def index_doubt(glycol: Glycol, glycol_w: float) -> float:
    """Standard deviation of the index at a strength, where it has to stand for another quantity.

    The two roads differ, and nothing at hand says which is right: the truth is taken to lie anywhere between them.
    """
    return abs(index_by_mixing(glycol, glycol_w) - _index(glycol, glycol_w)) / 3**0.5


def index_shift(glycol: Glycol, glycol_w: float, t_c: float) -> float:
    """Index at t_c less index at 20 degC; glycol_w: mass fraction, 0 to 1; t_c: 0 to 60 degC. Raises OutOfRange.

    Water's own fall and the neat glycol's, shared by mass. Source: WATER_INDEX_SHIFT.source, GLYCOL_INDEX_SLOPE.
    >>> round(index_shift(Glycol.ETHYLENE, 0.5, 30), 4)
    -0.0018
    """
    low, high = WATER_INDEX_SHIFT.range.low, WATER_INDEX_SHIFT.range.high
    check_between("sample_c", t_c, low, high, "°C", "Let the sample come to room temperature.")
    water = WATER_INDEX_SHIFT.at(t_c)
    return water + glycol_w * (GLYCOL_INDEX_SLOPE[glycol].at(t_c) - water)


def brix_index_20c(brix: float) -> float:
    """Refractive index at 20 degC of a mark on a Brix scale, 0 to 85; below 0 it goes on with the slope at 0.

    Raises OutOfRange past the end. Source: BRIX.source.
    >>> round(brix_index_20c(30), 4)
    1.3811
    """
    if brix < 0:
        return WATER_INDEX_20C + BRIX.coefficients[0] * brix
    check_between("value", brix, 0, BRIX.range.high, "Brix", "Past the end of the scale there is no number.")
    return WATER_INDEX_20C + BRIX.at(brix)


def index_on_scale(glycol: Glycol, glycol_w: float) -> float:
    """Index at a scale mark; below zero strength the scale goes on with its slope at zero."""
    if glycol_w >= 0:
        return refractive_index_20c(glycol, glycol_w)
    return WATER_INDEX_20C + INDEX_RISE[glycol].coefficients[0] * glycol_w


def mass_fraction_at_index(glycol: Glycol, index: float) -> MassFraction:
    """Mass fraction of the solution with this index at 20 degC; inverse of refractive_index_20c.

    Raises CoreError (off_scale) outside water to neat glycol.
    """
    low, high = 0.0, 1.0
    n_low, n_high = _index(glycol, low), _index(glycol, high)
    if not n_low <= index <= n_high:
        raise CoreError(
            "value", f"An index of {index:.4f} lies outside {n_low:.4f} to {n_high:.4f}: off scale.", "off_scale"
        )
    for _ in range(44):
        middle = (low + high) / 2
        if _index(glycol, middle) < index:
            low = middle
        else:
            high = middle
    return MassFraction((low + high) / 2)
