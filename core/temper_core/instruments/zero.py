"""Zero checks of one instrument: in tolerance, due, drifting; and since when its readings are in doubt.

A zero is what demineralised water reads. One out of tolerance blocks nothing, but flags every reading until it is set,
and puts in doubt what was read since the last good one. Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from temper_core.basis.dates import DAYS_IN_MONTH
from temper_core.basis.errors import check_between
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import fitted, t95
from temper_core.instruments import FACTS, ReadingQuestion, Scale
from temper_core.instruments.correct import zero_off_k
from temper_core.science import Glycol

LEAST_FOR_A_DRIFT = 3


@dataclass(frozen=True, slots=True)
class ZeroCheck:
    """Demineralised water on the prism at water_c: what it read, in the scale's own unit. adjusted: it was then set to 0."""

    at: datetime
    value: float
    water_c: float = 20.0
    adjusted: bool = False

    def __post_init__(self) -> None:
        check_between("water_c", self.water_c, 0.5, 60, "°C", "Demineralised water at room temperature.")


@dataclass(frozen=True, slots=True)
class ZeroPoint:
    """One check as drawn: when, and how far off it was as a difference of freeze point [K, signed as read]."""

    at: datetime
    off_k: float
    good: bool
    adjusted: bool


@dataclass(frozen=True, slots=True)
class ZeroState:
    """How an instrument's zero stands. zero: what to take off a reading now, in the scale's unit.

    due_at: when the next check is due; drift_k_month: since it was last set, with its 95 % half-width, None with too few;
    doubtful_since: readings after it are in doubt, None while the zero is good.
    """

    zero: float | None
    points: tuple[ZeroPoint, ...]
    good: bool
    due_at: datetime | None
    overdue: bool
    drift_k_month: float | None
    drift_half: float | None
    doubtful_since: datetime | None
    said: Message


def zero_state(scale: Scale, division: float, checks: Sequence[ZeroCheck], now: datetime, policy: Policy) -> ZeroState:
    """The zero from its checks, in any order; a check that was followed by setting it counts as 0 from then on."""
    rows = sorted(checks, key=lambda row: row.at)
    points = tuple(_point(scale, division, row, policy) for row in rows)
    if not rows:
        said = say("zero_never", "Zero not checked yet: check with demineralised water first.")
        return ZeroState(None, (), False, None, True, None, None, datetime.min.replace(tzinfo=now.tzinfo), said)
    last, point = rows[-1], points[-1]
    good = point.good or last.adjusted
    due_at = last.at + timedelta(days=policy["zero_due_days"])
    drift, half = _drift(points)
    doubtful = None if good else next((row.at for row in reversed(points[:-1]) if row.good or row.adjusted), points[0].at)
    zero = FACTS[scale].water if last.adjusted else last.value
    said = _say(point, last, good, due_at <= now)
    return ZeroState(zero, points, good, due_at, due_at <= now, drift, half, doubtful, said)


@dataclass(frozen=True, slots=True)
class DoubtSpan:
    """Readings after since and up to until are in doubt; since None: from the first on; until None: still."""

    since: datetime | None
    until: datetime | None

    def holds(self, at: datetime) -> bool:
        """Whether a reading of then is in doubt."""
        return (self.since is None or at > self.since) and (self.until is None or at <= self.until)


def doubt_spans(scale: Scale, division: float, checks: Sequence[ZeroCheck], policy: Policy) -> tuple[DoubtSpan, ...]:
    """When its readings were in doubt: from the last good zero to the next one that is good or was set.

    Setting the zero mends what is read from then on, never what was read before.
    """
    spans: list[DoubtSpan] = []
    good_at: datetime | None = None  # the last moment at which the zero is known to have been good
    open_span = False
    for row in sorted(checks, key=lambda row: row.at):
        good = _point(scale, division, row, policy).good
        if not good and not open_span:
            spans.append(DoubtSpan(good_at, row.at))
        elif open_span:
            spans[-1] = replace(spans[-1], until=row.at)
        open_span = not (good or row.adjusted)
        if open_span:
            spans[-1] = replace(spans[-1], until=None)
        else:
            good_at = row.at
    return tuple(spans)


def _point(scale: Scale, division: float, row: ZeroCheck, policy: Policy) -> ZeroPoint:
    glycol = scale.glycol or Glycol.ETHYLENE
    question = ReadingQuestion(glycol, scale, FACTS[scale].water, row.water_c, True, row.value, division)
    off = zero_off_k(question)
    weaker = row.value > FACTS[scale].water if "freeze" in scale.value else row.value < FACTS[scale].water
    return ZeroPoint(row.at, off if weaker else -off, off <= policy["zero_tolerance_k"] * (1 + 1e-3), row.adjusted)


def _drift(points: Sequence[ZeroPoint]) -> tuple[float | None, float | None]:
    """Slope since it was last set [K a month]; a point that was then set still belongs to the run before it."""
    start = max((i + 1 for i, point in enumerate(points[:-1]) if point.adjusted), default=0)
    run = points[start:]
    if len(run) < LEAST_FOR_A_DRIFT:
        return None, None
    months = [(point.at - run[0].at).total_seconds() / 86400 / DAYS_IN_MONTH for point in run]
    slope, sd = fitted(months, [point.off_k for point in run])
    return slope, t95(len(run) - 2) * sd


def _say(point: ZeroPoint, last: ZeroCheck, good: bool, overdue: bool) -> Message:
    if not good:
        words = "Water reads {off_k} off zero. Clean the prism, set the zero, check again. Readings are flagged until then."
        return say("zero_off", words, off_k=abs(point.off_k))
    if overdue:
        return say("zero_due", "Zero check due: use demineralised water before the next reading.")
    if last.adjusted:
        return say("zero_set", "Set to zero at the last check.")
    return say(
        "zero_good", "Water reads {off_k} off zero: within tolerance, taken off every reading.", off_k=abs(point.off_k)
    )
