"""The property that an instrument really measures, over the strength of a sample: an index, or a density over water's."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction
from temper_core.instruments.question import ReadingQuestion
from temper_core.instruments.scales import Scale
from temper_core.science import Glycol, density_20c, index_shift, refractive_index_20c
from temper_core.science.thermal import density

FLAT_PROPYLENE_W = 0.50  # above it the density of propylene glycol solutions hardly rises


@dataclass(frozen=True, slots=True)
class Axis:
    """The property the instrument measures, of a solution as it is in the sample (at) and at 20 degC; rising with w."""

    at: Callable[[float], float]
    at_20c: Callable[[float], float]
    top_w: float

    def glycol_w(self, value: float) -> MassFraction | None:
        """Mass fraction of the solution with this value; None past the strongest that can be read."""
        low, high = 0.0, self.top_w
        if value > self.at(high):
            return None
        for _ in range(44):
            middle = (low + high) / 2
            low, high = (middle, high) if self.at(middle) < value else (low, middle)
        return MassFraction((low + high) / 2)


def axis_of(q: ReadingQuestion) -> Axis:
    """Index or relative density, at the sample's temperature unless the instrument compensates for it."""
    glycol, t_c = q.glycol, q.sample_c
    if q.scale is Scale.SPECIFIC_GRAVITY:
        top = FLAT_PROPYLENE_W if glycol is Glycol.PROPYLENE else 1.0

        def gravity_20c(w: float) -> float:
            return density_20c(glycol, w) / WATER_DENSITY_20C

        def gravity(w: float) -> float:
            return density(glycol, w, t_c) / WATER_DENSITY_20C

        return Axis(gravity_20c if q.compensated else gravity, gravity_20c, top)

    def index_20c(w: float) -> float:
        return refractive_index_20c(glycol, w)

    def index(w: float) -> float:
        return index_20c(w) + index_shift(glycol, w, t_c)

    return Axis(index_20c if q.compensated else index, index_20c, 1.0)


def per_axis(axis: Axis, w: float) -> float:
    """Mass fraction per unit of the axis there."""
    step = 1e-3
    low = min(max(0.0, w - step / 2), axis.top_w - step)
    return step / (axis.at(low + step) - axis.at(low))
