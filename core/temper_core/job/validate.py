"""May this entry be added to this ledger now? Everything a loop's state can refuse, in one place."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from temper_core.basis.errors import Conflict, CoreError, called
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.job.drain.facts import Drained
from temper_core.job.drain.volume import check_out
from temper_core.job.entries import Acknowledged, Entry, Facts, JobOpened, PhotoAdded, Voided
from temper_core.job.fill.facts import Poured
from temper_core.job.fill.validate import check_between, check_fill, check_may_pour, check_point, check_water
from temper_core.job.flush.facts import WasteKept
from temper_core.job.flush.validate import check_flush, check_flushed_out
from temper_core.job.fold import fold
from temper_core.job.fold_questions import out_of
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.inspect.decision import Routed
from temper_core.job.job_types import Route
from temper_core.job.ledger import open_job, standing, walk
from temper_core.job.loop import Loop
from temper_core.job.mix.facts import Planned
from temper_core.job.open.validate import check_may_run, check_opening, check_service_mode
from temper_core.job.readings import Place, Read, check_read
from temper_core.job.state import LoopState
from temper_core.job.verify.facts import SignedOff
from temper_core.job.waiting.facts import ClockStopped, Resumed, TemperatureLogged
from temper_core.products.chemistry import Base, Form
from temper_core.products.compatibility import Verdict, judge_product
from temper_core.science import Glycol, mass_fraction_at_freeze

OVERFILL = 0.25  # of the capacity: beyond this a pour was mistyped


WHILE_PAUSED = (Resumed, ClockStopped, TemperatureLogged, WasteKept)


def check_entry(
    loop: Loop,
    entries: Sequence[Entry],
    facts: Facts,
    policy: Policy | None = None,
    now: datetime | None = None,
    person_id: str | None = None,
    between: bool = False,
) -> LoopState:
    """Refuse an entry that cannot follow these; returns the state before it.

    now: when it happened, by the depot's clock: what is due and what has lapsed then; person_id: who records it, for the
    gate that nobody passes for another; between: recorded without a job, between services. Raises CoreError (what was
    typed cannot be) or Conflict (signed off, no job, already open, gate shut).
    """
    if isinstance(facts, Voided):
        check_void(entries, facts)
    state = fold(loop, entries, policy, now)
    if isinstance(facts, Voided):
        return state
    if isinstance(facts, Acknowledged | PhotoAdded):  # about an earlier entry, whether its job is open or not
        _check_about(entries, facts, state)
        return state
    if isinstance(facts, JobOpened):
        if state.job_id and not state.signed_at:
            raise Conflict("job", "This loop has an open job already: finish or sign it off first.", "job_open")
        return state
    if isinstance(facts, Read):  # in a job or without one, of whatever place: a ledger never holds what cannot be read
        base = state.inside.base
        check_read((base.glycol if base is not None else None) or Glycol.ETHYLENE, facts)
    if between:
        check_between(loop, entries, state, facts, now)
        check_opening(loop, entries, state, facts, person_id, between=True)
        return state
    if state.job_id is None:
        raise Conflict("job", "No job is open on this loop: open one first.", "no_job")
    if state.signed_at:
        raise Conflict("job", "This job is signed off and stays as it was. Open a new job to go on.", "signed_off")
    if state.paused is not None and not isinstance(facts, WHILE_PAUSED):
        raise Conflict("job", f"{state.paused.by} put it aside: take it up again first.", "paused")
    check_opening(loop, entries, state, facts, person_id)
    check_may_run(state, facts)
    if isinstance(facts, Drained):
        t = walk(loop, entries, policy or Policy())
        check_out(out_of(t, facts), loop.capacity_l, t.contents)
    if not (check_flush(loop, state, facts) or check_fill(loop, state, facts, policy or Policy())):
        _check_facts(loop, state, facts, policy or Policy())
    return state


def _check_facts(loop: Loop, state: LoopState, facts: Facts, policy: Policy) -> None:
    match facts:
        case Planned():
            _check_product(loop, state, facts, policy)
            glycol = facts.product.base.glycol
            if facts.target_freeze_c is not None:
                if glycol is None:
                    raise CoreError(
                        "target_freeze_c", "Without glycol there is no freeze target: leave it out.", "no_glycol"
                    )
                with called("target_freeze_c"):
                    mass_fraction_at_freeze(glycol, facts.target_freeze_c)
        case Poured():
            _check_pour(loop, state, facts)
        case Read():
            if facts.place is Place.FINISHED and not state.poured.at_mark:
                raise Conflict("place", "Fill to the cold mark first: a reading now proves nothing.", "not_filled")
        case SignedOff():
            check_service_mode(loop, state, facts)
            _check_sign_off(state, facts)
        case ReportedContents() if state.drained_l is not None or state.poured.product_l + state.poured.water_l > 0:
            raise Conflict("job", "It has been opened already: what was inside was said before the drain.", "drained")
        case Metered():
            _check_meters(state, facts)
        case Routed():
            _check_routed(state, facts)


def _check_product(loop: Loop, state: LoopState, facts: Planned, policy: Policy) -> None:
    """What does not fit is not planned; what is for emergencies says why; water only where somebody chose it."""
    judged = judge_product(facts.product, loop.need, state.found, policy, topping_up=state.route is Route.TOP_UP)
    why = judged.reasons[0].sentence
    if judged.verdict is Verdict.NO:
        raise CoreError("product_id", f"{facts.product.name} does not fit this loop. {why} Choose another.", "does_not_fit")
    if judged.verdict is Verdict.EMERGENCY_ONLY and not facts.reason.strip():
        message = f"{facts.product.name} is for emergencies only. {why} Say why it goes in; a lead will read it."
        raise CoreError("reason", message, "required")
    if not facts.water_l:
        return
    if loop.need.low_conductivity:
        message = "A low-conductivity loop takes its ready-mix as it is, no water. Plan the product alone."
        raise CoreError("water_l", message, "no_water")
    if facts.product.form is Form.READY_MIX and facts.product.base is not Base.NONE and not facts.dilute:
        message = "A ready-mix is poured as it is. Plan no water, or choose to dilute it."
        raise CoreError("water_l", message, "not_diluted")


def _check_meters(state: LoopState, facts: Metered) -> None:
    before = state.inspection.metered
    if before is None or facts.replaced:
        return
    for name, unit in (("distance_km", "km"), ("hours", "h")):
        was, now = getattr(before, name), getattr(facts, name)
        if was is not None and now is not None and now < was:
            raise CoreError(
                name,
                f"{now:g} {unit} is less than the {was:g} {unit} seen before: a slip, or another machine? "
                "If the meter was replaced, say so.",
                "meter_backwards",
            )


def _check_routed(state: LoopState, facts: Routed) -> None:
    if state.advice is not None and facts.advised is not state.advice.route:
        advised = state.advice.route.replace("_", " ")
        raise Conflict("advised", f"The advice is now '{advised}': look again, then decide.", "advice_moved")
    if state.poured.product_l + state.poured.water_l > 0:
        raise Conflict("route", "Coolant went in already: take the pours back first, or finish this route.", "poured")
    if state.drained_l is not None and facts.route in (Route.CHECK, Route.TOP_UP):
        raise Conflict("route", "It was drained already: this route has no drain. Take the drain back first.", "drained")


def _check_about(entries: Sequence[Entry], facts: Acknowledged | PhotoAdded, state: LoopState) -> None:
    alive = {entry.id: entry for entry in standing(entries)}
    if facts.entry_id not in alive:
        raise Conflict("entry_id", "That entry is not in this ledger, or was taken back already.", "not_standing")
    if isinstance(facts, Acknowledged):
        waiting = {row.entry_id for row in state.overrides if not row.acknowledged}
        if facts.entry_id not in waiting:
            raise Conflict("entry_id", "That is no override, or a lead has seen it already.", "nothing_to_see")


def _check_pour(loop: Loop, state: LoopState, facts: Poured) -> None:
    check_flushed_out(state)
    check_water(loop, facts)
    check_point(loop, state, facts)
    if state.drained_l is None and state.route is not Route.TOP_UP:
        raise Conflict("job", "Nothing was drained yet: say first what came out.", "not_drained")
    if state.route is Route.TOP_UP:
        _check_top_up(loop, state, facts)
        return
    check_may_pour(state, facts)
    litres, room = facts.product_l + facts.water_l, state.poured.room_l
    if litres > room + OVERFILL * loop.capacity_l:
        raise CoreError(
            "product_l",
            say(
                "more_than_room",
                "{in_l} into {room_l} of room (capacity {capacity_l}) cannot be. Check the figure and its unit; if more "
                "really went in, less was inside than the drain entry says.",
                in_l=litres,
                room_l=room,
                capacity_l=loop.capacity_l,
            ),
        )


def _check_top_up(loop: Loop, state: LoopState, facts: Poured) -> None:
    litres = state.poured.product_l + state.poured.water_l + facts.product_l + facts.water_l
    if litres > loop.capacity_l:
        words = "{in_l} into a loop of {capacity_l} is no top-up: check the figure and its unit, or renew it."
        raise CoreError("product_l", say("more_than_room", words, in_l=litres, capacity_l=loop.capacity_l))


def _check_sign_off(state: LoopState, facts: SignedOff) -> None:
    if state.route is Route.CHECK:
        if state.inspection.routed is None:
            raise Conflict("job", "Decide first: it may stay, or another route.", "not_decided")
        if facts.proof != "checked":
            raise Conflict("proof", f"A check ends 'checked', not '{facts.proof}'.", "verdict_moved")
        return
    if state.inside.base is Base.NONE and state.proof is None:
        expected = "glycol_free"
    elif state.proof is None:
        raise Conflict("proof", "Not proven: read the strength after a hot run, then sign off.", "not_proven")
    else:
        expected = state.proof.verdict.value
    if not state.poured.at_mark:
        raise Conflict("job", "Fill to the cold mark first.", "not_filled")
    if facts.proof != expected:
        raise Conflict("proof", f"The verdict is now '{expected}', not '{facts.proof}': look again.", "verdict_moved")


def check_void(entries: Sequence[Entry], facts: Voided) -> None:
    """May this entry be taken back? Asks no fold, so that it can be asked of a ledger that none digests.

    Raises Conflict for what is not there, belongs to a signed job, or carries others.
    """
    alive = {entry.id: entry for entry in standing(entries)}
    job_id, signed = open_job(entries)
    target = alive.get(facts.entry_id)
    if target is None:
        raise Conflict("entry_id", "That entry is not in this ledger, or was taken back already.", "not_standing")
    if target.job_id is None and (job_id is None or signed):
        return  # a look, a top-up or a reading between services
    if signed or target.job_id != job_id:
        raise Conflict("entry_id", "That entry belongs to a signed-off job and stays as it was.", "signed_off")
    if isinstance(target.facts, JobOpened) and len([e for e in alive.values() if e.job_id == target.job_id]) > 1:
        raise Conflict("entry_id", "The job holds other entries: take those back first.", "not_last")
