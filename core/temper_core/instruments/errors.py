"""How far one reading may be off: its line, the eye, the zero, the instrument along its scale, temperature, tables."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.instruments.axis import axis_of, per_axis
from temper_core.instruments.question import ReadingQuestion
from temper_core.instruments.scales import FACTS, Scale, depression_k_per_w, mark
from temper_core.science import index_doubt, index_shift, mass_fraction_at_index, refractive_index_20c
from temper_core.science.data import WATER_INDEX_20C

EYE = 0.15  # of a division: what looks at one line differ by; common practice, no source
UNIFORM = 12**-0.5  # standard deviation of a value known to one division
SHIFT_DOUBT = 0.06  # of the temperature correction: its slope is known to a tenth, one standard deviation
ZEROED_BELOW_W = 0.10  # a zeroed instrument is right at water; its accuracy counts in full from here on


def sd_of_mark(scale: Scale, value: float, division: float) -> float:
    """Standard deviation of reading a line to one division there, on the instrument's own axis."""
    facts = FACTS[scale]
    low = min(max(value - division / 2, facts.first), facts.last - division)
    return abs(mark(scale, low + division) - mark(scale, low)) * UNIFORM


def tables_doubt(q: ReadingQuestion, w: float) -> float:
    """Standard deviation of the index itself, where a reading crosses from its scale to another quantity; on the axis.

    On a scale of the loop's own glycol the index is only a way there and back; a density does not pass through it.
    """
    if q.scale is Scale.SPECIFIC_GRAVITY or q.scale.glycol is q.glycol:
        return 0.0
    other = 0.0
    if q.scale.glycol is not None:
        on_scale = min(mark(q.scale, q.value), refractive_index_20c(q.scale.glycol, 1.0))
        other = index_doubt(q.scale.glycol, mass_fraction_at_index(q.scale.glycol, max(WATER_INDEX_20C, on_scale)))
    return math.hypot(index_doubt(q.glycol, min(1.0, w)), other)


@dataclass(frozen=True, slots=True)
class ReadingErrors:
    """Standard deviations of one reading, all in one unit.

    line: to one division; eye: of one look; zero: with its own line and look; accuracy: along the scale; shift: of the
    temperature correction; tables: of the index behind another scale. division: one of them there.
    """

    line: float
    eye: float
    zero: float
    accuracy: float
    shift: float
    tables: float
    division: float

    @property
    def whole(self) -> float:
        """All together."""
        return math.hypot(self.line, self.eye, self.zero, self.accuracy, self.shift, self.tables)

    @property
    def near_water(self) -> float:
        """What is left close to water, where the zero was set: line, zero and temperature."""
        return math.hypot(self.line, self.eye, self.zero, self.shift)

    def times(self, per: float) -> ReadingErrors:
        """In another unit."""
        return ReadingErrors(*(getattr(self, one.name) * per for one in fields(self)))


def unbiased(q: ReadingQuestion, w: float) -> MassFraction:
    """The mass fraction without what the instrument is known to read too much; at water it was zeroed, so nothing there."""
    return MassFraction(min(1.0, max(0.0, w - q.bias_percent / 100 * min(1.0, w / ZEROED_BELOW_W))))


def errors_at(q: ReadingQuestion, policy: Policy, w: float) -> ReadingErrors:
    """On the instrument's own axis, at a strength of this mass fraction; see ReadingErrors."""
    axis = axis_of(q)
    line, water = sd_of_mark(q.scale, q.value, q.division), FACTS[q.scale].water
    if q.zero is None:
        zero = policy["zero_unchecked_k"] / depression_k_per_w(q.glycol) / per_axis(axis, 0.0)
    else:
        zero = math.hypot(1.0, EYE / UNIFORM) * sd_of_mark(q.scale, q.zero, q.division)
    zero = max(zero, sd_of_mark(q.scale, water, q.division))
    shift = 0.0
    if not q.compensated and q.scale is not Scale.SPECIFIC_GRAVITY:
        shift = float(SHIFT_DOUBT * index_shift(q.glycol, 0.5, q.sample_c))
    division = line / UNIFORM
    accuracy = policy["accuracy_divisions"] * division
    if q.bias_sd is not None:
        accuracy = min(accuracy, q.bias_sd / 100 / per_axis(axis, w))
    accuracy *= min(1.0, w / ZEROED_BELOW_W)
    return ReadingErrors(line, EYE * division, zero, accuracy, abs(shift), tables_doubt(q, w), division)


def errors_of(q: ReadingQuestion, policy: Policy, w: float) -> ReadingErrors:
    """The same as mass fractions."""
    return errors_at(q, policy, w).times(per_axis(axis_of(q), w))
