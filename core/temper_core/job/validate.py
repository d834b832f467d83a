"""May this entry be added to this record now? What holds for every kind; the rest each kind asks itself."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from temper_core.basis.errors import Conflict
from temper_core.basis.policy import Policy
from temper_core.job.entries import Edited, Entry, JobOpened, Voided, check_stands, standing
from temper_core.job.entry_kind import Attempt, EntryKind, Registry
from temper_core.job.fact import Fact
from temper_core.job.fold import state_of
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.opening import check_opening
from temper_core.job.verify.facts import SignedOff


def check_entry(
    loop: Loop,
    entries: Sequence[Entry],
    facts: Fact,
    policy: Policy | None = None,
    now: datetime | None = None,
    person_id: str | None = None,
    between: bool = False,
    registry: Registry = REGISTRY,
) -> LoopState:
    """Refuse an entry that cannot follow these; returns the state before it.

    now: when it happened, by the depot's clock: what is due and what has lapsed then; person_id: who records it, for the
    gate that nobody passes for another; between: recorded without a job, between services. Raises CoreError (what was
    typed cannot be) or Conflict (signed off, no job, already open, gate shut).
    """
    policy = policy or Policy()
    if isinstance(facts, Voided):
        check_void(entries, facts, registry)
    fold = walk(loop, entries, policy, registry=registry, now=now)
    state = state_of(fold)
    kind = registry.of(facts)
    attempt = Attempt(loop, entries, fold, state, policy, now, person_id, between)
    kind.can_be(attempt, facts)
    if kind.any_time:
        kind.validate(attempt, facts)
    elif between:
        _check_without_job(kind, attempt, facts)
    else:
        _check_in_job(kind, attempt, facts)
    return state


def _check_without_job(kind: EntryKind, a: Attempt, facts: Fact) -> None:
    if a.state.job_id is not None and a.state.signed_at is None:
        raise Conflict("job", "A job is open on this loop. Record it there.", "job_open")
    if kind.without_job is None:
        raise Conflict("job", "That belongs to a job. Start a job first.", "no_job")
    kind.without_job.validate(a, facts)
    _check_need(kind, a, facts)


def _check_in_job(kind: EntryKind, a: Attempt, facts: Fact) -> None:
    state = a.state
    if state.job_id is None:
        raise Conflict("job", "No job is open on this loop. Start one first.", "no_job")
    if state.signed_at:
        raise Conflict("job", "This job is signed off and cannot be changed. Start a new job.", "signed_off")
    if state.paused is not None and not kind.while_paused:
        raise Conflict("job", f"{state.paused.by} paused the job. Resume it first.", "paused")
    if not kind.in_job:
        raise Conflict("job", "A job is open on this loop. Record it in the job.", "job_open")
    _check_need(kind, a, facts)
    kind.validate(a, facts)


def _check_need(kind: EntryKind, a: Attempt, facts: Fact) -> None:
    need = kind.opens(a, facts)
    if need is not None:
        check_opening(a, facts, need)


def check_void(entries: Sequence[Entry], facts: Voided, registry: Registry = REGISTRY) -> None:
    """May this entry be taken back? Asks no fold, so that it can be asked of a ledger that none digests.

    Raises Conflict for what is not there, belongs to a signed job, or carries others.
    """
    job_id, signed = open_job(entries)
    target = _edit_of(entries, facts.entry_id) or check_stands(entries, facts.entry_id)
    if target.job_id is None and (job_id is None or signed):
        return  # a look, a top-up or a reading between services
    if signed or target.job_id != job_id:
        raise Conflict(
            "entry_id", "That entry belongs to a signed job and cannot be undone. Add a correction.", "signed_off"
        )
    registry.of(target.facts).undo(target, standing(entries))


def _edit_of(entries: Sequence[Entry], entry_id: str) -> Entry | None:
    """An edit of this id that was not taken back: it may be, and the first figures count again."""
    voided = {entry.facts.entry_id for entry in entries if isinstance(entry.facts, Voided)}
    edits = (entry for entry in entries if isinstance(entry.facts, Edited) and entry.id not in voided)
    return next((entry for entry in edits if entry.id == entry_id), None)


def open_job(entries: Sequence[Entry]) -> tuple[str | None, bool]:
    """The last job of a ledger, and whether it is signed off, by its entries alone."""
    job_id, signed = None, False
    for entry in standing(entries):
        if isinstance(entry.facts, JobOpened):
            job_id, signed = entry.job_id, False
        elif isinstance(entry.facts, SignedOff):
            signed = True
    return job_id, signed
