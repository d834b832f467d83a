"""What clocks, temperatures and pauses do to the state of a loop."""

from __future__ import annotations

from dataclasses import replace

from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.open.facts import EngineRun
from temper_core.job.waiting.facts import Clock, ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged


def temperature_logged(t: LedgerFold, facts: TemperatureLogged, entry: Entry) -> None:
    """How warm it is [degC], and when."""
    t.job.waiting.warm.append((entry.happened_at, facts.c))


def clock_started(t: LedgerFold, facts: ClockStarted, entry: Entry) -> None:
    """A clock runs; a warm-up runs the engine."""
    t.job.waiting.clocks.append((entry, facts))
    if facts.clock is Clock.WARM_UP:  # the engine runs
        t.job.open.observation = t.job.open.observation.after_run(EngineRun()) if t.job.open.observation else None
        t.ran_seq = max(t.ran_seq, entry.seq)
        t.job.waiting.stopped, t.job.waiting.warm = None, []


def clock_stopped(t: LedgerFold, facts: ClockStopped, entry: Entry) -> None:
    """That clock is done with."""
    t.job.waiting.clocks = [row for row in t.job.waiting.clocks if row[0].id != facts.entry_id]


def paused(t: LedgerFold, facts: Paused, entry: Entry) -> None:
    """Paused; whoever resumes checks again."""
    t.job.waiting.paused, t.job.open.ready = (entry, facts), {}
    t.life.parked = (entry.happened_at, facts.parked)
    t.job.open.observation = replace(t.job.open.observation, handed_on=True) if t.job.open.observation else None


def resumed(t: LedgerFold, facts: Resumed, entry: Entry) -> None:
    """In these hands from now."""
    t.job.waiting.paused, t.job.waiting.hands, t.job.open.ready = None, (entry.person_id, entry.person), {}
    t.life.parked = (entry.happened_at, None)
    t.job.open.observation = replace(t.job.open.observation, handed_on=True) if t.job.open.observation else None
