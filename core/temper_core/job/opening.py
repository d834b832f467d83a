"""What opens a loop comes behind its safe-to-open check, on every job and between services.

Common practice, no source. The check belongs to the loop, and whoever opens it makes it.
"""

from __future__ import annotations

from collections.abc import Sequence

from temper_core.basis.errors import Conflict
from temper_core.job.drain.facts import Drained
from temper_core.job.entries import Entry, brought_by_edits, standing
from temper_core.job.entry_kind import Attempt, Need
from temper_core.job.fact import Fact
from temper_core.job.fill.facts import Poured, StrengthAdjusted
from temper_core.job.inspect.facts import Check, Tested
from temper_core.job.loop_state import LoopState
from temper_core.job.open.facts import EngineRun
from temper_core.job.open.state import OTHER_DAY, RAN_SINCE, Asked, Gate
from temper_core.job.read.facts import Read
from temper_core.job.waiting.facts import Clock, ClockStarted


def check_opening(a: Attempt, facts: Fact, need: Need) -> None:
    """Refuse what opens a loop without a standing check; raises Conflict.

    A loop that was drained since it last ran stands open: it may be worked on by anybody and on another day, for nothing
    has warmed it. A drain that was taken back is no pass for a hot loop. Two exceptions, both of a loop that stayed open
    since it was cold: topping up while it bleeds, and the result of a gas test on its vented tester.
    """
    entries, state, gate = a.entries, a.state, a.state.gate
    if isinstance(facts, Read) and facts.after_hot_run and _filled_since(entries, state):
        message = (
            "The machine ran hot since the last safe-to-open check. Let it cool, confirm it is safe to open, then read."
        )
        raise Conflict("gate", message, "gate_shut")
    if not a.without_job and gate.passed_before and opened_since_it_ran(entries, state):
        return
    if not a.without_job and gate.never_under_pressure and _stays_open(facts) and _only_ran(gate):
        return
    if not gate.open:
        reason = " ".join(said.sentence for said in gate.reasons)
        raise Conflict("gate", f"This opens the loop. {reason}", "gate_shut")
    if a.person_id is not None and a.person_id != gate.by_id:
        message = f"{gate.by} made the safe-to-open check. Whoever opens the loop must make it: check it yourself."
        raise Conflict("gate", message, "gate_of_another")
    if need is Need.DRAIN and gate.asked_drain:
        raise Conflict("gate", _not_ready("Before a drain", gate.asked_drain), "not_ready")


def _stays_open(facts: Fact) -> bool:
    return (isinstance(facts, Poured) and facts.bleeding) or (
        isinstance(facts, Tested) and facts.check is Check.COMBUSTION_GAS
    )


def _only_ran(gate: Gate) -> bool:
    """The check was good, and nothing but a run with the neck open, or midnight, came after it."""
    return all(said.code in (RAN_SINCE, OTHER_DAY) for said in gate.reasons)


def _not_ready(when: str, asked: Sequence[Asked]) -> str:
    return f"{when}: {'; '.join(row.name.lower() for row in asked)}. Confirm what is ready, then record it."


def check_may_run(state: LoopState) -> None:
    """An engine is started only where its exhaust is led off; raises Conflict."""
    if state.gate.asked_run:
        raise Conflict("ready", _not_ready("Before the engine runs", state.gate.asked_run), "not_ready")


def opened_since_it_ran(entries: Sequence[Entry], state: LoopState) -> bool:
    """It was drained in this job after whatever ran last; a drain counts even if it was taken back."""
    job = [entry for entry in entries if entry.job_id == state.job_id]
    typed = brought_by_edits(job)
    drains = [entry.order for entry in job if isinstance(entry.facts, Drained) and entry.id not in typed]
    runs = [entry.order for entry in standing(job) if isinstance(entry.facts, EngineRun) or _runs(entry.facts)]
    return bool(drains) and (not runs or max(drains) > max(runs))


def _runs(facts: Fact) -> bool:
    return isinstance(facts, ClockStarted) and facts.clock is Clock.WARM_UP


def _filled_since(entries: Sequence[Entry], state: LoopState) -> bool:
    """Something went in after the last check: a hot run since then, as the reading says, is later than the check too."""
    job = [entry for entry in standing(entries) if entry.job_id == state.job_id]
    filled = [entry.order for entry in job if isinstance(entry.facts, Poured | StrengthAdjusted)]
    seen = state.gate.observed_at
    return bool(filled) and (seen is None or max(filled)[0] >= seen)
