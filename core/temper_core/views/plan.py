"""What comes due in the next weeks, with the hours and litres it asks for: services, checks, frost, zero checks.

Common practice, no source; hours are the depot's own rules of what a change costs.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum

from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.between.season import FrostDates, SeasonPlan
from temper_core.job.fold import AtRest
from temper_core.job.loop import Loop, drained_usually
from temper_core.views.coming import FORGOTTEN_DAYS, unprotected


class PlanKind(StrEnum):
    """What comes due."""

    SERVICE = "service"
    LEVEL_CHECK = "level_check"
    READING = "reading"
    UNPROTECTED = "unprotected"
    FROST = "frost"
    ZERO_CHECK = "zero_check"


PLAN_KIND_NAMES = {
    PlanKind.SERVICE: "service",
    PlanKind.LEVEL_CHECK: "level check",
    PlanKind.READING: "reading",
    PlanKind.UNPROTECTED: "not protected",
    PlanKind.FROST: "frost",
    PlanKind.ZERO_CHECK: "zero check",
}


@dataclass(frozen=True, slots=True)
class PlanItem:
    """One thing that comes due. key: the same for the same thing however its date moves; hours: of work.

    coolant_l: litres that have to be there for it, 0 where none are.
    """

    key: str
    kind: PlanKind
    said: Message
    due_on: date
    overdue: bool
    hours: float
    coolant_l: float


def hours_of(kind: PlanKind, policy: Policy) -> float:
    """Hours of work that one of a kind takes by the depot's rules.

    >>> hours_of(PlanKind.SERVICE, Policy())
    1.0
    """
    minutes = {
        PlanKind.LEVEL_CHECK: policy["hands_level_min"],
        PlanKind.READING: policy["hands_level_min"] + policy["hands_reading_min"],
        PlanKind.ZERO_CHECK: policy["hands_reading_min"],
    }
    return minutes.get(kind, policy["hands_drain_min"] + policy["hands_fill_min"]) / 60


def refill_l(loop: Loop) -> float:
    """Litres that a drain by every drain point takes out, and a refill needs."""
    return sum(drained_usually(loop).values())


def plan_items(
    loop: Loop,
    rest: AtRest | None,
    since: date,
    now: datetime,
    until: date,
    policy: Policy,
    frost: tuple[FrostDates, SeasonPlan] | None = None,
) -> Iterable[PlanItem]:
    """What one loop at rest asks for until a day, soonest first.

    rest None: no job of it was ever signed. since: when its last one was; frost: what frost asks of it.
    """
    found: list[PlanItem] = []
    today = now.date()
    for row in rest.after.rechecks if rest is not None and rest.after is not None else ():
        if row.done_at is None and today - timedelta(days=FORGOTTEN_DAYS) <= row.due_on <= until:
            kind = PlanKind.READING if row.with_reading else PlanKind.LEVEL_CHECK
            key = f"{row.why.value}-{loop.id}-{row.due_on:%Y%m%d}"
            found.append(PlanItem(key, kind, row.said, row.due_on, row.overdue, hours_of(kind, policy), 0.0))
    for lacks in unprotected(loop, rest, now) if rest is not None else ():
        key = f"unprotected-{loop.id}-{since:%Y%m%d}"
        hours = hours_of(PlanKind.UNPROTECTED, policy)
        found.append(PlanItem(key, PlanKind.UNPROTECTED, lacks.said, today, True, hours, refill_l(loop)))
    due = rest.due if rest is not None else None
    if due is not None and (due.on is None or due.on <= until):  # a change date that is unknown is treated as due
        key, hours = f"service-{loop.id}-{since:%Y%m%d}", hours_of(PlanKind.SERVICE, policy)
        found.append(PlanItem(key, PlanKind.SERVICE, due.said, due.on or today, due.overdue, hours, refill_l(loop)))
    if frost is not None:
        dates, plan = frost
        on = max(dates.starts_on, today)
        key, hours = f"frost-{loop.id}-{dates.starts_on:%Y%m%d}", hours_of(PlanKind.FROST, policy)
        found.append(PlanItem(key, PlanKind.FROST, plan.act, on, plan.loud, hours, refill_l(loop)))
    return sorted(found, key=lambda item: (item.due_on, item.key))
