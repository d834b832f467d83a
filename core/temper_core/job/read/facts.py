"""Readings as facts of the ledger: on the bench, or imported from a list."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.policy import Policy
from temper_core.instruments import (
    EDGE_FLAGS,
    FACTS,
    Edge,
    Flag,
    InstrumentKind,
    InstrumentSpec,
    ReadingAnswer,
    ReadingQuestion,
    Scale,
    StepReading,
    read,
    read_steps,
)
from temper_core.job.fact import Fact
from temper_core.products.chemistry import Base
from temper_core.science import Branch, Glycol

NO_NUMBER = ReadingAnswer(None, None, None, None, None, None, None, False, ())
GLYCOL_FREE = Flag("glycol_free", "No glycol inside: it freezes like water, whatever the scale shows.")
NOT_GLYCOL_FREE = Flag(
    "not_glycol_free",
    "Entered as glycol-free, but it does not read like water: glycol, or much inhibitor. Enter current coolant.",
)
MIXED_BASES = Flag(
    "mixed_bases", "Another coolant was topped up. If its base differs, no scale fits the mixture: change type."
)
BASE_UNKNOWN = Flag(
    "base_unknown",
    "Base unknown: read as ethylene glycol. In propylene glycol the same reading means another strength.",
)


class Place(StrEnum):
    """Where and when a sample was taken."""

    AS_FOUND = "as_found"
    RINSE = "rinse"
    FINISHED = "finished"


PLACE_NAMES = {Place.AS_FOUND: "as found", Place.RINSE: "rinse", Place.FINISHED: "finished"}


@dataclass(frozen=True, slots=True)
class Instrument:
    """The instrument as it was when it read. bias_percent, bias_sd: what was learned of it; see ReadingQuestion.

    freezes_c: a step tester's table; see InstrumentSpec for the others."""

    id: str
    name: str
    scale: Scale
    resolution: float
    kind: InstrumentKind = InstrumentKind.OPTICAL
    compensated: bool = True
    compensation_low_c: float | None = None
    compensation_high_c: float | None = None
    freezes_c: tuple[float, ...] = ()
    bias_percent: float = 0.0
    bias_sd: float | None = None

    @property
    def steps(self) -> bool:
        """It only says "at least"."""
        return self.kind is InstrumentKind.STEPS

    @property
    def spec(self) -> InstrumentSpec:
        """What is engraved on it."""
        return InstrumentSpec(
            self.kind,
            self.scale,
            None if self.steps else self.resolution,
            self.compensated,
            self.compensation_low_c,
            self.compensation_high_c,
            self.freezes_c,
        )


@dataclass(frozen=True, slots=True)
class Read(Fact):
    """A strength reading, in the unit of the instrument's scale; of a step tester, the steps that show.

    after_hot_run: sampled after a thermostat-open, heater-hot run, cooled again. instrument None: a freeze temperature
    reported or remembered; branch says which of two strengths it means. edge: only a sharp one counts. zero None: none was
    taken.
    """

    value: float
    place: Place
    instrument: Instrument | None = None
    zero: float | None = None
    sample_c: float = 20.0
    after_hot_run: bool = False
    edge: Edge = Edge.SHARP
    branch: Branch = Branch.LEAN

    def __post_init__(self) -> None:
        check_between("sample_c", self.sample_c, -5, 60, "°C")
        if self.instrument is None:
            check_between("value", self.value, -50, 0, "°C", "A freeze point without an instrument.")
            if self.place is Place.FINISHED:
                raise CoreError(
                    "instrument", "A finished loop is verified with an instrument. Choose which one.", "required"
                )
        elif self.instrument.steps:
            steps = len(self.instrument.freezes_c)
            if not 0 <= self.value <= steps or self.value != int(self.value):
                message = f"{self.value:g} steps: this tester has {steps}. Count the visible steps, 0 to {steps}."
                raise CoreError("value", message, "out_of_range")
        else:
            facts = FACTS[self.instrument.scale]
            check_between("value", self.value, facts.low, facts.high, facts.unit, "Read the boundary again.")
            if self.zero is not None:
                low, high = facts.water - facts.zero_reach, facts.water + facts.zero_reach
                check_between("zero", self.zero, low, high, facts.unit, "Check the zero again.")


