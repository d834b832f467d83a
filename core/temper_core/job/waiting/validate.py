"""May this clock start or stop, and may the job be paused now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict
from temper_core.job.entry_kind import Attempt
from temper_core.job.opening import check_may_run
from temper_core.job.waiting.facts import Clock, ClockStarted, ClockStopped, Paused


def clock_started(a: Attempt, facts: ClockStarted) -> None:
    """Not twice, and a warm-up only of a full loop whose exhaust is led off; raises Conflict."""
    state = a.state
    empty = state.drained_l is not None and state.poured.room_l > 0.25 * sum(vessel.volume_l for vessel in state.vessels)
    if facts.clock is Clock.WARM_UP and empty:
        raise Conflict("clock", "The loop is drained. Fill it before the engine runs.", "drained")
    if any(timer.kind.value == facts.clock.value for timer in state.timers):
        raise Conflict("clock", "That clock is running already. Stop it first.", "runs_already")
    if facts.clock is Clock.WARM_UP:
        check_may_run(state)


def clock_stopped(a: Attempt, facts: ClockStopped) -> None:
    """Only one that runs; raises Conflict."""
    running = {timer.entry_id for timer in a.state.timers if timer.kind.value in {clock.value for clock in Clock}}
    if facts.entry_id not in running:
        raise Conflict("entry_id", "That clock is not running any more. Reload the page.", "not_running")


def paused(a: Attempt, facts: Paused) -> None:
    """Not twice, and never while a bleed runs; raises Conflict."""
    state = a.state
    if state.fill is not None and state.fill.bleed.run is not None:
        raise Conflict("job", "A bleed is running. Stop it before you pause the job.", "bleed_runs")
    if state.paused is not None:
        raise Conflict("job", f"{state.paused.by} paused the job already.", "paused")
