"""May this be poured, shut, pulled or swapped now?"""

from __future__ import annotations

from collections.abc import Sequence

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import say
from temper_core.job.entry_kind import Attempt
from temper_core.job.fill.facts import Closed, FillMethod, LookedUnder, Poured, StrengthAdjusted, VacuumPulled
from temper_core.job.fill.reuse import check_reused
from temper_core.job.fill.state import FillState
from temper_core.job.flush.state import Step
from temper_core.job.job_types import JobType, Stage
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.stages import STAGES_OF
from temper_core.science import ambient_kpa

OVERFILL = 0.25  # of the capacity: beyond this a pour was mistyped


def poured(a: Attempt, facts: Poured) -> None:
    """May this go in now, and does it fit? Raises CoreError for litres [l] that cannot be, Conflict for the rest."""
    loop, state = a.loop, a.state
    check_flushed_out(state)
    check_reused(a.fold, facts.taken)
    check_water(loop, facts)
    check_point(loop, state, facts)
    if state.drained_l is None and state.job_type is not JobType.TOP_UP:
        raise Conflict("job", "Nothing is drained yet. Record the drained litres first.", "not_drained")
    if state.job_type is JobType.TOP_UP:
        _check_top_up(loop, state, facts)
        return
    _check_may_pour(state, facts)
    litres, room = facts.product_l + facts.water_l, state.poured.room_l
    if litres > room + OVERFILL * loop.capacity_l:
        raise CoreError(
            "product_l",
            say(
                "more_than_room",
                "{in_l} is more than the {room_l} of room (capacity {capacity_l}). Check the litres and the unit; if more "
                "really went in, less was inside than the drain entry says.",
                in_l=litres,
                room_l=room,
                capacity_l=loop.capacity_l,
            ),
        )


def _check_top_up(loop: Loop, state: LoopState, facts: Poured) -> None:
    litres = state.poured.product_l + state.poured.water_l + facts.product_l + facts.water_l
    if litres > loop.capacity_l:
        words = "{in_l} is no top-up of a {capacity_l} loop. Check the litres and the unit, or start a refill."
        raise CoreError("product_l", say("more_than_room", words, in_l=litres, capacity_l=loop.capacity_l))


def poured_between(a: Attempt, facts: Poured) -> None:
    """A top-up between services: at most half the loop; raises CoreError."""
    check_reused(a.fold, facts.taken)
    check_water(a.loop, facts)
    check_point(a.loop, a.state, facts)
    litres = facts.product_l + facts.water_l
    if litres > a.loop.capacity_l / 2:
        words = "{in_l} is no top-up of a {capacity_l} loop. Check the litres and the unit, or start a job."
        raise CoreError("product_l", say("more_than_room", words, in_l=litres, capacity_l=a.loop.capacity_l))


def check_flushed_out(state: LoopState) -> None:
    """New coolant goes in only once rinse water and cleaner are out and the flush is ended; raises Conflict."""
    flush = state.flush
    if flush is None:
        return
    if flush.step is not Step.PLAN:
        raise Conflict("job", "Rinse water is inside. Drain the round first.", "round_open")
    if state.stage is Stage.FLUSH:
        raise Conflict("job", "The flush is not finished. Finish the flush first.", "flush_open")


def _check_may_pour(state: LoopState, facts: Poured) -> None:
    """Nothing goes into an open loop, by a vacuum that did not hold, or into one that ran with its neck shut."""
    fill = state.fill
    if fill is None or state.job_type is JobType.TOP_UP:
        return
    if not fill.pours:
        still = [row.act for row in fill.closing if not row.done]
        if still:
            raise Conflict("job", f"Not yet confirmed: {'; '.join(still)}.", "not_shut")
    if facts.method is FillMethod.VACUUM and not facts.bleeding:
        held = fill.vacuum
        if held is None:
            raise Conflict("method", "No vacuum is recorded. Pull a vacuum and hold it first.", "no_vacuum")
        if held.answer.tight is not True:
            raise Conflict("method", "The vacuum did not hold, or not long enough. Find the leak first.", "not_tight")


