"""May this round be filled, these vessels be rinsed, the flush be ended, this waste be kept now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import say
from temper_core.job.entry_kind import Attempt
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed, WasteKept, WasteKind
from temper_core.job.flush.state import FlushState, Step
from temper_core.job.job_types import Stage
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.stages import STAGES_OF
from temper_core.products.water import WaterKind

SLACK_L = 0.05
WASTE_SLACK = 0.05  # of the litres: marks on a container


def round_filled(a: Attempt, facts: RoundFilled) -> None:
    """May a round be filled now, with this water, with so much [l]? Raises CoreError or Conflict."""
    _check_may_rinse(a.state)
    _check_rinse_water(a.loop, facts.water)
    _check_fill(a.state, facts)


def vessels_rinsed(a: Attempt, facts: VesselRinsed) -> None:
    """May these vessels be rinsed now? Raises CoreError or Conflict."""
    _check_may_rinse(a.state)
    if facts.method is not Method.BLOW_OUT:
        _check_rinse_water(a.loop, facts.water)
    _check_sweep(a.state, facts)


def flush_ended(a: Attempt, facts: FlushEnded) -> None:
    """Never on cleaner, and with a reason where it is not enough; raises CoreError or Conflict."""
    flush = _rinsing(a.state)
    if flush.cleaner is not None:
        words = f"{flush.cleaner.percent:.1f} % of {flush.cleaner.name} is left, over {flush.cleaner.limit_percent:g} %"
        raise Conflict("job", f"{words}. Keep rinsing: a flush cannot finish with cleaner inside.", "cleaner_left")
    if not flush.enough.enough and not facts.reason.strip():
        short = " ".join(said.sentence for said in flush.enough.short)
        raise CoreError("reason", f"Not enough yet. {short} Say why you finish here.", "required")


def waste_kept(a: Attempt, facts: WasteKept) -> None:
    """No more is kept than came out [l]; raises CoreError."""
    state = a.state
    waste = {row.kind: row for row in state.flush.waste} if state.flush else {}
    row = waste.get(facts.kind)
    out, kept = (row.out_l, row.kept_l) if row else (0.0, 0.0)
    if facts.litres > (out - kept) + WASTE_SLACK * out + SLACK_L:
        words = "{kept_l} in containers is more than the {out_l} drained. Check the litres."
        raise CoreError("litres", say("more_than_out", words, kept_l=facts.litres, out_l=max(0.0, out - kept)))
    if not facts.reuse:
        return
    if facts.kind is not WasteKind.OLD_COOLANT:
        raise CoreError("reuse", "Rinse water is waste and cannot be reused. Choose waste.", "never_reused")
    if state.flush is not None and state.flush.no_reuse:
        raise CoreError("reuse", " ".join(said.sentence for said in state.flush.no_reuse), "no_reuse")


def _rinsing(state: LoopState) -> FlushState:
    """The flush, where the job has one and it is under way."""
    if state.job_type is None or Stage.FLUSH not in STAGES_OF[state.job_type]:
        raise Conflict("job", "This job has no flush. Choose another job type first.", "no_flush")
    if state.flush is None:
        raise Conflict("job", "Nothing is drained yet. Drain first, then rinse.", "not_drained")
    if state.flush.ended:
        raise Conflict("job", "The flush is finished. Undo that to keep rinsing.", "flush_ended")
    if state.flush.step is not Step.PLAN:
        raise Conflict("job", "A round is inside. Run and drain it first.", "round_open")
    return state.flush


def _check_may_rinse(state: LoopState) -> None:
    _rinsing(state)
    if state.poured.product_l + state.poured.water_l > 0:
        raise Conflict("job", "New coolant is inside. Undo the pours first.", "poured")


def _check_rinse_water(loop: Loop, water: WaterKind) -> None:
    if loop.need.low_conductivity and water is not WaterKind.DEMINERALISED:
        message = (
            f"{water.value.capitalize()} water may not rinse a low-conductivity loop. Use demineralised water if "
            "the maker allows it."
        )
        raise CoreError("water", message, "no_water")


def _check_fill(state: LoopState, facts: RoundFilled) -> None:
    room = state.poured.room_l
    if room < SLACK_L:
        raise Conflict("job", "The loop is full. Drain first.", "no_room")
    if facts.fill_l is not None and facts.fill_l > room + SLACK_L:
        words = "{fill_l} is more than the {room_l} of room. Check the litres filled and drained."
        raise CoreError("fill_l", say("more_than_room", words, fill_l=facts.fill_l, room_l=room))


def _check_sweep(state: LoopState, facts: VesselRinsed) -> None:
    held = {vessel.id: vessel for vessel in state.vessels}
    for name, litres in facts.litres.items():
        if name not in held:
            raise CoreError(f"litres.{name}", f"No vessel is called '{name}': {', '.join(held)} are.", "unknown_vessel")
        if facts.method is not Method.BLOW_OUT and held[name].volume_l <= 0:
            raise CoreError(f"litres.{name}", f"{held[name].name} is empty at the cold mark. Leave it out.", "empty")
        if facts.method is Method.BLOW_OUT and litres > held[name].litres + SLACK_L:
            words = "{out_l} is more than the {inside_l} in it. Check the litres and the vessel."
            said = say("more_than_inside", words, out_l=litres, inside_l=held[name].litres)
            raise CoreError(f"litres.{name}", said)
