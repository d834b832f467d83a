"""May a bleed start, go on or end now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entry_kind import Attempt
from temper_core.job.fill.facts import BleedEnded, BleedGoesOn, BleedHeld, BleedStarted, BleedStepped
from temper_core.job.fill.state import BleedRunState
from temper_core.job.fill.validate import filling
from temper_core.job.loop_state import LoopState
from temper_core.job.opening import check_may_run


def bleed_started(a: Attempt, facts: BleedStarted) -> None:
    """Filled, none running, and cold where its first step opens; raises Conflict."""
    fill = filling(a.state)
    if fill.bleed.run is not None:
        raise Conflict("job", f"{fill.bleed.run.by} has started a bleed already.", "bleed_runs")
    if not fill.pours:
        raise Conflict("job", "The loop is empty. Fill it first.", "nothing_poured")
    if facts.recipe.steps[0].neck_open and not _open_or_cold(a.state):
        message = "The first step opens the neck and the loop may be hot. Confirm it is safe to open first."
        raise Conflict("gate", message, "gate_shut")
    if any(step.heats for step in facts.recipe.steps):
        check_may_run(a.state)


def bleed_ended(a: Attempt, facts: BleedEnded) -> None:
    """Raises Conflict where nothing runs and the level is not at the mark."""
    if not a.state.poured.at_mark and filling(a.state).bleed.run is None:
        raise Conflict("job", "The level is not at the cold mark. Top up first.", "not_filled")


def _running(a: Attempt) -> BleedRunState:
    run = filling(a.state).bleed.run
    if run is None:
        raise Conflict("job", "No bleed is running. Start one first.", "no_bleed")
    return run


def bleed_stepped(a: Attempt, facts: BleedStepped) -> None:
    """A step that the recipe has and that may be opened now; raises CoreError or Conflict."""
    _running(a)
    steps = filling(a.state).bleed.recipe.steps
    if not 0 <= facts.step < len(steps):
        raise CoreError("step", f"The recipe has {len(steps)} steps: 0 to {len(steps) - 1}.", "out_of_range")
    before = steps[facts.step - 1] if facts.step else None
    if steps[facts.step].opens_after(before) and not _open_or_cold(a.state):
        message = "That step opens a loop that ran hot. Engine off, let it cool, confirm it is safe to open."
        raise Conflict("gate", message, "gate_shut")


def bleed_held(a: Attempt, facts: BleedHeld) -> None:
    """Raises Conflict where it is held already."""
    if _running(a).held:
        raise Conflict("job", "The bleed is paused already.", "held")


def bleed_goes_on(a: Attempt, facts: BleedGoesOn) -> None:
    """Raises Conflict where it runs."""
    if not _running(a).held:
        raise Conflict("job", "The bleed is running already.", "not_held")


def _open_or_cold(state: LoopState) -> bool:
    """It may be opened now: the check stands, or nothing ran with its neck shut since it was opened cold."""
    return state.gate.passed_before or state.gate.never_under_pressure
