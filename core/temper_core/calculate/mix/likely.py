"""How sure a mix is: intervals, and which input the doubt comes from."""

from __future__ import annotations

from dataclasses import dataclass, field

from temper_core.basis.uncertainty import half_width


@dataclass(frozen=True, slots=True)
class Likely:
    """95 % interval of the freeze point, and how many of the cases could not be at all."""

    freeze_c_low: float
    freeze_c_high: float
    refused_percent: float


@dataclass(frozen=True, slots=True)
class LitresSpread:
    """How far the right litres may lie from the planned ones: half-widths of 95 % intervals [l]."""

    concentrate_l: float
    water_l: float


MIX_INPUT_NAMES = {
    "loop_volume_l": "capacity",
    "drained_l": "drained",
    "inside_strength_percent": "strength inside",
    "glycol_mass_percent": "glycol in the product",
}
MIX_INPUT_MEASURED = {
    "loop_volume_l": "measured",
    "drained_l": "weighed",
    "inside_strength_percent": "read",
    "glycol_mass_percent": "known",
}


@dataclass(frozen=True, slots=True)
class InputShare:
    """What one uncertain input does: its standard deviation, and its share of the variance of the strength.

    measured_sd and the interval [degC] with it: what measuring this one input would gain; None where it would not.
    half: of the 95 % interval.
    """

    name: str
    sd: float
    share_percent: float
    measured_sd: float | None = None
    freeze_c_low: float | None = None
    freeze_c_high: float | None = None
    half: float = field(init=False, default=0.0)

    def __post_init__(self) -> None:
        object.__setattr__(self, "half", half_width(self.sd))