@dataclass(frozen=True, slots=True)
class Listed(Fact):
    """A reading imported from a list: it stands among the readings and on the trend, and decides nothing on the bench."""

    read: Read

    def __post_init__(self) -> None:
        if self.read.instrument is None:
            raise CoreError("instrument", "The instrument is missing. Name it.", "required")


def counted(facts: Read) -> bool:
    """Whether it gives a number that means and verdicts may use: an instrument with a value, a sharp edge."""
    return facts.instrument is not None and not facts.instrument.steps and facts.edge is Edge.SHARP


def question_of(glycol: Glycol, facts: Read) -> ReadingQuestion:
    """The reading as the reading arithmetic wants it; facts must name an instrument that reads values."""
    if facts.instrument is None or facts.instrument.steps:
        raise ValueError("a reading without an instrument, or in steps, has no value on a scale")
    instrument = facts.instrument
    return ReadingQuestion(
        glycol=glycol,
        scale=instrument.scale,
        value=facts.value,
        sample_c=facts.sample_c,
        compensated=instrument.compensated,
        zero=facts.zero,
        resolution=instrument.resolution,
        compensation_low_c=instrument.compensation_low_c,
        compensation_high_c=instrument.compensation_high_c,
        bias_percent=instrument.bias_percent,
        bias_sd=instrument.bias_sd,
    )


def steps_of(glycol: Glycol, facts: Read, policy: Policy) -> StepReading | None:
    """What a step tester's reading says; None for any other instrument."""
    if facts.instrument is None or not facts.instrument.steps:
        return None
    return read_steps(facts.instrument.spec.tester(), int(facts.value), glycol, facts.sample_c, policy)


def check_read(glycol: Glycol, facts: Read) -> None:
    """Refuse a reading that its instrument cannot have given in this glycol, before a ledger holds it. Raises CoreError."""
    if facts.instrument is not None and steps_of(glycol, facts, Policy()) is None:
        read(question_of(glycol, facts))


def answer_of(base: Base | None, facts: Read, policy: Policy, other_on_top: bool = False) -> ReadingAnswer:
    """The result of a reading in a loop of this base; facts must name an instrument. other_on_top: of another coolant.

    A line that is not sharp keeps its number but says so; steps give none; in a loop without glycol a scale says nothing.
    """
    glycol = (base.glycol if base is not None else None) or Glycol.ETHYLENE
    flags = [EDGE_FLAGS[facts.edge]] if facts.edge in EDGE_FLAGS else []
    steps = steps_of(glycol, facts, policy)
    if steps is not None:
        return replace(NO_NUMBER, flags=(*flags, *steps.flags))
    answer = read(question_of(glycol, facts), policy)
    if base is Base.NONE:
        found = GLYCOL_FREE if answer.below_detection else NOT_GLYCOL_FREE
        return replace(NO_NUMBER, below_detection=answer.below_detection, flags=(*flags, found, *answer.flags))
    if other_on_top:
        flags.append(MIXED_BASES)
    elif base is None:
        flags.append(BASE_UNKNOWN)
    return replace(answer, flags=(*flags, *answer.flags))


def sd_percent_of(answer: ReadingAnswer) -> float | None:
    """Standard deviation of a reading's glycol [% by mass]; None where it has no number."""
    if answer.spread is None or answer.glycol_mass_percent is None or answer.strength_percent is None:
        return None
    share = answer.glycol_mass_percent / answer.strength_percent if answer.strength_percent > 1 else 1.1
    return answer.spread.strength_percent * share
