"""Is a loop losing coolant? By the litres that bring it back to its mark, whatever made the loss good.

Topped up with the right mix the strength never moves; the litres tell. A fill settles first: what went in over its first
days was air coming out. Then it holds, or it loses: at once, steadily, from a day on, until a day; an open system
evaporates.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum

from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Z95
from temper_core.job.identify.facts import Metered
from temper_core.job.life.account.movement import Movement, looks
from temper_core.job.life.account.sentences import loss_words
from temper_core.job.life.account.shapes import Fit, Shape, misfit_of_none, shapes

LEAST_LOOKS, MOST_LOOKS = 3, 16  # what is older says little of what it loses now
WEEK = timedelta(weeks=1)
LEAST_KM, LEAST_HOURS = 100.0, 10.0  # below these a rate per distance or hours says nothing


class LossKind(StrEnum):
    """What becomes of the level between services."""

    HOLDS = "holds"
    LITTLE = "little"
    EVAPORATES = "evaporates"
    LEAKS = "leaks"
    AT_ONCE = "at_once"
    STOPPED = "stopped"


SUSPECT = frozenset({LossKind.LEAKS, LossKind.AT_ONCE})


@dataclass(frozen=True, slots=True)
class Rate:
    """A rate with its 95 % half-width."""

    value: float
    half_width: float


@dataclass(frozen=True, slots=True)
class Loss:
    """What a loop loses [l a week; per 1,000 km and 100 h where the meters tell], from so many looks since it settled.

    added_l: what went in since then; settled_l: before, while it settled. at_once_l: what went between two looks, the later
    one `turned_at`, which is also the look from which a loss began or at which it had ended.
    """

    kind: LossKind
    per_week: Rate
    per_1000_km: Rate | None
    per_100_h: Rate | None
    added_l: float
    settled_l: float
    at_once_l: float | None
    turned_at: datetime | None
    since: datetime
    until: datetime
    count: int
    said: Message

    @property
    def leaks(self) -> bool:
        """Whether a leak is suspected."""
        return self.kind in SUSPECT


def loss_of(
    movements: Sequence[Movement],
    policy: Policy,
    meters: Sequence[tuple[datetime, Metered]] = (),
    open_system: bool = False,
    capacity_l: float | None = None,
) -> Loss | None:
    """The loss of a loop since its last fill settled; None with fewer than three looks at its level.

    movements: since the last fill, which is the first of them. open_system: not under pressure, so that water evaporates.

    >>> day = datetime(2026, 11, 1)
    >>> weekly = [Movement(day + n * WEEK, 0.5 if n else 0.0, 0.0, 0.0, 0.1) for n in range(6)]
    >>> round(loss_of(weekly, Policy()).per_week.value, 3)
    0.5
    """
    every = looks(movements)
    if not every:
        return None
    settled = every[0].at + timedelta(days=policy["settle_days"])
    first = next((n for n, row in enumerate(every) if row.missing_l is not None and row.at >= settled), None)
    if first is None:
        return None
    settling = sum(row.in_l for row in every[1 : first + 1])
    looked = [n for n, row in enumerate(every) if n >= first and row.missing_l is not None]
    if len(looked) < LEAST_LOOKS:
        return None
    rows = every[looked[-MOST_LOOKS:][0] :]
    seen = [n for n, row in enumerate(rows) if row.missing_l is not None]
    lost, moved, sds, weeks = _series(rows, seen)
    fits = shapes(weeks, lost, sds, moved)
    best = _believed(fits, misfit_of_none(lost, sds, moved), policy)
    kind = _kind(best, len(seen), policy, open_system, capacity_l)
    rate = Rate(0.0, 0.0) if best.shape is Shape.AT_ONCE else Rate(best.size, Z95 * best.sd)
    turned = rows[seen[best.at]].at if best.shape is not Shape.STEADY else None
    since, until = rows[seen[0]].at, rows[seen[-1]].at
    span = (until - since) / WEEK
    added = sum(row.in_l for row in rows[1:])
    at_once = best.size if best.shape is Shape.AT_ONCE else None
    by_km, by_hours = (
        _per(rate, span, meters, since, until, what) if best.shape is Shape.STEADY else None
        for what in ("distance_km", "hours")
    )
    before = rows[seen[best.at - 1]].at if best.shape is Shape.AT_ONCE else None
    said = loss_words(kind.value, rate.value, rate.half_width, added, since, turned, before, at_once)
    return Loss(kind, rate, by_km, by_hours, added, settling, at_once, turned, since, until, len(seen), said)


def _series(rows: Sequence[Movement], seen: Sequence[int]) -> tuple[list[float], list[float], list[float], list[float]]:
    """At each look: litres lost until then, variance of what moved since the look before, own doubt, weeks."""
    lost, moved, sds, weeks = [], [], [], []
    gone, variance = 0.0, 0.0
    for n, row in enumerate(rows):
        if n > 0:  # what the first look took was settling
            gone += row.in_l - row.out_l
            variance += row.variance
        if n in seen:
            lost.append(gone + (row.missing_l or 0.0))
            moved.append(variance)
            sds.append(max(1e-6, row.sd_l))
            weeks.append((row.at - rows[0].at) / WEEK)
            variance = 0.0
    return lost, moved, sds, weeks


def _believed(fits: Sequence[Fit], flat: float, policy: Policy) -> Fit:
    """The steady shape, unless another explains the looks better than it and than no loss at all by far more than chance."""
    steady = next(row for row in fits if row.shape is Shape.STEADY)
    best = min(fits, key=lambda row: row.misfit)
    enough = policy["loss_shape_sds"] ** 2
    if best.size > 0 and steady.misfit - best.misfit > enough and flat - best.misfit > enough:
        return best
    return steady


def _kind(best: Fit, count: int, policy: Policy, open_system: bool, capacity_l: float | None) -> LossKind:
    certain = best.size > policy["loss_sds"] * best.sd
    if best.shape is Shape.AT_ONCE:
        held = count - best.at >= LEAST_LOOKS
        return LossKind.STOPPED if held else LossKind.AT_ONCE
    if best.shape is Shape.STOPS:
        return LossKind.STOPPED
    if certain and best.size >= policy["loss_week_l"]:
        evaporates = open_system and capacity_l is not None
        allowed = policy["evaporation_week_percent"] / 100 * (capacity_l or 0.0) if evaporates else 0.0
        sure = best.size - policy["loss_sds"] * best.sd > allowed
        return LossKind.LEAKS if sure or not evaporates else LossKind.EVAPORATES
    return LossKind.HOLDS if best.size < 2 * best.sd else LossKind.LITTLE


def _per(
    rate: Rate,
    weeks: float,
    meters: Sequence[tuple[datetime, Metered]],
    since: datetime,
    until: datetime,
    what: str,
) -> Rate | None:
    """A rate by distance or hours, over the time between the first and the last meter within the looks."""
    day = timedelta(days=1)
    rows = [(at, row, getattr(row, what)) for at, row in meters if since - day <= at <= until + day]
    rows = [row for row in rows if row[2] is not None]
    if len(rows) < 2 or any(row.replaced for _, row, _ in rows[1:]):
        return None
    least, unit = (LEAST_KM, 1000.0) if what == "distance_km" else (LEAST_HOURS, 100.0)
    driven, span = rows[-1][2] - rows[0][2], (rows[-1][0] - rows[0][0]) / WEEK
    if driven < least or span < 0.5 * weeks:
        return None
    by = span / driven * unit
    return Rate(rate.value * by, rate.half_width * by)
