"""May this fact of filling, bleeding, correcting or coming back follow now? The part of `admit` that speaks of them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.entries import Entry, Facts
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    Corrected,
    FillMethod,
    LookedUnder,
    Poured,
    VacuumPulled,
)
from temper_core.job.fill.state import FillState
from temper_core.job.job_types import Route, Stage
from temper_core.job.ledger import standing
from temper_core.job.loop import Loop
from temper_core.job.open.facts import GateObserved
from temper_core.job.readings import Place, Read
from temper_core.job.stages import ROUTES
from temper_core.job.state import LoopState
from temper_core.job.verify.facts import FinishChecked
from temper_core.science import ambient_kpa

BETWEEN = (GateObserved, LevelSeen, Poured, Read, Amended)


def check_fill(loop: Loop, state: LoopState, facts: Facts, policy: Policy) -> bool:
    """Refuse what cannot follow; False where the fact is none of these. Raises CoreError or Conflict."""
    match facts:
        case Closed():
            _check_closed(_filling(state), facts)
        case LookedUnder():
            if not state.poured.product_l + state.poured.water_l:
                raise Conflict("job", "Nothing is in it yet: look underneath at half fill.", "nothing_poured")
        case VacuumPulled():
            _check_vacuum(loop, state, facts, policy)
        case BleedStarted() | BleedStepped() | BleedHeld() | BleedGoesOn() | BleedEnded():
            _check_bleed(_filling(state), state, facts)
        case Corrected():
            _check_corrected(loop, state, facts)
        case FinishChecked():
            if not state.poured.at_mark:
                raise Conflict("job", "Fill to the cold mark first.", "not_filled")
        case LevelSeen() | Amended():
            raise Conflict("job", "A job is open on this loop: what is seen now belongs to it.", "job_open")
        case _:
            return False
    return True


def _filling(state: LoopState) -> FillState:
    if state.fill is None or state.route is None or Stage.FILL not in ROUTES[state.route]:
        raise Conflict("job", "Nothing is to be filled yet: accept the mix first.", "no_fill")
    return state.fill


def _check_closed(fill: FillState, facts: Closed) -> None:
    known = {row.key for row in fill.closing}
    for point in facts.points:
        if point not in known:
            raise CoreError("points", f"'{point}' was not opened by this job: {', '.join(sorted(known)) or 'nothing'} was.")


def check_may_pour(state: LoopState, facts: Poured) -> None:
    """Nothing goes into an open loop, by a vacuum that did not hold, or into one that ran with its neck shut."""
    fill = state.fill
    if fill is None or state.route is Route.TOP_UP:
        return
    if not fill.pours:
        still = [row.act for row in fill.closing if not row.done]
        if still:
            raise Conflict("job", f"Not yet confirmed: {'; '.join(still)}.", "not_shut")
    if facts.method is FillMethod.VACUUM and not facts.bleeding:
        held = fill.vacuum
        if held is None:
            raise Conflict("method", "No vacuum was recorded on it: pull and hold it first.", "no_vacuum")
        if held.answer.tight is not True:
            raise Conflict(
                "method", "The vacuum did not hold, or was not held long enough: find the leak first.", "not_tight"
            )


def _check_vacuum(loop: Loop, state: LoopState, facts: VacuumPulled, policy: Policy) -> None:
    fill = _filling(state)
    if fill.pours:
        raise Conflict("job", "It is partly filled: a vacuum is pulled on the drained loop.", "poured")
    if any(not row.done for row in fill.closing):
        raise Conflict("job", "Shut and seat what was open first: it cannot hold.", "not_shut")
    ambient = ambient_kpa(loop.altitude_m)
    if facts.vacuum_kpa >= ambient:
        words = "{vacuum_kpa} below ambient cannot be: under {ambient_kpa} is allowed here. Read it again."
        said = say("out_of_range", words, vacuum_kpa=facts.vacuum_kpa, ambient_kpa=ambient)
        raise CoreError("vacuum_kpa", said)
    if facts.loop_c >= policy["gate_probe_c"]:
        words = "{loop_c} is too warm: under {limit_c:0} only, warm fluid boils under vacuum."
        raise CoreError("loop_c", say("too_warm", words, loop_c=facts.loop_c, limit_c=policy["gate_probe_c"]))


def _check_bleed(fill: FillState, state: LoopState, facts: Facts) -> None:
    run = fill.bleed.run
    if isinstance(facts, BleedStarted):
        if run is not None:
            raise Conflict("job", f"{run.by} runs a bleed already.", "bleed_runs")
        if not fill.pours:
            raise Conflict("job", "Nothing is in it yet: fill it first.", "nothing_poured")
        if facts.recipe.steps[0].neck_open and not _open_or_cold(state):
            message = "Its first step opens the neck, and the loop may be hot. Confirm it is safe to open first."
            raise Conflict("gate", message, "gate_shut")
        return
    if isinstance(facts, BleedEnded):
        if not state.poured.at_mark and run is None:
            raise Conflict("job", "Bring the level to the cold mark first.", "not_filled")
        return
    if run is None:
        raise Conflict("job", "No bleed is under way: start it first.", "no_bleed")
    if isinstance(facts, BleedStepped):
        steps = fill.bleed.recipe.steps
        if not 0 <= facts.step < len(steps):
            raise CoreError("step", f"The recipe has {len(steps)} steps: 0 to {len(steps) - 1}.", "out_of_range")
        before = steps[facts.step - 1] if facts.step else None
        if steps[facts.step].opens_after(before) and not _open_or_cold(state):
            message = "That step opens the loop, and it ran shut. Engine off, let it cool, confirm it is safe to open."
            raise Conflict("gate", message, "gate_shut")
    if isinstance(facts, BleedHeld) and run.held:
        raise Conflict("job", "It is held already.", "held")
    if isinstance(facts, BleedGoesOn) and not run.held:
        raise Conflict("job", "It runs.", "not_held")


def check_water(loop: Loop, facts: Poured) -> None:
    """A low-conductivity loop takes no water; where it went in all the same, it is said as the mistake it is."""
    if loop.need.low_conductivity and facts.water_l > 0 and not facts.mistake:
        message = (
            "A low-conductivity loop takes no water. If it went in by mistake, record it as a mistake, then drain the loop "
            "and fill it with its own ready-mix."
        )
        raise CoreError("water_l", message, "no_water")


def check_point(loop: Loop, state: LoopState, facts: Poured) -> None:
    """A fill point that the loop has, in the order of the points."""
    known = sorted(point.number for point in loop.layout.fill_points)
    if facts.point is None:
        if facts.method is FillMethod.POINTS and len(known) > 1 and not facts.bleeding:
            raise CoreError("point", f"At which fill point? This loop has {_numbers(known)}.", "required")
        return
    if facts.point not in known:
        has = _numbers(known) if known else "none"
        raise CoreError(
            "point", f"Fill point {facts.point} is not on this loop: it has {has}. Check the number.", "unknown_point"
        )
    done = {row.point for row in state.fill.pours if row.point is not None} if state.fill else set()
    before = [number for number in known if number < facts.point and number not in done]
    if before and not facts.bleeding:
        message = f"Fill point {before[0]} comes before {facts.point}. Fill it until it shows, then the next."
        raise CoreError("point", message, "out_of_order")


def _numbers(numbers: Sequence[int]) -> str:
    return ", ".join(str(number) for number in numbers)


def _open_or_cold(state: LoopState) -> bool:
    """It may be opened now: the check stands, or nothing ran with its neck shut since it was opened cold."""
    return state.gate.passed_before or state.gate.never_under_pressure


def _check_corrected(loop: Loop, state: LoopState, facts: Corrected) -> None:
    if state.route is None or Stage.DRAIN not in ROUTES[state.route]:
        raise Conflict("job", "This job drains nothing. Start a job to adjust the strength.", "no_gate")
    if not state.poured.at_mark:
        raise Conflict("job", "Fill to the cold mark first.", "not_filled")
    if facts.out_l > state.inside.litres:
        words = "{out_l} out of {inside_l} inside cannot be: check the figure and its unit."
        raise CoreError("out_l", say("more_than_inside", words, out_l=facts.out_l, inside_l=state.inside.litres))
    if facts.product is not None and facts.product.base is not state.inside.base:
        message = f"{facts.product.name} is of another base than what is inside: it corrects nothing, change it out."
        raise CoreError("product", message, "other_base")
    back = facts.product_l + facts.water_l
    if abs(back - facts.out_l) > max(0.5, 0.1 * loop.capacity_l):
        words = "{back_l} back for {out_l} out: the mark would be missed. Check the figures and their units."
        raise CoreError("product_l", say("does_not_fill", words, back_l=back, out_l=facts.out_l))


def check_between(loop: Loop, entries: Sequence[Entry], state: LoopState, facts: Facts, now: datetime | None) -> None:
    """What may be recorded without a job: a level, a top-up, a reading, a correction to what was signed."""
    if state.job_id is not None and state.signed_at is None:
        raise Conflict("job", "A job is open on this loop: record it there.", "job_open")
    if not isinstance(facts, BETWEEN):
        raise Conflict("job", "That belongs to a job: open one first.", "no_job")
    if isinstance(facts, Amended):
        alive = {entry.id for entry in standing(entries)}
        if state.signed_at is None:
            raise Conflict("job", "Nothing is signed off on this loop: there is nothing to correct.", "not_signed")
        if facts.entry_id and facts.entry_id not in alive:
            raise Conflict("entry_id", "That entry is not in this ledger, or was taken back already.", "not_standing")
    if isinstance(facts, Poured):
        check_water(loop, facts)
        check_point(loop, state, facts)
    if isinstance(facts, Poured) and facts.product_l + facts.water_l > loop.capacity_l / 2:
        litres = facts.product_l + facts.water_l
        words = "{in_l} into a loop of {capacity_l} is no top-up: check the figure and its unit, or open a job."
        raise CoreError("product_l", say("more_than_room", words, in_l=litres, capacity_l=loop.capacity_l))
    if isinstance(facts, Read) and facts.place is not Place.AS_FOUND:
        raise CoreError("place", "Without a job a reading is one as found.", "not_as_found")
