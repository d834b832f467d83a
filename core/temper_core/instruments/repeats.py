"""Several readings of one sample: they share their zero, so agreement between them says nothing about it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Interval
from temper_core.instruments.correct import axis_of, per_axis, read, sd_of_mark
from temper_core.instruments.question import ReadingQuestion
from temper_core.instruments.scales import FACTS
from temper_core.science import freeze_interval, freeze_point, strength_of


@dataclass(frozen=True, slots=True)
class Repeats:
    """Several readings of one sample: mean in mass percent, its standard deviation, the freeze point and interval.

    They share their zero, and read at the same line they share its rounding: neither doubt shrinks with their number.
    likely None: past what is tabulated.
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
    slope = 100 * per_axis(axis_of(answers[0][0]), mean / 100)
    own = max(sd_of_mark(q.scale, q.value, q.division) for q, _ in answers) * slope
    zero = max(sd_of_mark(q.scale, _zero(q), q.division) for q, _ in answers) * slope
    if n > 1:
        scatter = (sum((p - mean) ** 2 for p in percents) / (n - 1)) ** 0.5
        own = max(own, scatter / n**0.5)
    sd = (own**2 + zero**2) ** 0.5
    w = MassFraction(mean / 100)
    point = freeze_point(glycol, w)
    freezes = [a.freeze_c for _, a in answers if a.freeze_c is not None]
    likely = freeze_interval(glycol, w, sd / 100, with_curve=False) if point.freeze_c is not None else None
    if likely is not None and any(a.below_detection for _, a in answers):  # the number is an upper bound: it may be water
        likely = Interval(likely.low, freeze_point(glycol, MassFraction(0.0)).at_most_c)
    return Repeats(
        n, mean, sd, strength_of(glycol, w), point.freeze_c, likely, max(freezes) - min(freezes) if freezes else 0.0
    )


def _zero(q: ReadingQuestion) -> float:
    return FACTS[q.scale].water if q.zero is None else q.zero
