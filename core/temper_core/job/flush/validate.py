"""May this fact of flushing, waiting or waste follow now? The part of `admit` that speaks of rounds."""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import say
from temper_core.job.entries import Facts
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed, WasteKept, WasteKind
from temper_core.job.flush.state import FlushState, Step
from temper_core.job.job_types import Stage
from temper_core.job.loop import Loop
from temper_core.job.readings import Place, Read
from temper_core.job.stages import ROUTES
from temper_core.job.state import LoopState
from temper_core.job.waiting.facts import Clock, ClockStarted, ClockStopped, Paused
from temper_core.products.water import WaterKind

SLACK_L = 0.05
WASTE_SLACK = 0.05  # of the litres: marks on a container


def check_flush(loop: Loop, state: LoopState, facts: Facts) -> bool:
    """Refuse what cannot follow; False where the fact is none of these. Raises CoreError or Conflict."""
    match facts:
        case RoundFilled():
            _check_may_rinse(state)
            _check_rinse_water(loop, facts.water)
            _check_fill(state, facts)
        case VesselRinsed():
            _check_may_rinse(state)
            if facts.method is not Method.BLOW_OUT:
                _check_rinse_water(loop, facts.water)
            _check_sweep(state, facts)
        case FlushEnded():
            _check_end(_rinsing(state), facts)
        case Read(place=Place.RINSE):
            if facts.instrument is None:
                raise CoreError("instrument", "A rinse is read with an instrument: choose which one.", "required")
            if state.flush is None:
                raise Conflict("place", "Nothing was drained yet: this is a reading as found.", "not_drained")
            return False  # the figures are checked as of any reading
        case WasteKept():
            _check_waste(state, facts)
        case ClockStarted():
            _check_clock(state, facts)
        case ClockStopped():
            running = {timer.entry_id for timer in state.timers if timer.kind.value in {clock.value for clock in Clock}}
            if facts.entry_id not in running:
                raise Conflict("entry_id", "That clock does not run any more: look again.", "not_running")
        case Paused():
            if state.fill is not None and state.fill.bleed.run is not None:
                raise Conflict("job", "The bleed runs: stop it first, an engine is not put aside.", "bleed_runs")
            if state.paused is not None:
                raise Conflict("job", f"{state.paused.by} put it aside already.", "paused")
        case _:
            return False
    return True


def _rinsing(state: LoopState) -> FlushState:
    """The flush, where the route has one and it is under way."""
    if state.route is None or Stage.FLUSH not in ROUTES[state.route]:
        raise Conflict("job", "This route has no flush: decide for another first.", "no_flush")
    if state.flush is None:
        raise Conflict("job", "Nothing was drained yet: drain first, then rinse.", "not_drained")
    if state.flush.ended:
        raise Conflict("job", "The flush was ended: take that back to go on rinsing.", "flush_ended")
    if state.flush.step is not Step.PLAN:
        raise Conflict("job", "A round is in it: run and drain it first.", "round_open")
    return state.flush


def _check_may_rinse(state: LoopState) -> None:
    _rinsing(state)
    if state.poured.product_l + state.poured.water_l > 0:
        raise Conflict("job", "New coolant is in it: take the pours back first.", "poured")


def _check_rinse_water(loop: Loop, water: WaterKind) -> None:
    if loop.need.low_conductivity and water is not WaterKind.DEMINERALISED:
        message = (
            f"{water.value.capitalize()} water may not rinse a low-conductivity loop: demineralised, if the maker allows."
        )
        raise CoreError("water", message, "no_water")


def _check_fill(state: LoopState, facts: RoundFilled) -> None:
    room = state.poured.room_l
    if room < SLACK_L:
        raise Conflict("job", "It is full: nothing can be filled in before something is drained.", "no_room")
    if facts.fill_l is not None and facts.fill_l > room + SLACK_L:
        words = "{fill_l} do not fit: {room_l} are empty. Wrong figure, or did less come out?"
        raise CoreError("fill_l", say("more_than_room", words, fill_l=facts.fill_l, room_l=room))


def _check_sweep(state: LoopState, facts: VesselRinsed) -> None:
    held = {vessel.id: vessel for vessel in state.vessels}
    for name, litres in facts.litres.items():
        if name not in held:
            raise CoreError(f"litres.{name}", f"No vessel is called '{name}': {', '.join(held)} are.", "unknown_vessel")
        if facts.method is not Method.BLOW_OUT and held[name].volume_l <= 0:
            raise CoreError(f"litres.{name}", f"{held[name].name} holds nothing up to the cold mark: leave it out.", "empty")
        if facts.method is Method.BLOW_OUT and litres > held[name].litres + SLACK_L:
            words = "{out_l} out of {inside_l} in it cannot be: wrong vessel?"
            said = say("more_than_inside", words, out_l=litres, inside_l=held[name].litres)
            raise CoreError(f"litres.{name}", said)


def _check_end(flush: FlushState, facts: FlushEnded) -> None:
    if flush.cleaner is not None:
        words = f"{flush.cleaner.percent:.1f} % of {flush.cleaner.name} is left, over {flush.cleaner.limit_percent:g} %"
        raise Conflict("job", f"{words}: rinse on, nobody ends a flush on cleaner.", "cleaner_left")
    if not flush.enough.enough and not facts.reason.strip():
        short = " ".join(said.sentence for said in flush.enough.short)
        raise CoreError("reason", f"Not enough yet. {short} Say why it ends here.", "required")


def _check_waste(state: LoopState, facts: WasteKept) -> None:
    waste = {row.kind: row for row in state.flush.waste} if state.flush else {}
    row = waste.get(facts.kind)
    out, kept = (row.out_l, row.kept_l) if row else (0.0, 0.0)
    if facts.litres > (out - kept) + WASTE_SLACK * out + SLACK_L:
        words = "{kept_l} in containers, but only {out_l} of it came out: check the figure."
        raise CoreError("litres", say("more_than_out", words, kept_l=facts.litres, out_l=max(0.0, out - kept)))
    if not facts.reuse:
        return
    if facts.kind is not WasteKind.OLD_COOLANT:
        raise CoreError("reuse", "Rinse water is waste: it is never kept for reuse.", "never_reused")
    if state.flush is not None and state.flush.no_reuse:
        raise CoreError("reuse", " ".join(said.sentence for said in state.flush.no_reuse), "no_reuse")


def _check_clock(state: LoopState, facts: ClockStarted) -> None:
    empty = state.drained_l is not None and state.poured.room_l > 0.25 * sum(vessel.volume_l for vessel in state.vessels)
    if facts.clock is Clock.WARM_UP and empty:
        raise Conflict("clock", "It is drained: fill it before the engine runs.", "drained")
    if any(timer.kind.value == facts.clock.value for timer in state.timers):
        raise Conflict("clock", "That clock runs already: stop it first.", "runs_already")


def check_flushed_out(state: LoopState) -> None:
    """New coolant goes in only once rinse water and cleaner are out and the flush is ended."""
    flush = state.flush
    if flush is None:
        return
    if flush.step is not Step.PLAN:
        raise Conflict("job", "Rinse water is in it: drain the round first.", "round_open")
    if state.stage is Stage.FLUSH:
        raise Conflict("job", "The flush is not ended: say that it is enough first.", "flush_open")
