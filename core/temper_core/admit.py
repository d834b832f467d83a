"""May this entry be added to this ledger now? Everything a loop's state can refuse, in one place."""

from __future__ import annotations

from collections.abc import Sequence

from temper_core.chemistry import Base
from temper_core.entries import (
    Drained,
    Entry,
    Facts,
    JobOpened,
    Place,
    Planned,
    Poured,
    Read,
    SignedOff,
    Voided,
    check_drained,
)
from temper_core.errors import CoreError, called
from temper_core.glycol import Glycol, mass_fraction_at_freeze
from temper_core.ledger import question_of, standing
from temper_core.loop import fold
from temper_core.policy import Policy
from temper_core.state import Loop, LoopState

OVERFILL = 0.25  # of the capacity: beyond this a pour was mistyped


class Conflict(CoreError):
    """The ledger has moved on, or is closed: look again, then decide."""

    code = "conflict"


def check_entry(loop: Loop, entries: Sequence[Entry], facts: Facts, policy: Policy | None = None) -> LoopState:
    """Refuse an entry that cannot follow these; returns the state before it.

    Raises CoreError (what was typed cannot be) or Conflict (signed off, no job, already open).
    """
    state = fold(loop, entries, policy)
    if isinstance(facts, Voided):
        _check_void(entries, facts, state)
        return state
    if isinstance(facts, JobOpened):
        if state.job_id and not state.signed_at:
            raise Conflict("job", "This loop has an open job already: finish or sign it off first.", "job_open")
        return state
    if state.job_id is None:
        raise Conflict("job", "No job is open on this loop: open one first.", "no_job")
    if state.signed_at:
        raise Conflict("job", "This job is signed off and stays as it was. Open a new job to go on.", "signed_off")
    _check_facts(loop, state, facts)
    return state


def _check_facts(loop: Loop, state: LoopState, facts: Facts) -> None:
    match facts:
        case Planned():
            glycol = facts.product.base.glycol
            if facts.target_freeze_c is not None:
                if glycol is None:
                    raise CoreError(
                        "target_freeze_c", "Without glycol there is no freeze target: leave it out.", "no_glycol"
                    )
                with called("target_freeze_c"):
                    mass_fraction_at_freeze(glycol, facts.target_freeze_c)
        case Drained():
            held = {vessel.id: vessel.litres for vessel in state.vessels}
            check_drained(facts, loop.capacity_l, state.inside.litres, held)
        case Poured():
            _check_pour(loop, state, facts)
        case Read():
            if facts.place is Place.FINISHED and not state.poured.at_mark:
                raise Conflict("place", "Fill to the cold mark first: a reading now proves nothing.", "not_filled")
            if facts.instrument and state.inside.base not in (None, Base.NONE):
                question_of(state.inside.base.glycol or Glycol.ETHYLENE, facts)
        case SignedOff():
            _check_sign_off(state, facts)


def _check_pour(loop: Loop, state: LoopState, facts: Poured) -> None:
    if state.drained_l is None:
        raise Conflict("job", "Nothing was drained yet: say first what came out.", "not_drained")
    litres, room = facts.product_l + facts.water_l, state.poured.room_l
    if litres > room + OVERFILL * loop.capacity_l:
        raise CoreError(
            "product_l",
            f"{litres:.1f} L into {room:.1f} L of room (capacity {loop.capacity_l:.1f} L) cannot be. "
            "Check litres and unit; if more really went in, less was inside than the drain entry says.",
            "more_than_room",
        )


def _check_sign_off(state: LoopState, facts: SignedOff) -> None:
    if state.inside.base is Base.NONE:
        expected = "glycol_free"
    elif state.proof is None:
        raise Conflict("proof", "Not proven: read the strength after a hot run, then sign off.", "not_proven")
    else:
        expected = state.proof.verdict.value
    if not state.poured.at_mark:
        raise Conflict("job", "Fill to the cold mark first.", "not_filled")
    if facts.proof != expected:
        raise Conflict("proof", f"The verdict is now '{expected}', not '{facts.proof}': look again.", "verdict_moved")


def _check_void(entries: Sequence[Entry], facts: Voided, state: LoopState) -> None:
    alive = {entry.id: entry for entry in standing(entries)}
    target = alive.get(facts.entry_id)
    if target is None:
        raise Conflict("entry_id", "That entry is not in this ledger, or was taken back already.", "not_standing")
    if state.signed_at is not None or target.job_id != state.job_id:
        raise Conflict("entry_id", "That entry belongs to a signed-off job and stays as it was.", "signed_off")
    if isinstance(target.facts, JobOpened) and len([e for e in alive.values() if e.job_id == target.job_id]) > 1:
        raise Conflict("entry_id", "The job holds other entries: take those back first.", "not_last")
