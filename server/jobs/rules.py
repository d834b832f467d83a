"""Who may add what to a record, and when: the same on a server and in a browser without a network. No Django in here."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from uuid import UUID

from config.refusals import NotAllowed
from jobs.stored import Stored, cores_of_stored
from people.shown import PersonOut
from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.job.entries import Acknowledged, Voided
from temper_core.job.fact import Fact
from temper_core.job.inside.verdict import LEADS_ONLY
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.open.facts import GateObserved, Ready
from temper_core.job.validate import check_entry, check_void
from temper_core.job.verify.facts import SignedOff

CLOCK_SLACK = timedelta(minutes=5)
LEAD = "lead"


def check_seen(rows: Sequence[Stored], seen: UUID | None) -> None:
    """Two tabs, two tablets: what one records the other must have seen before it adds to it. By number, never by clock."""
    if seen is None:
        return
    known = next((row.seq for row in rows if row.id == seen), 0)
    unseen = sorted((row for row in rows if row.seq > known and not REGISTRY.named(row.kind).quiet), key=lambda row: row.seq)
    if unseen:
        last = unseen[-1]
        message = f"{last.person} {REGISTRY.named(last.kind).did} on another screen. Reload, then record your entry."
        raise Conflict("seen", message, "ledger_moved")


def happened(given: datetime | None, now: datetime) -> datetime:
    """When an entry happened: now, where nobody said; raises CoreError for a time without a zone, or to come."""
    if given is None:
        return now
    if given.tzinfo is None:
        raise CoreError("happened_at", "The time has no time zone: send one, as in 2026-11-24T14:00:00Z.", "no_time_zone")
    if given > now + CLOCK_SLACK:
        raise CoreError("happened_at", "That is in the future. Check the tablet's clock.", "in_the_future")
    return given


def check_may(facts: Fact, rows: Sequence[Stored], actor: PersonOut) -> None:
    """A technician takes back their own entries, a lead anybody's; only a lead has seen an override."""
    lead = actor.role == LEAD
    if isinstance(facts, Acknowledged) and not lead:
        raise NotAllowed("Only a lead can confirm a decision against the advice. Ask a lead.")
    if isinstance(facts, SignedOff) and facts.proof in LEADS_ONLY and not lead:
        raise NotAllowed("No verdict is possible on this loop. Only a lead can sign it off, with a reason.")
    if isinstance(facts, Voided) and not lead:
        check_yours(rows, facts.entry_id, actor, "undo")


def check_yours(rows: Sequence[Stored], entry_id: str, actor: PersonOut, act: str) -> None:
    """A technician edits and undoes their own entries, a lead anybody's; raises Conflict."""
    target = next((row for row in rows if str(row.id) == entry_id), None)
    if target is not None and target.person_id != actor.id and actor.role != LEAD:
        message = f"{target.person} recorded that. Only they or a lead can {act} it."
        raise Conflict("entry_id", message, "not_yours")


def with_isolator(facts: Fact, people: Callable[[int], PersonOut | None], then: datetime) -> Fact:
    """The facts of a safe-to-open check with the name of who isolated; any other facts as they are.

    then: when it happened, by the depot's clock. Raises CoreError where nobody of the depot is named, Conflict for somebody
    who may not isolate high voltage on that day.
    """
    if not isinstance(facts, GateObserved) or Ready.ISOLATED not in facts.ready:
        return facts
    who = people(facts.isolated_by_id) if facts.isolated_by_id is not None else None
    if who is None:
        message = "Choose who isolated it, of those who may. Where a name is asked for as text, reload the page."
        raise CoreError("isolated_by_id", message, "required")
    if who.isolates_until is None or who.isolates_until < then.date():
        ended = f" since {who.isolates_until.isoformat()}" if who.isolates_until is not None else ""
        message = (
            f"{who.name} may not isolate high voltage{ended}. Choose somebody who may, or have a lead say so on People."
        )
        raise Conflict("isolated_by_id", message, "may_not_isolate")
    return replace(facts, isolated_by=who.name)


def check_follows(
    loop: Loop,
    rows: Sequence[Stored],
    facts: Fact,
    policy: Policy,
    then: datetime,
    actor: PersonOut,
    between: bool = False,
    apart: bool = False,
) -> LoopState | None:
    """The state before an entry that may follow these; None for one that takes back, which asks for no fold.

    apart: recorded without a network, so it is asked among what had happened then.
    """
    if isinstance(facts, Voided):
        check_void(cores_of_stored(rows, facts.entry_id), facts)
        return None
    if apart:
        rows = [row for row in rows if row.happened_at <= then]
    return check_entry(loop, cores_of_stored(rows), facts, policy, then, str(actor.id), between=between)


def check_time(facts: Fact, at: datetime, state: LoopState | None, job_opened_at: datetime | None) -> None:
    """Nothing of a job happened before it started; raises CoreError."""
    if job_opened_at is not None and not isinstance(facts, Acknowledged) and at < job_opened_at:
        raise CoreError("happened_at", "That is before the job started. Check date and time.", "too_early")
    if job_opened_at is None and state is not None and state.signed_at is not None and at < state.signed_at:
        raise CoreError("happened_at", "That is before the sign-off. Check date and time.", "too_early")


def is_between(kind: str, entry_id: UUID | None, rows: Mapping[UUID, Stored]) -> bool:
    """Whether an entry takes back what was recorded without a job."""
    target = rows.get(entry_id) if kind == "voided" and entry_id is not None else None
    return target is not None and target.job_id is None
