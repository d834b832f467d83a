"""Freeze points of a glycol-water solution, and which strength has a given freeze point."""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.quantity import MassFraction
from temper_core.science.data import FREEZE, SECOND_ETHYLENE_WARMER, TURNED_BACK
from temper_core.science.record import FreezeCurve, Glycol

UNTABULATED_BELOW_C = -50.0
UNKNOWN_FROM_W = 0.78  # from here to 80 % the handbooks' own slope is already warmer than -50: nobody can tell
COLDEST_TARGET_C = {Glycol.ETHYLENE: -50.0, Glycol.PROPYLENE: -45.0}
_ON_TURNED_BACK = TURNED_BACK.flipped()


class Branch(StrEnum):
    """Two strengths of ethylene glycol can share a freeze point."""

    LEAN = "lean"
    RICH = "rich"


@dataclass(frozen=True, slots=True)
class FreezePoint:
    """Freeze point: `freeze_c` [degC], or None with `freeze_below_c` where nobody tabulates it; both None: unknown."""

    freeze_c: float | None
    freeze_below_c: float | None = None
    branch: Branch = Branch.LEAN

    @property
    def at_most_c(self) -> float:
        """The freeze point, or the warmest that it may be [degC]."""
        if self.freeze_c is not None:
            return self.freeze_c
        return TURNED_BACK.points[0][1] if self.freeze_below_c is None else self.freeze_below_c


def _series(curve: FreezeCurve, glycol_w: float) -> float:
    molality = 1000 * glycol_w / (1 - glycol_w) / curve.molar_mass_g
    factor = 0.0
    for c in reversed(curve.coefficients):
        factor = (factor + c) * molality
    return -curve.kf * molality * (1 + factor)


def freeze_point(glycol: Glycol, glycol_w: MassFraction) -> FreezePoint:
    """Freeze point of a solution; glycol_w: mass fraction [kg/kg], 0 to 1.

    Ethylene from 60 to 80 % and propylene above 60 % by mass are tabulated by no source: no figure is made up. From 78 to
    80 % ethylene is not even known to be below -50.
    Raises OutOfRange outside 0 to 1. Source: FREEZE[glycol].source; past the gap TURNED_BACK.source.
    >>> round(freeze_point(Glycol.ETHYLENE, MassFraction(0.50)).freeze_c, 1)
    -36.0
    """
    check_between("glycol_mass_percent", glycol_w * 100, 0, 100, "% by mass")
    curve = FREEZE[glycol]
    if glycol_w in curve.glycol_w:
        return FreezePoint(_series(curve, glycol_w))
    if glycol is Glycol.ETHYLENE and glycol_w >= TURNED_BACK.points[0][0]:
        return FreezePoint(TURNED_BACK.at(glycol_w), None, Branch.RICH)
    if glycol is Glycol.ETHYLENE and glycol_w >= UNKNOWN_FROM_W:
        return FreezePoint(None, None, Branch.RICH)
    return FreezePoint(None, UNTABULATED_BELOW_C, Branch.RICH)


def mass_fraction_at_freeze(glycol: Glycol, freeze_c: float, branch: Branch = Branch.LEAN) -> MassFraction:
    """Mass fraction [kg/kg] whose freeze point is freeze_c [degC]; inverse of freeze_point on one branch.

    Raises OutOfRange past the coldest target (-50 ethylene, -45 propylene) or above 0, CoreError for a rich branch
    that does not exist.
    """
    if branch is Branch.RICH:
        if glycol is Glycol.PROPYLENE:
            raise CoreError("branch", "Propylene glycol has no rich branch with known freeze points: use lean.", "no_branch")
        coldest, warmest = TURNED_BACK.points[0][1], TURNED_BACK.points[-1][1]
        check_between("freeze_c", freeze_c, coldest, warmest, "°C", "A strength past the turn freezes between these.")
        return MassFraction(_ON_TURNED_BACK.at(freeze_c))
    todo = _WARMER_TODO if freeze_c > 0 else _COLDER_TODO
    check_between("freeze_c", freeze_c, COLDEST_TARGET_C[glycol], 0, "°C", todo)
    return _lean_w(glycol, freeze_c)


_GRID = 60


@lru_cache
def _depressions(glycol: Glycol) -> list[float]:
    """Depression of the freeze point [K] at even steps of the lean curve, rising: where to start looking."""
    curve = FREEZE[glycol]
    return [-_series(curve, curve.glycol_w.high * i / _GRID) for i in range(_GRID + 1)]


def _lean_w(glycol: Glycol, freeze_c: float) -> MassFraction:
    """Mass fraction on the lean curve, between two grid points by regula falsi (Illinois), to a billionth of a kelvin."""
    curve, depressions = FREEZE[glycol], _depressions(glycol)
    i = max(1, bisect_left(depressions, -freeze_c))
    step = curve.glycol_w.high / _GRID
    low, high = step * (i - 1), step * i
    gap_low, gap_high = -depressions[i - 1] - freeze_c, -depressions[i] - freeze_c
    w, side = low, 0
    for _ in range(60):
        if gap_low == gap_high:
            break
        w = low + (high - low) * gap_low / (gap_low - gap_high)
        gap = _series(curve, w) - freeze_c
        if abs(gap) < 1e-11:
            break
        if gap > 0:
            low, gap_low = w, gap
            gap_high = gap_high / 2 if side > 0 else gap_high
            side = 1
        else:
            high, gap_high = w, gap
            gap_low = gap_low / 2 if side < 0 else gap_low
            side = -1
    return MassFraction(w)


_COLDER_TODO = "No handbook goes colder, and more concentrate protects less. Set a warmer target."
_WARMER_TODO = "Enter the freeze point with its minus sign."


def curve_doubt_k(glycol: Glycol, glycol_w: float) -> float:
    """How much warmer [K] the other published curve is at this strength; one-sided, 0 for propylene.

    Source: SECOND_ETHYLENE_WARMER.source. Past 60 % by mass the last value is carried on.
    """
    if glycol is Glycol.PROPYLENE:
        return 0.0
    return SECOND_ETHYLENE_WARMER.at(min(glycol_w, SECOND_ETHYLENE_WARMER.points[-1][0]))
