"""Two stories of one loop, side by side: what waits on a tablet, and what others recorded at the depot meanwhile."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated

from pydantic import Field

from config.shapes import Answer, Body
from fleet.models import Loop as LoopRow
from jobs.depot_rows import DatabaseRows
from jobs.entry_facts import facts_of
from jobs.entry_schemas import EntriesIn
from jobs.models import cores_of
from jobs.queries import entries_of
from people.models import Person
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.apart.meeting import Met, meet
from temper_core.job.entries import Entry
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.loop import Loop
from temper_core.job.validate import open_job
from temper_core.views.board.row import Words, loop_on_board


class WaitsIn(Body):
    """One request that waits on a tablet, by its number in the queue there."""

    n: int
    body: EntriesIn


class MeetIn(Body):
    """What waits for one loop, in its order. seen: the number of the last entry that the tablet's kit knew."""

    seen: int
    waits: Annotated[list[WaitsIn], Field(max_length=500)]


class MetEntry(Answer):
    """One entry that waits. n: its request in the queue."""

    n: int
    said: Message
    happened_at: datetime
    met: Met


class TheirEntry(Answer):
    """One entry that others recorded meanwhile."""

    id: str
    said: Message
    happened_at: datetime
    person: str


class Stands(Answer):
    """How a loop stands by a record: what is inside, how far it protects, what hands do next."""

    inside: Words
    protects: Words
    act: Words | None


class Meeting(Answer):
    """One loop: as it stands here, at the depot, and with both together; null: it cannot be calculated."""

    loop_id: int
    mine: list[MetEntry]
    theirs: list[TheirEntry]
    here: Stands | None
    there: Stands | None
    together: Stands | None


def stands(loop: Loop, entries: Sequence[Entry], policy: Policy, now: datetime) -> Stands | None:
    """How the loop stands by these entries."""
    try:
        row = loop_on_board(walk(loop, entries, policy, now=now)).row
    except Exception:  # noqa: BLE001 (two stories that do not fold together are shown as such)
        return None
    return Stands(inside=row.inside, protects=row.protects, act=row.act)


def meeting_of(row: LoopRow, given: MeetIn, actor: Person) -> Meeting:
    """What waits for a loop, entry by entry, among what others recorded since; raises CoreError for what cannot be."""
    depot, loop = actor.own_depot, row.core
    policy, now, lists = depot.policy, depot.now, DatabaseRows(depot)
    theirs = cores_of(entries_of(row))
    known, last = {entry.id for entry in theirs}, max((entry.seq for entry in theirs), default=0)
    job_id, _ = open_job(theirs)
    numbers: list[int] = []
    mine: list[Entry] = []
    for wait in given.waits:
        for entry in wait.body.entries:
            if str(entry.id) in known:  # it was sent, and the answer was lost
                continue
            at = entry.happened_at or now
            numbers.append(wait.n)
            mine.append(
                Entry(
                    id=str(entry.id),
                    job_id=None if wait.body.between else job_id,
                    happened_at=at,
                    recorded_at=now,
                    person=actor.name,
                    facts=facts_of(entry, lists),
                    person_id=str(actor.pk),
                    seq=last + len(mine) + 1,
                )
            )
    met = meet(loop, theirs, mine, given.seen, policy, now.tzinfo)
    joined = theirs + [entry for entry, one in zip(mine, met, strict=True) if one.can_follow]
    return Meeting(
        loop_id=row.pk,
        mine=[
            MetEntry(n=n, said=REGISTRY.sentence(entry.facts), happened_at=entry.happened_at, met=one)
            for n, entry, one in zip(numbers, mine, met, strict=True)
        ],
        theirs=[
            TheirEntry(id=one.id, said=REGISTRY.sentence(one.facts), happened_at=one.happened_at, person=one.person)
            for one in theirs
            if one.seq > given.seen
        ],
        here=stands(loop, [one for one in theirs if one.seq <= given.seen] + mine, policy, now),
        there=stands(loop, theirs, policy, now),
        together=stands(loop, joined, policy, now),
    )
