"""What the frost rule is drawn from: how far a strength protects, on both legs of the curve."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from temper_core.basis.quantity import MassFraction
from temper_core.science import COLDEST_TARGET_C, Glycol, curve_doubt_k, freeze_point
from temper_core.science.data import TURNED_BACK


@dataclass(frozen=True, slots=True)
class ScaleMark:
    """A mark of the frost rule: strength in % by mass, freeze point in degC, and the warmer handbook's, if there is one."""

    glycol_mass_percent: float
    freeze_c: float
    warmer_c: float | None


@dataclass(frozen=True, slots=True)
class FrostScale:
    """What the frost rule is drawn from: the leg down to the coldest tabulated, and the leg that turns back."""

    glycol: Glycol
    coldest_c: float
    lean: tuple[ScaleMark, ...]
    rich: tuple[ScaleMark, ...]


@lru_cache
def frost_scale(glycol: Glycol) -> FrostScale:
    """Marks of the frost rule, from the curves; by whole percents of mass."""
    whole = [w / 100 for w in range(0, 60)]
    lean = [(w, freeze_point(glycol, MassFraction(w)).at_most_c) for w in whole]
    rich = TURNED_BACK.points if glycol is Glycol.ETHYLENE else ()
    coldest_c = COLDEST_TARGET_C[glycol]
    return FrostScale(
        glycol,
        coldest_c,
        tuple(_mark(w, t, t + curve_doubt_k(glycol, w) if rich else None) for w, t in lean if t >= coldest_c),
        tuple(_mark(w, t, None) for w, t in rich),
    )


def _mark(w: float, freeze_c: float, warmer_c: float | None) -> ScaleMark:
    return ScaleMark(100 * w, freeze_c, warmer_c)
