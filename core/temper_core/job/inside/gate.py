"""The safe-to-open check as it stands now: asked of the fold and of its time, never kept."""

from __future__ import annotations

from temper_core.job.fold_state import LedgerFold
from temper_core.job.open.facts import EngineRun
from temper_core.job.open.rules import judge_gate
from temper_core.job.open.state import Gate, Observation
from temper_core.machine.bleed_run import clock_of, segments


def gate_now(t: LedgerFold) -> Gate:
    """Whether it may be opened now, and what speaks against it; by the fold's own time."""
    return judge_gate(observed_now(t), t.loop.equipment, t.policy, t.now, t.loop.high_voltage, t.job.open.ready)


def observed_now(t: LedgerFold) -> Observation | None:
    """What was felt, after what the running bleed has done to it until now."""
    seen, run = t.job.open.observation, t.job.fill.run
    if seen is None or run is None:
        return seen
    felt_at = seen.at
    for row in segments(run, clock_of(run, t.now)):
        step = run.recipe.steps[row.step]
        if step.heats and (
            felt_at <= run.started_at or row.began_at > felt_at
        ):  # felt between two steps: holds until the next
            seen = seen.after_run(EngineRun(neck_open=step.neck_open))
    return seen
