"""The bleed as guided steps: recipe, where it is now, how it ended, and what to do about it."""

from __future__ import annotations

from datetime import datetime

from temper_core.basis.message import Message, say
from temper_core.job.fill.facts import FillMethod
from temper_core.job.fill.state import BleedRunState, BleedState, BleedStepState, SignRow
from temper_core.job.fold_state import LedgerFold
from temper_core.machine.bleed_recipes import recipe_for
from temper_core.machine.bleed_run import BleedRun, clock_of, segments
from temper_core.machine.bleeding import SIGN_NAMES, BleedOutcome, BleedRecipe, FinishSign, step_words
from temper_core.machine.circuit import BleederKind, NodeKind, Via

_AFTER: dict[BleedOutcome, Message | None] = {
    BleedOutcome.FINISHED: None,
    BleedOutcome.OVERHEATING: say(
        "overheating",
        "Overheated: air at the pump or the sensor, or the thermostat stays shut. Engine off, keep the neck closed, "
        "let it cool, check it is safe to open; then top up and bleed again.",
    ),
    BleedOutcome.NO_HEAT: say(
        "no_heat",
        "Hot engine, cold heater: air in the heater, heater valve shut, or low level. Engine off, let it cool, "
        "check it is safe to open; then front up, squeeze the heater hoses, top up and bleed again.",
    ),
    BleedOutcome.STOPPED: say("bleed_stopped", "The bleed stopped before two signs were seen. Run it again."),
}

_LEVEL_FIRST = frozenset({BleedOutcome.OVERHEATING, BleedOutcome.NO_HEAT})


def recipe_of(t: LedgerFold) -> BleedRecipe:
    """What is run, else what would be."""
    if t.job.fill.run is not None:
        return t.job.fill.run.recipe
    by_vacuum = bool(t.job.pours) and t.job.pours[0].method is FillMethod.VACUUM
    return recipe_for(t.loop.layout, t.loop.equipment, vacuum=by_vacuum)


def steps_of(recipe: BleedRecipe) -> tuple[BleedStepState, ...]:
    """A recipe's steps in words."""
    before, rows = None, []
    for number, step in enumerate(recipe.steps, 1):
        words = step_words(step)
        act = step.act or words[0].capitalize()
        rows.append(BleedStepState(number, act, step.seconds, words, step.heats, step.opens_after(before), step.top_up))
        before = step
    return tuple(rows)


def signs_asked(t: LedgerFold) -> tuple[SignRow, ...]:
    """The finish signs that this loop can show."""
    layout = t.loop.layout
    electric = any(node.kind is NodeKind.ELECTRONICS for node in layout.nodes)
    heater = any(node.kind is NodeKind.HEATER for node in layout.nodes)
    thermostat = any(pipe.via is Via.THERMOSTAT for pipe in layout.pipes)
    screws = any(row.kind is not BleederKind.PIPE for row in layout.bleeders)
    shown = {
        FinishSign.HEATER_HOT: heater,
        FinishSign.BOTTOM_HOT: not electric,
        FinishSign.SOLID_STREAM: screws,
        FinishSign.FAN_CYCLED: thermostat or not electric,
        FinishSign.SWIRL: electric,
    }
    return tuple(SignRow(sign, SIGN_NAMES[sign]) for sign in FinishSign if shown.get(sign, True))


def run_state(run: BleedRun, now: datetime) -> BleedRunState:
    """Where the run is now."""
    row = list(segments(run, now))[-1]
    return BleedRunState(
        entry_id=run.entry_id,
        started_at=run.started_at,
        by=run.by,
        step=row.step,
        began_at=row.began_at,
        ends_at=row.ends_at,
        left_s=row.left_s,
        held=row.held_at is not None,
        gate=row.gate,
        over=row.over,
    )


def bleed_of(t: LedgerFold, now: datetime | None) -> BleedState:
    """See BleedState; without a clock, the run as of its last mark."""
    run, ended = t.job.fill.run, t.job.fill.ended[-1][2] if t.job.fill.ended else None
    recipe = recipe_of(t)
    return BleedState(
        recipe=recipe,
        steps=steps_of(recipe),
        run=run_state(run, clock_of(run, now)) if run else None,
        attempts=len(t.job.fill.ended),
        outcome=ended.outcome if ended else None,
        signs=t.job.fill.bled,
        asked=signs_asked(t),
        said=_AFTER[ended.outcome] if ended and run is None else None,
        level_first=ended is not None and run is None and ended.outcome in _LEVEL_FIRST,
    )
