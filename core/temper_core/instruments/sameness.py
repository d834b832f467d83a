"""Do repeats of one sample agree within what the instrument can tell? An outlier is named, one more is asked for."""

from __future__ import annotations

import math
import statistics
from collections.abc import Hashable, Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.instruments.question import ReadingQuestion
from temper_core.instruments.repeats import Repeats, repeats
from temper_core.instruments.scales import FACTS, is_off_scale, mark

LEAST = 3  # with two nobody can tell which of them is wrong


@dataclass(frozen=True, slots=True)
class Sameness:
    """range_divisions: between the furthest two, in divisions there; outlier: its place in the row (from 0), or None."""

    count: int
    range_divisions: float
    outlier: int | None
    one_more: bool
    said: Message
    apart: bool = False  # two instruments contradict each other: their mean is no strength of anything


def judge_sameness(
    questions: Sequence[ReadingQuestion], policy: Policy | None = None, by: Sequence[str] | None = None
) -> Sameness | None:
    """Verdict on repeats of one sample; None below two that are on the scale. Two instruments are held against each other.

    by: which instrument gave each; None: all of one scale and division are taken for the same.
    Differences are counted in divisions where the line stands, since divisions of a freeze scale crowd towards the cold.
    """
    policy = policy or Policy()
    kept = [(i, q) for i, q in enumerate(questions) if not is_off_scale(q.scale, q.value)]
    if len(kept) < 2:
        return None
    groups: dict[Hashable, list[ReadingQuestion]] = {}
    for i, q in kept:
        groups.setdefault(by[i] if by is not None else (q.scale, q.division), []).append(q)
    if len(groups) > 1:
        return _between_instruments(list(groups.values()), policy)
    marks = [mark(q.scale, q.value) for _, q in kept]
    division = _division(kept[0][1], statistics.median([q.value for _, q in kept]))
    spread = (max(marks) - min(marks)) / division
    far = _furthest(marks)
    others = [m for i, m in enumerate(marks) if i != far]
    away = abs(marks[far] - statistics.median(others)) / division
    together = (max(others) - min(others)) / division
    limit = policy["repeat_range_divisions"]
    outlier = far if len(kept) >= LEAST and away > policy["repeat_outlier_divisions"] and together <= limit else None
    values = {"count": str(len(kept)), "range": f"{spread:.1f}"}
    if outlier is not None:
        words = "Number {number} is {away} divisions from the others: wipe, read it again, or undo it."
        said = say("outlier", words, number=str(kept[far][0] + 1), away=f"{away:.1f}")
        return Sameness(len(kept), spread, kept[far][0], True, said)
    if spread > limit:
        words = "{range} divisions apart, more than the instrument's own accuracy: one more, wiped and settled."
        return Sameness(len(kept), spread, None, True, say("one_more", words, **values))
    return Sameness(len(kept), spread, None, False, say("agree", "{count} readings within {range} divisions.", **values))


def _division(q: ReadingQuestion, value: float) -> float:
    """One division there, on the instrument's own axis."""
    facts = FACTS[q.scale]
    low = min(max(value - q.division / 2, facts.first), facts.last - q.division)
    return abs(mark(q.scale, low + q.division) - mark(q.scale, low))


def _furthest(marks: Sequence[float]) -> int:
    """The one that lies furthest from the median of the others."""

    def away(i: int) -> float:
        return abs(marks[i] - statistics.median([m for j, m in enumerate(marks) if j != i]))

    return max(range(len(marks)), key=away)


def _between_instruments(groups: Sequence[Sequence[ReadingQuestion]], policy: Policy) -> Sameness | None:
    """One sample on two instruments or more: they agree within their own doubts, or nobody can tell which is right."""
    count = sum(len(rows) for rows in groups)
    found = [one for one in (repeats(rows, policy) for rows in groups) if one is not None]
    if len(found) < 2:
        return None
    low, high = min(found, key=_percent), max(found, key=_percent)
    apart = high.glycol_mass_percent - low.glycol_mass_percent
    if apart <= policy["agreement_sds"] * math.hypot(low.sd_mass_percent, high.sd_mass_percent):
        said = say("instruments_agree", "Two instruments agree on this sample.")
        return Sameness(count, 0.0, None, False, said)
    kelvin = abs((low.freeze_c or 0.0) - (high.freeze_c or 0.0))
    words = "Two instruments are {apart_k} apart on one sample: check both zeros, read again, undo the wrong one."
    return Sameness(count, 0.0, None, True, say("instruments_apart", words, apart_k=kelvin), True)


def _percent(row: Repeats) -> float:
    return row.glycol_mass_percent
