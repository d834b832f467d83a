"""What the calculators take and give, in JSON; see CONTRACT in docs/guide.md. Numbers are strictly numbers."""

from __future__ import annotations

from typing import Literal

from config.boundary import Answer, Body, Number
from temper_core import mix as core_mix
from temper_core import reading as core_reading
from temper_core.glycol import Glycol
from temper_core.glycol.density import DEFAULT_CONCENTRATE
from temper_core.quantity import MassFraction, VolumePercent


class InsideIn(Body):
    """What is still inside."""

    volume_l: Number
    strength_percent: Number = 0.0


class ConcentrateIn(Body):
    """The concentrate in use."""

    glycol_mass_percent: Number = DEFAULT_CONCENTRATE * 100


class SpreadIn(Body):
    """Standard deviations."""

    loop_volume_l: Number = 0.0
    drained_l: Number = 0.0
    inside_strength_percent: Number = 0.0
    glycol_mass_percent: Number = 0.0


class MixIn(Body):
    """How much concentrate and water?"""

    glycol: Literal["ethylene", "propylene"]
    loop_volume_l: Number
    inside: InsideIn
    target_freeze_c: Number
    concentrate: ConcentrateIn = ConcentrateIn()
    spread: SpreadIn | None = None

    def to_core(self) -> core_mix.MixQuestion:
        """The question as the core takes it; raises CoreError."""
        return core_mix.MixQuestion(
            glycol=Glycol(self.glycol),
            loop_volume_l=self.loop_volume_l,
            inside=core_mix.Inside(self.inside.volume_l, VolumePercent(self.inside.strength_percent)),
            target_freeze_c=self.target_freeze_c,
            concentrate=MassFraction(self.concentrate.glycol_mass_percent / 100),
            spread=core_mix.Spread(**dict(self.spread)) if self.spread else None,
        )


class MixOut(Answer):
    """Litres to pour; when feasible is false, the best that can be had and the reason."""

    feasible: bool
    concentrate_l: float
    water_l: float
    blend_percent: float
    final: core_mix.Final
    likely: core_mix.Likely | None
    likely_with_curve: core_mix.Likely | None
    litres_spread: core_mix.LitresSpread | None
    reason: core_mix.Infeasible | None


class ReadingIn(Body):
    """What does this reading come to? value and zero in degC on the scale."""

    glycol: Literal["ethylene", "propylene"]
    scale: Literal["freeze_ethylene", "freeze_propylene"]
    value: Number
    sample_c: Number = 20.0
    compensated: bool = True
    zero: Number = 0.0
    resolution: Number = 1.0

    def to_core(self) -> core_reading.ReadingQuestion:
        """The question as the core takes it; raises CoreError."""
        return core_reading.ReadingQuestion(
            glycol=Glycol(self.glycol),
            scale=core_reading.Scale(self.scale),
            value=self.value,
            sample_c=self.sample_c,
            compensated=self.compensated,
            zero=self.zero,
            resolution=self.resolution,
        )


class ReadingOut(Answer):
    """The corrected reading; numbers are null off scale."""

    refractive_index_20c: float | None
    glycol_mass_percent: float | None
    strength_percent: float | None
    freeze_c: float | None
    freeze_below_c: float | None
    boil_c: float | None
    spread: core_reading.ReadingSpread | None
    below_detection: bool
    flags: tuple[core_reading.Flag, ...]