def closed(a: Attempt, facts: Closed) -> None:
    """Only points that this job opened; raises CoreError."""
    fill = filling(a.state)
    known = {row.key for row in fill.closing}
    for point in facts.points:
        if point not in known:
            raise CoreError("points", f"'{point}' was not opened by this job: {', '.join(sorted(known)) or 'nothing'} was.")


def looked_under(a: Attempt, facts: LookedUnder) -> None:
    """Something has to be in it; raises Conflict."""
    if not a.state.poured.product_l + a.state.poured.water_l:
        raise Conflict("job", "The loop is empty. Look underneath when it is half full.", "nothing_poured")


def vacuum_pulled(a: Attempt, facts: VacuumPulled) -> None:
    """On the drained, shut, cold loop; raises CoreError for pressures [kPa] and temperatures [degC] that cannot be."""
    fill, loop, policy = filling(a.state), a.loop, a.policy
    if fill.pours:
        raise Conflict("job", "The loop is partly filled. Vacuum is only for a drained loop.", "poured")
    if any(not row.done for row in fill.closing):
        raise Conflict("job", "Something is still open. Refit and tighten first.", "not_shut")
    ambient = ambient_kpa(loop.altitude_m)
    if facts.vacuum_kpa >= ambient:
        words = "{vacuum_kpa} below ambient is not possible: less than {ambient_kpa} here. Read the gauge again."
        said = say("out_of_range", words, vacuum_kpa=facts.vacuum_kpa, ambient_kpa=ambient)
        raise CoreError("vacuum_kpa", said)
    if facts.loop_c >= policy["gate_probe_c"]:
        words = "{loop_c} is too warm for vacuum: below {limit_c:0} only, warm fluid boils. Let it cool."
        raise CoreError("loop_c", say("too_warm", words, loop_c=facts.loop_c, limit_c=policy["gate_probe_c"]))


def corrected(a: Attempt, facts: StrengthAdjusted) -> None:
    """Swapped in the full loop, as much back as out; raises CoreError or Conflict."""
    loop, state = a.loop, a.state
    if state.job_type is None or Stage.DRAIN not in STAGES_OF[state.job_type]:
        raise Conflict("job", "This job has no drain. Start a job to adjust the strength.", "no_gate")
    if not state.poured.at_mark:
        raise Conflict("job", "Fill to the cold mark first.", "not_filled")
    if facts.out_l > state.inside.litres:
        words = "{out_l} is more than the {inside_l} inside. Check the litres and the unit."
        raise CoreError("out_l", say("more_than_inside", words, out_l=facts.out_l, inside_l=state.inside.litres))
    if facts.product is not None and facts.product.base is not state.inside.base:
        message = f"{facts.product.name} has another base than the coolant inside. Change type instead."
        raise CoreError("product", message, "other_base")
    check_reused(a.fold, facts.taken)
    back = facts.product_l + facts.water_l
    if abs(back - facts.out_l) > max(0.5, 0.1 * loop.capacity_l):
        words = "{back_l} in for {out_l} out misses the cold mark. Check the litres and the units."
        raise CoreError("product_l", say("does_not_fill", words, back_l=back, out_l=facts.out_l))


def filling(state: LoopState) -> FillState:
    """The filling that is under way; raises Conflict where there is none."""
    if state.fill is None or state.job_type is None or Stage.FILL not in STAGES_OF[state.job_type]:
        raise Conflict("job", "No mix is accepted yet. Accept the mix first.", "no_fill")
    return state.fill


def check_water(loop: Loop, facts: Poured) -> None:
    """A low-conductivity loop takes no water; where some went in, it is recorded as a mistake; raises CoreError."""
    if loop.need.low_conductivity and facts.water_l > 0 and not facts.mistake:
        message = (
            "Water is not allowed in a low-conductivity loop. If it went in by mistake, record it as a mistake, "
            "drain the loop "
            "and fill it with its own ready-mix."
        )
        raise CoreError("water_l", message, "no_water")


def check_point(loop: Loop, state: LoopState, facts: Poured) -> None:
    """A fill point that the loop has, in the order of the points; raises CoreError."""
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
        message = f"Fill point {before[0]} comes before {facts.point}. Fill it until coolant shows, then the next."
        raise CoreError("point", message, "out_of_order")


def _numbers(numbers: Sequence[int]) -> str:
    return ", ".join(str(number) for number in numbers)
