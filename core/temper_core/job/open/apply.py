"""What the safe-to-open check, what stands ready and a run do to the state of a loop."""

from __future__ import annotations

from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.effects import engine_ran
from temper_core.job.open.facts import EngineRun, GateObserved, Ready, ReadyConfirmed, Warmth
from temper_core.job.open.state import Observation


def gate_observed(t: LedgerFold, facts: GateObserved, entry: Entry) -> None:
    """What was felt stands from now, unless a run was recorded after it."""
    between = entry.job_id is None
    t.job.open.observation = Observation(entry.id, entry.happened_at, entry.person, entry.person_id, facts, between=between)
    if t.ran_seq > entry.seq:
        t.job.open.observation = t.job.open.observation.after_run(EngineRun())
    t.job.open.ready |= dict.fromkeys(facts.ready, entry.happened_at)
    t.job.open.isolated = t.job.open.isolated or Ready.ISOLATED in facts.ready
    if facts.temperature_c is not None and facts.warmth is not Warmth.HAND:
        t.job.waiting.warm.append((entry.happened_at, facts.temperature_c))


def ready_confirmed(t: LedgerFold, facts: ReadyConfirmed, entry: Entry) -> None:
    """This stands ready, from now."""
    t.job.open.ready |= dict.fromkeys(facts.ready, entry.happened_at)


def engine_run(t: LedgerFold, facts: EngineRun, entry: Entry) -> None:
    """What circulated is one fluid, and what was felt before no longer counts."""
    engine_ran(t, facts, entry)
