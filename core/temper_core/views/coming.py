"""What a loop at rest asks for: protection it lacks, level checks and readings that are due, its next service, frost.

Built from what its last job left and the entries since; common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from temper_core.basis.message import Message, say
from temper_core.job.between.season import FrostDates, Season, SeasonPlan, season_plan
from temper_core.job.between.state import RecheckWhy
from temper_core.job.fold import AtRest
from temper_core.job.loop import Loop
from temper_core.products.chemistry import Base

FORGOTTEN_DAYS = 90  # a check that nobody made by then is history, not a task


@dataclass(frozen=True, slots=True)
class Coming:
    """One thing that a loop asks for. why None: its service is due. with_reading: its strength is to be read."""

    why: RecheckWhy | None
    said: Message
    due_on: date | None
    overdue: bool
    today: bool
    with_reading: bool


def coming(loop: Loop, rest: AtRest, now: datetime) -> tuple[Coming, ...]:
    """What a loop at rest asks for now; empty where nothing is due or near."""
    return (*unprotected(loop, rest, now), *_rechecks(rest, now), *_service(rest, now))


def order(row: Coming, today: date) -> tuple[bool, bool, date]:
    """Sort key of a list: overdue first, checks before services, then the soonest."""
    return (not row.overdue, row.why is None, row.due_on or today)


def unprotected(loop: Loop, rest: AtRest, now: datetime) -> Iterator[Coming]:
    """Less protection than the coldest asks for, found since it left: it waits until it is corrected."""
    claim = rest.claim
    if claim is None or claim.why in ("glycol_free", "unknown"):
        return
    if claim.safe_to_c is not None and claim.safe_to_c <= loop.coldest_c:
        return
    words = "Not protected: protects to {safe_c:0}, coldest here {coldest_c:0}. Keep indoors, adjust the strength."
    if claim.safe_to_c is None:
        words = "Not protected: {why} Keep indoors, change type."
    values = {"safe_c": claim.safe_to_c or 0.0, "coldest_c": loop.coldest_c}
    said = say("unprotected", words, why=claim.said.sentence, **values)
    yield Coming(RecheckWhy.UNPROTECTED, said, now.date(), True, True, False)


def _rechecks(rest: AtRest, now: datetime) -> Iterator[Coming]:
    """One check does for all that are due by now; a leak suspected is said before all else, due or not."""
    today = now.date()
    oldest = today - timedelta(days=FORGOTTEN_DAYS)
    rows = [one for one in rest.after.rechecks if one.done_at is None and one.due_on >= oldest] if rest.after else []
    if not rows:
        return
    first = min(rows, key=lambda one: one.due_on)
    due = [one for one in rows if one.due_on <= today] or [first]
    leak = next((one for one in rows if one.why is RecheckWhy.LEAK), None)
    most = leak or max(due, key=lambda one: (one.with_reading, one.due_on))
    overdue, reading = any(one.overdue for one in due), any(one.with_reading for one in due)
    yield Coming(most.why, most.said, first.due_on, overdue, first.due_on == today, reading)


def _service(rest: AtRest, now: datetime) -> Iterator[Coming]:
    due = rest.due
    if due is not None and (due.overdue or due.soon):
        yield Coming(None, due.said, due.on, due.overdue, due.on == now.date(), False)


def frost_asks(loop: Loop, rest: AtRest | None, left_safe_to_c: float | None, dates: FrostDates) -> SeasonPlan | None:
    """What frost asks of a loop at rest; None out of season, or where it asks nothing.

    left_safe_to_c: how far it protected when its last job was signed off [degC]; what was found since counts before it.
    """
    if dates.season is Season.FREE:
        return None
    claim = rest.claim if rest is not None else None
    base = rest.base if rest is not None else loop.believed.base
    safe_to_c = claim.safe_to_c if claim is not None else left_safe_to_c
    return season_plan(safe_to_c, loop.coldest_c, base is Base.NONE, dates)
