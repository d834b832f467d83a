"""Clocks and estimates of a loop from its ledger, and whose turn it is."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Protocol

from temper_core.basis.errors import CoreError
from temper_core.calculate.cooldown import CooldownAnswer
from temper_core.job.flush.facts import RoundFilled
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.gate import gate_now
from temper_core.job.inside.questions import cooled
from temper_core.job.loop_state import LoopState
from temper_core.job.waiting.state import PauseState, TimerKind, TimerState, Wait, WaitKind
from temper_core.machine.bleed_run import segments
from temper_core.products.agents import runs


def timers_of(t: LedgerFold, now: datetime | None = None) -> tuple[TimerState, ...]:
    """Everything that runs, soonest first; none once signed off."""
    if t.job.id is None or t.job.signed_at is not None:
        return ()
    timers = [
        TimerState(
            entry.id,
            TimerKind(facts.clock.value),
            entry.happened_at,
            entry.person,
            entry.happened_at + _minutes(facts.minutes),
        )
        for entry, facts in t.job.waiting.clocks
    ]
    timers += [row for row in (_bleed(t, now), _cleaner(t), _cooling(t)) if row is not None]
    return tuple(sorted(timers, key=lambda row: (row.ends_at or row.likely_at or row.started_at, row.entry_id)))


def _minutes(minutes: float) -> timedelta:
    return timedelta(minutes=minutes)


def _bleed(t: LedgerFold, now: datetime | None) -> TimerState | None:
    """The step that the bleed is in, while it has a time and is not held."""
    if t.job.fill.run is None or now is None:
        return None
    row = list(segments(t.job.fill.run, max(now, t.job.fill.run.started_at)))[-1]
    if row.ends_at is None:
        return None
    return TimerState(t.job.fill.run.entry_id, TimerKind.BLEED, row.began_at, t.job.fill.run.by, row.ends_at)


def _cleaner(t: LedgerFold) -> TimerState | None:
    row = t.job.flush.in_work
    if row is None or not row.with_cleaner or not isinstance(row.facts, RoundFilled):
        return None
    return TimerState(
        row.entry_id,
        TimerKind.CLEANER,
        row.at,
        row.by,
        ends_at=row.at + _minutes(row.facts.run_min or 0.0),
        limit_at=row.at + _minutes(runs(row.facts.agent, t.policy).limit_min),
    )


def _cooling(t: LedgerFold) -> TimerState | None:
    """From the last run, or from the first temperature that was too warm; none once the gate is open."""
    if gate_now(t).open or t.job.fill.run is not None:
        return None
    start = t.job.waiting.stopped[1] if t.job.waiting.stopped else (t.job.waiting.warm[0][0] if t.job.waiting.warm else None)
    if start is None:
        return None
    answer = _answer(t)
    if answer is None or answer.minutes_high <= 0:
        return None
    observed = t.job.open.observation.entry_id if t.job.open.observation else ""
    return TimerState(
        t.job.waiting.stopped[0] if t.job.waiting.stopped else observed,
        TimerKind.COOLING,
        start,
        "",
        likely_at=start + _minutes(answer.minutes),
        low_at=start + _minutes(answer.minutes_low),
        high_at=start + _minutes(answer.minutes_high),
        points=answer.points_counted,
        learned=bool(t.life.cooled_min),
    )


def _answer(t: LedgerFold) -> CooldownAnswer | None:
    """With the logged temperatures where they make sense, without them where they do not."""
    for points in (True, False):
        try:
            return cooled(t, points)
        except CoreError:
            continue
    return None


def pause_of(t: LedgerFold) -> PauseState | None:
    """Paused now, or not."""
    if t.job.waiting.paused is None:
        return None
    entry, facts = t.job.waiting.paused
    return PauseState(entry.id, entry.happened_at, entry.person, facts.note)


class Running(Protocol):
    """What runs in a loop, as far as waiting for it goes."""

    @property
    def kind(self) -> TimerKind:
        """What it is."""
        ...

    @property
    def ends_at(self) -> datetime | None:
        """When its clock is over."""
        ...

    @property
    def limit_at(self) -> datetime | None:
        """When a cleaner has to be out."""
        ...

    @property
    def likely_at(self) -> datetime | None:
        """When it is expected to be cold."""
        ...


def wait_of(state: LoopState, now: datetime) -> Wait:
    """Whose turn it is at this moment."""
    return wait_for(state.timers, state.paused.at if state.paused else None, state.changed_at, now)


def wait_for(timers: Sequence[Running], paused_at: datetime | None, changed_at: datetime | None, now: datetime) -> Wait:
    """Whose turn it is at this moment. A passed limit outranks a pause."""
    for timer in timers:
        if timer.limit_at is not None and timer.limit_at <= now:
            return Wait(WaitKind.LIMIT, timer.kind, since=timer.limit_at)
    if paused_at is not None:
        return Wait(WaitKind.PAUSED, since=paused_at)
    running = [row for row in timers if row.ends_at is not None]
    rung = [row for row in running if row.ends_at is not None and row.ends_at <= now]
    if rung:
        return Wait(WaitKind.HANDS, rung[0].kind, since=rung[0].ends_at)
    if running:
        return Wait(WaitKind.COUNTING, running[0].kind, until=running[0].ends_at)
    cooling = next((row for row in timers if row.likely_at is not None), None)
    if cooling is not None and cooling.likely_at is not None:
        kind = WaitKind.COOLING if cooling.likely_at > now else WaitKind.HANDS
        since = None if kind is WaitKind.COOLING else cooling.likely_at
        return Wait(kind, cooling.kind, since, cooling.likely_at if since is None else None)
    return Wait(WaitKind.HANDS, since=changed_at)


def cleaner_over(t: LedgerFold) -> bool:
    """The cleaner is in longer than its label allows."""
    now = t.now
    return now is not None and any(row.limit_at is not None and row.limit_at <= now for row in timers_of(t, now))
