"""What was recorded without a network meets what others recorded meanwhile: what simply joins, and what asks somebody.

A reading, a temperature, a look, a photo join whatever others did: the fold orders entries by when things happened. What
changes what is inside, or the course of the job, does not join what others did to the same: then somebody chooses, and a
machine drops nothing. Whatever happened is asked at its own time, among what others recorded until then; an engine run of
somebody else's shuts the safe-to-open check for what followed it.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import tzinfo

from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry, Voided
from temper_core.job.entry_kind import EntryKind, Registry
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop import Loop
from temper_core.job.validate import check_entry, check_void

JOINS = frozenset({"read", "sampled", "tested", "engine_run", "gate_observed", "ready_confirmed", "looked_under", "amended"})


@dataclass(frozen=True, slots=True)
class Met:
    """One entry of one's own among the others'. asks: somebody has to choose first; can_follow: it may be sent as it is.

    why: what stands in the way, None where nothing does; against: the others' entries that do.
    """

    entry_id: str
    asks: bool
    can_follow: bool
    why: Message | None
    against: tuple[str, ...]


def joins(kind: EntryKind) -> bool:
    """Whether entries of a kind join whatever others recorded meanwhile."""
    return kind.quiet or kind.name in JOINS


def until(entries: Sequence[Entry], entry: Entry) -> list[Entry]:
    """What had happened when an entry happened: by its time, not by when it was typed in somewhere else."""
    return [one for one in entries if one.happened_at <= entry.happened_at]


def meet(
    loop: Loop,
    theirs: Sequence[Entry],
    mine: Sequence[Entry],
    seen: int,
    policy: Policy,
    zone: tzinfo | None,
    ours: Collection[str] = (),
    registry: Registry = REGISTRY,
) -> tuple[Met, ...]:
    """One's own entries, in their order, among the others'; never raises for what a record holds.

    theirs: the whole record as it is at the depot; seen: the number up to which it was known here; ours: the ids of what was
    sent from here since, and is no story of somebody else's. zone: of the depot.
    """
    new = [one for one in theirs if one.seq > seen and one.id not in ours and not registry.of(one.facts).quiet]
    base, found = list(theirs), []
    for entry in mine:
        met = _one(loop, base, new, entry, policy, zone, registry)
        if met.can_follow:
            base.append(entry)
        found.append(met)
    return tuple(found)


def _one(
    loop: Loop,
    base: Sequence[Entry],
    new: Sequence[Entry],
    entry: Entry,
    policy: Policy,
    zone: tzinfo | None,
    registry: Registry,
) -> Met:
    kind = registry.of(entry.facts)
    try:
        if isinstance(entry.facts, Voided):
            check_void(base, entry.facts, registry)
        else:
            then = entry.happened_at.astimezone(zone)
            before = until(base, entry)
            check_entry(
                loop, before, entry.facts, policy, then, entry.person_id, between=entry.job_id is None and not kind.any_time
            )
    except CoreError as error:
        why = error.said or say(error.code, "{why}", why=error.message)
        return Met(entry.id, True, False, why, tuple(one.id for one in new))
    rivals = [one for one in new if _rivals(kind, registry.of(one.facts))]
    if not rivals:
        return Met(entry.id, False, True, None, ())
    last = rivals[-1]
    why = say("both_recorded", "{who} {did} meanwhile", who=last.person, did=registry.of(last.facts).did)
    return Met(entry.id, True, True, why, tuple(one.id for one in rivals))


def _rivals(mine: EntryKind, theirs: EntryKind) -> bool:
    """Both change the same: the same kind, or kinds of the same stage; a signed job is everybody's."""
    if joins(mine) or joins(theirs):
        return False
    return mine.name == theirs.name or theirs.name == "signed_off" or bool(set(mine.stages) & set(theirs.stages))
