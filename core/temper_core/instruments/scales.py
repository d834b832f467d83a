"""The scales a strength is read on: what a mark on each means on the axis that the instrument really measures.

A refractometer measures the refractive index, whatever is engraved on it; a hydrometer measures the density, given here
over that of water at 20 degC. Every correction is made on that axis.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.quantity import VolumePercent
from temper_core.science import (
    COLDEST_TARGET_C,
    Glycol,
    brix_index_20c,
    mass_fraction_at_freeze,
    mass_fraction_of,
    refractive_index_20c,
)
from temper_core.science.data import FREEZE, WATER_INDEX_20C
from temper_core.science.index import index_on_scale


class Scale(StrEnum):
    """Scales a reading can be taken on."""

    FREEZE_ETHYLENE = "freeze_ethylene"
    FREEZE_PROPYLENE = "freeze_propylene"
    BRIX = "brix"
    REFRACTIVE_INDEX = "refractive_index"
    SPECIFIC_GRAVITY = "specific_gravity"
    STRENGTH_ETHYLENE = "strength_ethylene"
    STRENGTH_PROPYLENE = "strength_propylene"

    @property
    def glycol(self) -> Glycol | None:
        """The glycol this scale was engraved for; None where it says nothing of glycol."""
        return FACTS[self].glycol


SCALE_NAMES = {
    Scale.FREEZE_ETHYLENE: "ethylene scale",
    Scale.FREEZE_PROPYLENE: "propylene scale",
    Scale.BRIX: "Brix scale",
    Scale.REFRACTIVE_INDEX: "refractive index",
    Scale.SPECIFIC_GRAVITY: "specific gravity",
    Scale.STRENGTH_ETHYLENE: "% ethylene glycol",
    Scale.STRENGTH_PROPYLENE: "% propylene glycol",
}


@dataclass(frozen=True, slots=True)
class ScaleFacts:
    """low to high: what can be typed, beyond it a figure was mistyped. first to last: what the scale shows.

    water: where water reads. zero_reach: how far from there a zero can be. resolution: one division, if not stated.
    """

    glycol: Glycol | None
    unit: str
    low: float
    high: float
    first: float
    last: float
    water: float
    zero_reach: float
    resolution: float


_PAST_ZERO_C = 10.0  # how far past zero a line can still be seen
FACTS: dict[Scale, ScaleFacts] = {
    Scale.FREEZE_ETHYLENE: ScaleFacts(Glycol.ETHYLENE, "°C", -80, _PAST_ZERO_C, -50, _PAST_ZERO_C, 0.0, 10, 1.0),
    Scale.FREEZE_PROPYLENE: ScaleFacts(Glycol.PROPYLENE, "°C", -80, _PAST_ZERO_C, -45, _PAST_ZERO_C, 0.0, 10, 1.0),
    Scale.BRIX: ScaleFacts(None, "Brix", -10, 100, -10, 85, 0.0, 10, 0.2),
    Scale.REFRACTIVE_INDEX: ScaleFacts(None, "", 1.30, 1.60, 1.30, 1.60, WATER_INDEX_20C, 0.02, 0.0005),
    Scale.SPECIFIC_GRAVITY: ScaleFacts(None, "", 0.95, 1.20, 0.95, 1.20, 1.0, 0.03, 0.002),
    Scale.STRENGTH_ETHYLENE: ScaleFacts(Glycol.ETHYLENE, "% by volume", -10, 110, -10, 100, 0.0, 10, 1.0),
    Scale.STRENGTH_PROPYLENE: ScaleFacts(Glycol.PROPYLENE, "% by volume", -10, 110, -10, 100, 0.0, 10, 1.0),
}


def is_off_scale(scale: Scale, value: float) -> bool:
    """Whether the mark lies past the end of the scale: there no number is known."""
    facts = FACTS[scale]
    return not facts.first <= value <= facts.last


def depression_k_per_w(glycol: Glycol) -> float:
    """How fast the freeze point falls with the mass fraction at zero strength [K]."""
    curve = FREEZE[glycol]
    return 1000 * curve.kf / curve.molar_mass_g


def mark(scale: Scale, value: float) -> float:
    """Where a mark stands on the instrument's own axis: index at 20 degC, or density over water's at 20 degC.

    Past zero a glycol scale goes on with its slope at zero. Raises OutOfRange past the end of the scale.
    >>> round(mark(Scale.FREEZE_ETHYLENE, -36.0), 4), mark(Scale.SPECIFIC_GRAVITY, 1.065)
    (1.3831, 1.065)
    """
    glycol = scale.glycol
    if scale is Scale.BRIX:
        return brix_index_20c(value)
    if glycol is None:
        return value
    if scale in (Scale.FREEZE_ETHYLENE, Scale.FREEZE_PROPYLENE):
        if value > 0:
            return index_on_scale(glycol, -value / depression_k_per_w(glycol))
        return refractive_index_20c(glycol, mass_fraction_at_freeze(glycol, max(value, COLDEST_TARGET_C[glycol])))
    if value < 0:
        return index_on_scale(glycol, value * mass_fraction_of(glycol, VolumePercent(1.0)))
    return refractive_index_20c(glycol, mass_fraction_of(glycol, VolumePercent(value)))
