"""Density at 20 degC, and the two ways of saying how strong a mix is: by mass, and by volume of concentrate."""

from __future__ import annotations

from functools import lru_cache

from temper_core.basis.errors import check_between
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.science.data import PURE
from temper_core.science.record import Glycol

DEFAULT_CONCENTRATE = MassFraction(0.95)  # what every strength_percent counts in; source: common practice, no source


@lru_cache(maxsize=4096)
def density_20c(glycol: Glycol, glycol_w: float) -> float:
    """Density [kg/m3] of a solution at 20 degC; glycol_w: mass fraction, 0 to 1.

    Ideal mixing of the pure volumes and an excess volume. Raises OutOfRange.
    Source: PURE[glycol].source and .excess_source; above 60 % by mass the excess is carried on, not measured.
    >>> round(density_20c(Glycol.ETHYLENE, 0.5), 0)
    1065.0
    """
    check_between("glycol_mass_percent", glycol_w * 100, 0, 100, "% by mass")
    pure = PURE[glycol]
    skew = 1 - 2 * glycol_w
    excess = sum(c * skew**k for k, c in enumerate(pure.excess_volume)) * glycol_w * (1 - glycol_w)
    return 1 / ((1 - glycol_w) / WATER_DENSITY_20C + glycol_w / pure.density + excess)


@lru_cache
def specific_volume(glycol: Glycol) -> tuple[float, float, float, float, float, float]:
    """Litres at 20 degC of one kilogram: density_20c the other way, as a polynomial of the mass fraction.

    Lowest power first, with zeros up to the fifth.

    >>> c = specific_volume(Glycol.ETHYLENE)
    >>> round(1000 / sum(a * 0.5**k for k, a in enumerate(c)), 0)
    1065.0
    """
    pure = PURE[glycol]
    skew, excess = [1.0], [0.0]
    for c in pure.excess_volume:
        excess = _plus(excess, [c * a for a in skew])
        skew = _times(skew, [1.0, -2.0])
    straight = [1 / WATER_DENSITY_20C, 1 / pure.density - 1 / WATER_DENSITY_20C]
    a, b, c, d, e, f = (1000 * x for x in _plus(_plus(straight, _times(excess, [0.0, 1.0, -1.0])), [0.0] * 6))
    return a, b, c, d, e, f


def _plus(a: list[float], b: list[float]) -> list[float]:
    longest = max(len(a), len(b))
    return [(a[i] if i < len(a) else 0.0) + (b[i] if i < len(b) else 0.0) for i in range(longest)]


def _times(a: list[float], b: list[float]) -> list[float]:
    product = [0.0] * (len(a) + len(b) - 1)
    for i, x in enumerate(a):
        for k, y in enumerate(b):
            product[i + k] += x * y
    return product


def volume_l(glycol: Glycol, glycol_kg: float, water_kg: float) -> float:
    """Volume [l] at 20 degC of so much glycol and water [kg], mixed; contraction included."""
    total = glycol_kg + water_kg
    return 1000 * total / density_20c(glycol, glycol_kg / total) if total > 0 else 0.0


def mass_fraction_of(
    glycol: Glycol, strength: VolumePercent, concentrate: MassFraction = DEFAULT_CONCENTRATE
) -> MassFraction:
    """Mass fraction of glycol in a fresh mix of `strength` % by volume of a concentrate, measured before mixing.

    strength: 0 to 100 (%). Raises OutOfRange.
    >>> round(mass_fraction_of(Glycol.ETHYLENE, VolumePercent(50)), 3)
    0.5
    """
    check_between("strength_percent", strength, 0, 100, "% by volume")
    s = strength / 100
    concentrate_kg = s * density_20c(glycol, concentrate)
    return MassFraction(concentrate * concentrate_kg / (concentrate_kg + (1 - s) * WATER_DENSITY_20C))


def strength_of(glycol: Glycol, glycol_w: MassFraction, concentrate: MassFraction = DEFAULT_CONCENTRATE) -> VolumePercent:
    """Strength [% by volume of a concentrate] of a solution; inverse of mass_fraction_of.

    More than 100 % means purer than that concentrate. Raises OutOfRange for a mass fraction outside 0 to 1.
    """
    check_between("glycol_mass_percent", glycol_w * 100, 0, 100, "% by mass")
    concentrate_m3 = glycol_w / concentrate / density_20c(glycol, concentrate)
    water_m3 = (1 - glycol_w / concentrate) / WATER_DENSITY_20C
    return VolumePercent(100 * concentrate_m3 / (concentrate_m3 + water_m3))
