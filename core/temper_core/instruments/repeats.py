"""Several readings of one sample: they share their zero, so agreement between them says nothing about it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Interval
from temper_core.instruments.correct import read
from temper_core.instruments.errors import errors_of
from temper_core.instruments.question import ReadingQuestion
from temper_core.science import freeze_interval, freeze_point, strength_of


@dataclass(frozen=True, slots=True)
class Repeats:
    """Several readings of one sample: mean in mass percent, its standard deviation, the freeze point and interval.

    They share their zero and how right the instrument is along its scale, and read at the same line they share its rounding:
    none of these doubts shrinks with their number.
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
    policy = policy or Policy()
    answers = [(q, a) for q, a in ((q, read(q, policy)) for q in questions) if a.glycol_mass_percent is not None]
    if not answers:
        return None
    n = len(answers)
    percents = [a.glycol_mass_percent or 0.0 for _, a in answers]
    mean = sum(percents) / n
    glycol = answers[0][0].glycol
    rows = [errors_of(q, policy, mean / 100).times(100) for q, _ in answers]
    line = max(row.line for row in rows)
    if n > 1:
        scatter = (sum((p - mean) ** 2 for p in percents) / (n - 1)) ** 0.5
        line = max(line, scatter / n**0.5)
    eye = max(row.eye for row in rows) / n**0.5
    others = (max(getattr(row, name) for row in rows) for name in ("zero", "accuracy", "shift", "tables"))
    sd = math.hypot(line, eye, *others)
    w = MassFraction(mean / 100)
    point = freeze_point(glycol, w)
    freezes = [a.freeze_c for _, a in answers if a.freeze_c is not None]
    likely = freeze_interval(glycol, w, sd / 100, with_curve=False) if point.freeze_c is not None else None
    if likely is not None and any(a.below_detection for _, a in answers):  # the number is an upper bound: it may be water
        likely = Interval(likely.low, freeze_point(glycol, MassFraction(0.0)).at_most_c)
    return Repeats(
        n, mean, sd, strength_of(glycol, w), point.freeze_c, likely, max(freezes) - min(freezes) if freezes else 0.0
    )
