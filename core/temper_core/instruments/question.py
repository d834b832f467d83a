"""One reading with its instrument, and its corrected answer."""

from __future__ import annotations

from dataclasses import dataclass, field

from temper_core.basis.errors import check_between
from temper_core.basis.message import Message
from temper_core.basis.uncertainty import half_width
from temper_core.instruments.scales import FACTS, Scale
from temper_core.science import Glycol
from temper_core.science.data import WATER_INDEX_SHIFT

LARGEST_BIAS = 10.0  # an instrument further off than this is broken


@dataclass(frozen=True, slots=True)
class Flag:
    """Something a reader of a result must know. said: the message with its figures as data, for other units."""

    code: str
    message: str
    said: Message | None = None

    @classmethod
    def of(cls, said: Message) -> Flag:
        """Of a message: its code and sentence are the flag's."""
        return cls(said.code, said.sentence, said)


@dataclass(frozen=True, slots=True)
class ReadingQuestion:
    """A mark seen on a scale, in the scale's own unit; sample_c: the sample's temperature.

    compensated: the instrument shows what the sample would read at 20 degC. resolution: one division.
    zero: what demineralised water read on the same scale (not compensated: at the sample's temperature, as practice has
    it, so that it carries water's share of the temperature); None where no zero was taken.
    compensation_low_c to compensation_high_c: the instrument's own range; None: the rules'. bias_percent: glycol [% by mass]
    that it reads too much, as learned from paired readings, and bias_sd how well that is known; 0 and None: nothing learned.
    """

    glycol: Glycol
    scale: Scale
    value: float
    sample_c: float = 20.0
    compensated: bool = True
    zero: float | None = None
    resolution: float | None = None
    compensation_low_c: float | None = None
    compensation_high_c: float | None = None
    bias_percent: float = 0.0
    bias_sd: float | None = None

    def __post_init__(self) -> None:
        facts = FACTS[self.scale]
        check_between("bias_percent", self.bias_percent, -LARGEST_BIAS, LARGEST_BIAS, "% by mass", "Repair it instead.")
        check_between("sample_c", self.sample_c, -5, 60, "°C", "Let the sample come to room temperature.")
        check_between("value", self.value, facts.low, facts.high, facts.unit, "Read the boundary again.")
        if self.zero is not None:
            low, high = facts.water - facts.zero_reach, facts.water + facts.zero_reach
            check_between("zero", self.zero, low, high, facts.unit, "Clean the prism and check the zero again.")
        todo = "One division of the instrument is meant."
        check_between("resolution", self.division, facts.resolution / 100, facts.resolution * 10, facts.unit, todo)
        if not self.compensated:
            low, high = WATER_INDEX_SHIFT.range.low, WATER_INDEX_SHIFT.range.high
            check_between("sample_c", self.sample_c, low, high, "°C", "Let the sample come to room temperature.")

    @property
    def division(self) -> float:
        """One division, the scale's usual one where none was stated."""
        return FACTS[self.scale].resolution if self.resolution is None else self.resolution


@dataclass(frozen=True, slots=True)
class ReadingSpread:
    """Standard deviations of one reading, its zero included; freeze_c None where no freeze point is tabulated.

    freeze_half_k: half the 95 % interval of the freeze point [K].
    """

    freeze_c: float | None
    strength_percent: float
    freeze_half_k: float | None = field(init=False, default=None)

    def __post_init__(self) -> None:
        object.__setattr__(self, "freeze_half_k", half_width(self.freeze_c))


@dataclass(frozen=True, slots=True)
class ReadingAnswer:
    """The corrected reading. Off scale, the numbers are None; below detection, strength_percent is an upper bound."""

    refractive_index_20c: float | None
    glycol_mass_percent: float | None
    strength_percent: float | None
    freeze_c: float | None
    freeze_below_c: float | None
    boil_c: float | None
    spread: ReadingSpread | None
    below_detection: bool
    flags: tuple[Flag, ...]
