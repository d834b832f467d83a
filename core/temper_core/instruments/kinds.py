"""The kinds of instrument, and what each can say: a strength, only "at least", bands, or how well it conducts."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.instruments.scales import FACTS, Scale
from temper_core.instruments.steps import StepTester

ENDS = "The range its maker states for the compensation."
STRENGTHS = frozenset({Scale.STRENGTH_ETHYLENE, Scale.STRENGTH_PROPYLENE})
FREEZES = frozenset({Scale.FREEZE_ETHYLENE, Scale.FREEZE_PROPYLENE})


class InstrumentKind(StrEnum):
    """What an instrument is."""

    OPTICAL = "optical"
    DIGITAL = "digital"
    HYDROMETER = "hydrometer"
    STEPS = "steps"
    STRIPS = "strips"
    CONDUCTIVITY = "conductivity"


@dataclass(frozen=True, slots=True)
class KindFacts:
    """name as the trade says it; scales it can have; zeroed: whether demineralised water checks it; how it is used."""

    name: str
    scales: frozenset[Scale]
    zeroed: bool
    how: str


KINDS: dict[InstrumentKind, KindFacts] = {
    InstrumentKind.OPTICAL: KindFacts(
        "Optical refractometer",
        FREEZES | STRENGTHS | {Scale.BRIX, Scale.REFRACTIVE_INDEX},
        True,
        "Two or three drops, no bubbles, let it settle, read at the boundary, wipe.",
    ),
    InstrumentKind.DIGITAL: KindFacts(
        "Digital refractometer",
        FREEZES | STRENGTHS | {Scale.BRIX, Scale.REFRACTIVE_INDEX},
        True,
        "Cover the prism, let it settle, take the reading, wipe.",
    ),
    InstrumentKind.HYDROMETER: KindFacts(
        "Hydrometer",
        frozenset({Scale.SPECIFIC_GRAVITY}),
        True,
        "Floating free, read at the level of the fluid, with the fluid's temperature.",
    ),
    InstrumentKind.STEPS: KindFacts(
        "Step tester", FREEZES, False, "Draw it full, tap the bubbles off, count the balls or discs that rose."
    ),
    InstrumentKind.STRIPS: KindFacts(
        "Test strips", frozenset(), False, "Dip, wait as the tube says, match the colour to its band: record it at Inspect."
    ),
    InstrumentKind.CONDUCTIVITY: KindFacts(
        "Conductivity meter", frozenset(), False, "Rinse the cell with the sample, read at 25 °C: record it at Inspect."
    ),
}


@dataclass(frozen=True, slots=True)
class InstrumentSpec:
    """What is engraved on an instrument. scale None: it reads no strength. resolution: one division.

    compensated: it shows what the sample would read at 20 degC, from low to high [degC] (None: the rules' range).
    freezes_c: a step tester's own table, the freeze point from which on so many steps show.
    """

    kind: InstrumentKind
    scale: Scale | None = None
    resolution: float | None = None
    compensated: bool = True
    compensation_low_c: float | None = None
    compensation_high_c: float | None = None
    freezes_c: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        facts = KINDS[self.kind]
        if not facts.scales:
            if self.scale is not None:
                raise CoreError("scale", f"{facts.name} read no strength: leave the scale out.", "no_scale")
            return
        if self.scale is None or self.scale not in facts.scales:
            allowed = ", ".join(sorted(scale.value for scale in facts.scales))
            raise CoreError("scale", f"The scale of a {facts.name.lower()} is one of: {allowed}.", "wrong_scale")
        if self.kind is InstrumentKind.STEPS:
            self.tester()
            return
        if self.freezes_c:
            raise CoreError("freezes_c", "Only a step tester has steps: leave them out.", "not_a_step_tester")
        if self.resolution is not None:
            usual, unit = FACTS[self.scale].resolution, FACTS[self.scale].unit
            todo = "One division of the instrument is meant."
            check_between("resolution", self.resolution, usual / 100, usual * 10, unit, todo)
        low, high = self.compensation_low_c, self.compensation_high_c
        if low is not None:
            check_between("compensation_low_c", low, -10, 20, "°C", ENDS)
        if high is not None:
            check_between("compensation_high_c", high, 20, 80, "°C", ENDS)

    def tester(self) -> StepTester:
        """The table of a step tester; raises CoreError."""
        if self.scale is None or self.scale.glycol is None:
            raise CoreError("scale", "Say which glycol its steps are engraved for.", "required")
        return StepTester(self.scale.glycol, self.freezes_c)
