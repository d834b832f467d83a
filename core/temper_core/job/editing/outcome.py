"""An entry of the open job is edited or undone, wherever it stands: what follows from it, and what can no longer follow.

Nothing is dropped: an entry that could not be recorded after the edit is named, and somebody says whether it stays.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.apart.facts import SetAside
from temper_core.job.entries import Acknowledged, Edited, Entry, JobOpened, PhotoAdded, Voided, check_stands, standing
from temper_core.job.entry_kind import Registry
from temper_core.job.fact import Fact
from temper_core.job.fold import fold
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.open.facts import GateObserved
from temper_core.job.validate import check_entry, open_job
from temper_core.job.verify.facts import SignedOff

# have no figures that somebody mistypes
FIXED = (JobOpened, SignedOff, PhotoAdded, Acknowledged, Voided, Edited, SetAside)


@dataclass(frozen=True, slots=True)
class CannotFollow:
    """An entry that could be recorded before, and could not after the edit. said: the entry in words; why: the refusal."""

    entry_id: str
    said: Message
    why: str


@dataclass(frozen=True, slots=True)
class EditOutcome:
    """The loop before and after an edit, and the entries that can no longer follow."""

    before: LoopState
    after: LoopState
    cannot_follow: tuple[CannotFollow, ...]


def edit_of(
    loop: Loop,
    entries: Sequence[Entry],
    entry_id: str,
    facts: Fact | None,
    policy: Policy,
    now: datetime,
    undone: Sequence[str] = (),
    person_id: str = "",
    registry: Registry = REGISTRY,
) -> EditOutcome:
    """What an entry with these facts makes of the loop; facts None: what is left without it.

    undone: entries that go with it. now: the depot's clock. person_id: who edits. Raises CoreError for facts that cannot be
    there, Conflict for an entry that is closed, for a check that somebody else made, and for an edit that would make a loop
    cold or safe to open: that is never true for having been typed differently.
    """
    target = check_editable(entries, entry_id, now)
    if isinstance(target.facts, GateObserved) and facts is not None and target.person_id != person_id:
        raise Conflict("entry_id", "Somebody else made that check. Make it yourself instead of editing it.", "not_yours")
    if facts is not None and type(facts) is not type(target.facts):
        raise CoreError("facts", "An entry stays of its kind. Undo it, then record the other one.", "other_kind")
    if facts is None:
        registry.of(target.facts).undo(target, standing(entries))
    stands = standing(entries)
    gone = {*undone, *([entry_id] if facts is None else [])}
    changed = [_with(entry, target, facts) for entry in stands if entry.id not in gone]
    if facts is not None:
        _check_at_its_place(loop, stands, target, facts, policy, now, registry)
    before, after = (fold(loop, rows, policy, now, registry=registry) for rows in (stands, changed))
    _check_hot(before, after)
    refused = tuple(_cannot_follow(loop, stands, changed, target, policy, now, registry))
    return EditOutcome(before, after, refused)


def check_editable(entries: Sequence[Entry], entry_id: str, now: datetime) -> Entry:
    """The entry, if it may still be edited: of the open job, or made without one on this very day; raises Conflict."""
    target = check_stands(entries, entry_id)
    if isinstance(target.facts, FIXED):
        raise Conflict("entry_id", "That entry has no figures to edit.", "nothing_to_edit")
    if not _open_to_edits(target, open_job(entries), now):
        if target.job_id is None:
            raise Conflict("entry_id", "A check can be edited on the day it was made. Record another check.", "too_late")
        message = "That entry belongs to a signed job and cannot be edited. Add a correction."
        raise Conflict("entry_id", message, "signed_off")
    return target


def editable(entries: Sequence[Entry], now: datetime) -> frozenset[str]:
    """The ids of all entries that may still be edited."""
    job = open_job(entries)
    rows = (entry for entry in standing(entries) if not isinstance(entry.facts, FIXED))
    return frozenset(entry.id for entry in rows if _open_to_edits(entry, job, now))


def _open_to_edits(entry: Entry, job: tuple[str | None, bool], now: datetime) -> bool:
    job_id, signed = job
    if entry.job_id is None:
        return (job_id is None or signed) and entry.happened_at.astimezone(now.tzinfo).date() == now.date()
    return entry.job_id == job_id and not signed


def _with(entry: Entry, target: Entry, facts: Fact | None) -> Entry:
    return replace(entry, facts=facts) if facts is not None and entry.id == target.id else entry


def _refusal(
    loop: Loop, before: Sequence[Entry], entry: Entry, facts: Fact, policy: Policy, now: datetime, registry: Registry
) -> CoreError | None:
    """Why these facts could not be recorded where this entry stands; None where they could."""
    try:
        check_entry(
            loop,
            before,
            facts,
            policy,
            entry.happened_at.astimezone(now.tzinfo),
            entry.person_id,
            between=entry.job_id is None,
            registry=registry,
        )
    except CoreError as error:
        return error
    return None


def _earlier(rows: Sequence[Entry], entry: Entry) -> list[Entry]:
    return [row for row in rows if row.seq < entry.seq]


def _check_at_its_place(
    loop: Loop, stands: Sequence[Entry], target: Entry, facts: Fact, policy: Policy, now: datetime, registry: Registry
) -> None:
    """The new facts could have been recorded there, or the old ones were refused for the same; raises CoreError."""
    earlier = _earlier(stands, target)
    error = _refusal(loop, earlier, target, facts, policy, now, registry)
    if error is None:
        return
    was = _refusal(loop, earlier, target, target.facts, policy, now, registry)
    if was is None or was.code != error.code:
        raise error


def _check_hot(before: LoopState, after: LoopState) -> None:
    if before.ran_hot and not after.ran_hot:
        message = "The loop ran hot after it was filled: an edit cannot undo that. Record what is true now."
        raise Conflict("facts", message, "ran_hot")
    if after.gate.open and not before.gate.open:
        message = "An edit cannot make the loop safe to open. Make the safe-to-open check again."
        raise Conflict("facts", message, "gate_shut")


def _cannot_follow(
    loop: Loop,
    stands: Sequence[Entry],
    changed: Sequence[Entry],
    target: Entry,
    policy: Policy,
    now: datetime,
    registry: Registry,
) -> Iterator[CannotFollow]:
    for entry in changed:
        if entry.seq <= target.seq or registry.of(entry.facts).quiet:
            continue
        error = _refusal(loop, _earlier(changed, entry), entry, entry.facts, policy, now, registry)
        if error is None:
            continue
        was = _refusal(loop, _earlier(stands, entry), entry, entry.facts, policy, now, registry)
        if was is None or was.code != error.code:
            yield CannotFollow(entry.id, registry.sentence(entry.facts), str(error))
