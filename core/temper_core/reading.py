"""What a refractometer really says: zero removed on the axis of refractive index, the right glycol, how sure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from temper_core.errors import CoreError, check_between
from temper_core.glycol import Glycol, boil_c, freeze_point, mass_fraction_at_freeze, strength_of
from temper_core.glycol.data import FREEZE, WATER_INDEX_20C
from temper_core.glycol.freezing import COLDEST_TARGET_C
from temper_core.glycol.index import index_on_scale, mass_fraction_at_index
from temper_core.policy import Policy
from temper_core.quantity import MassFraction
from temper_core.spread import Z95, Interval

DETECTION_SDS = 3.0
_UNIFORM = 12**-0.5  # standard deviation of a value known to one division
_SCALE_END_WARM_C = 10.0  # how far past zero a line can still be seen


class Scale(StrEnum):
    """Scales a reading can be taken on."""

    FREEZE_ETHYLENE = "freeze_ethylene"
    FREEZE_PROPYLENE = "freeze_propylene"

    @property
    def glycol(self) -> Glycol:
        """The glycol this scale was engraved for."""
        return Glycol.ETHYLENE if self is Scale.FREEZE_ETHYLENE else Glycol.PROPYLENE


@dataclass(frozen=True, slots=True)
class Flag:
    """Something a reader of a result must know."""

    code: str
    message: str


@dataclass(frozen=True, slots=True)
class ReadingQuestion:
    """A line seen on a scale; value and zero [degC] as read, sample_c the sample's temperature.

    resolution: one division of the instrument [K]. zero: what demineralised water read on the same scale.
    """

    glycol: Glycol
    scale: Scale
    value: float
    sample_c: float = 20.0
    compensated: bool = True
    zero: float = 0.0
    resolution: float = 1.0

    def __post_init__(self) -> None:
        check_between("resolution", self.resolution, 0.01, 10, "K", "One division of the instrument is meant.")
        check_between("sample_c", self.sample_c, -5, 60, "°C", "Let the sample come to room temperature.")
        check_between("value", self.value, -80, _SCALE_END_WARM_C, "°C", "Read the line again.")
        check_between("zero", self.zero, -10, _SCALE_END_WARM_C, "°C", "Clean the prism and check the zero again.")
        if not self.compensated and abs(self.sample_c - 20) > 2:
            todo = "Bring the sample to 18 to 22 °C, or use a compensated instrument."
            raise CoreError(
                "sample_c", f"Not compensated, and the sample is at {self.sample_c:g} °C. {todo}", "not_compensated"
            )


@dataclass(frozen=True, slots=True)
class ReadingSpread:
    """Standard deviations of one reading, its zero included."""

    freeze_c: float
    strength_percent: float


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


def scale_index(scale: Scale, value_c: float) -> float:
    """Refractive index at 20 degC of a mark [degC] on a freeze scale; past zero it goes on with the slope at zero."""
    if value_c > 0:
        curve = FREEZE[scale.glycol]
        return index_on_scale(scale.glycol, -value_c / (1000 * curve.kf / curve.molar_mass_g))
    return index_on_scale(scale.glycol, mass_fraction_at_freeze(scale.glycol, value_c))


def _sd_index(scale: Scale, value_c: float, resolution: float) -> float:
    """Standard deviation [index] of reading a line to one division there."""
    cold = max(value_c - resolution / 2, COLDEST_TARGET_C[scale.glycol])
    warm = cold + resolution
    return (scale_index(scale, cold) - scale_index(scale, warm)) * _UNIFORM


def _slope(glycol: Glycol, index: float) -> float:
    """Mass fraction per unit of index there."""
    step = 2e-4
    base = max(index, WATER_INDEX_20C)
    return (mass_fraction_at_index(glycol, base + step) - mass_fraction_at_index(glycol, base)) / step


def _flags(q: ReadingQuestion, policy: Policy) -> list[Flag]:
    flags = []
    if q.scale.glycol is not q.glycol:
        said = f"Read on the {q.scale.glycol} scale, but the loop holds {q.glycol} glycol."
        flags.append(Flag("other_scale", f"{said} Converted through the refractive index; read again on the right scale."))
    low, high = policy["compensation_low_c"], policy["compensation_high_c"]
    if q.compensated and not low <= q.sample_c <= high:
        said = f"The sample is at {q.sample_c:g} °C; compensation holds from {low:g} to {high:g} °C."
        flags.append(Flag("outside_compensation", f"{said} Let it come to room temperature and read again."))
    if abs(q.zero) > policy["zero_tolerance_k"]:
        said = f"Water read {q.zero:g} °C, more than {policy['zero_tolerance_k']:g} K off."
        flags.append(Flag("zero_off", f"{said} Clean the prism, set the zero, then read again."))
    return flags


def read(q: ReadingQuestion, policy: Policy | None = None) -> ReadingAnswer:
    """Correct one reading; see ReadingAnswer.

    >>> a = read(ReadingQuestion(Glycol.ETHYLENE, Scale.FREEZE_ETHYLENE, -44.6, zero=-0.4))
    >>> round(a.freeze_c, 1)
    -42.6
    """
    policy = policy or Policy()
    flags = _flags(q, policy)
    if q.value < COLDEST_TARGET_C[q.scale.glycol]:
        end = COLDEST_TARGET_C[q.scale.glycol]
        flags.append(Flag("off_scale", f"{q.value:g} °C is past the end of the scale ({end:g} °C): no number is known."))
        return ReadingAnswer(None, None, None, None, None, None, None, False, tuple(flags))
    index = scale_index(q.scale, q.value) - scale_index(q.scale, q.zero) + WATER_INDEX_20C
    sd_index = (_sd_index(q.scale, q.value, q.resolution) ** 2 + _sd_index(q.scale, q.zero, q.resolution) ** 2) ** 0.5
    floor = WATER_INDEX_20C + DETECTION_SDS * sd_index
    below = index < floor
    if below:
        flags.append(Flag("below_detection", "Too little to tell from water: the strength is an upper bound."))
    w = mass_fraction_at_index(q.glycol, floor if below else index)
    sd_w = sd_index * _slope(q.glycol, index)
    point = freeze_point(q.glycol, w)
    return ReadingAnswer(
        refractive_index_20c=index,
        glycol_mass_percent=w * 100,
        strength_percent=strength_of(q.glycol, w),
        freeze_c=point.freeze_c,
        freeze_below_c=point.freeze_below_c,
        boil_c=boil_c(q.glycol, w),
        spread=_spread(q.glycol, w, sd_w),
        below_detection=below,
        flags=tuple(flags),
    )


def _spread(glycol: Glycol, w: float, sd_w: float) -> ReadingSpread:
    low, high = MassFraction(max(0.0, w - sd_w)), MassFraction(min(1.0, w + sd_w))
    width = high - low or 1.0
    kelvin = freeze_point(glycol, low).at_most_c - freeze_point(glycol, high).at_most_c
    percent = strength_of(glycol, high) - strength_of(glycol, low)
    return ReadingSpread(abs(kelvin) * sd_w / width, percent * sd_w / width)


@dataclass(frozen=True, slots=True)
class Repeats:
    """Several readings of one sample: mean in mass percent, its standard deviation, the freeze point and interval.

    They share their zero, so its doubt does not shrink with their number.
    """

    count: int
    glycol_mass_percent: float
    sd_mass_percent: float
    strength_percent: float
    freeze_c: float | None
    likely: Interval | None
    range_k: float


def repeats(questions: Sequence[ReadingQuestion], policy: Policy | None = None) -> Repeats | None:
    """Mean of readings of one sample; None when none of them gives a number."""
    answers = [(q, a) for q, a in ((q, read(q, policy)) for q in questions) if a.glycol_mass_percent is not None]
    if not answers:
        return None
    n = len(answers)
    percents = [a.glycol_mass_percent or 0.0 for _, a in answers]
    mean = sum(percents) / n
    glycol = answers[0][0].glycol
    slope = _slope(glycol, answers[0][1].refractive_index_20c or WATER_INDEX_20C) * 100
    own = max(_sd_index(q.scale, q.value, q.resolution) for q, _ in answers) * slope / n**0.5
    zero = max(_sd_index(q.scale, q.zero, q.resolution) for q, _ in answers) * slope
    if n > 1:
        scatter = (sum((p - mean) ** 2 for p in percents) / (n - 1)) ** 0.5
        own = max(own, scatter / n**0.5)
    sd = (own**2 + zero**2) ** 0.5
    w = MassFraction(mean / 100)
    point = freeze_point(glycol, w)
    freezes = [a.freeze_c for _, a in answers if a.freeze_c is not None]
    low = freeze_point(glycol, MassFraction(max(0.0, w - Z95 * sd / 100))).at_most_c
    high = freeze_point(glycol, MassFraction(min(1.0, w + Z95 * sd / 100))).at_most_c
    likely = Interval(min(low, high), max(low, high))
    return Repeats(
        n, mean, sd, strength_of(glycol, w), point.freeze_c, likely, max(freezes) - min(freezes) if freezes else 0.0
    )
