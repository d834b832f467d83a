"""Two stories of one loop, side by side: what waits on a tablet, and what others recorded at the depot meanwhile."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import Field

from config.refusals import NotFound
from config.shapes import Answer, Body
from fleet.models import Loop as LoopRow
from jobs.depot_rows import DatabaseRows
from jobs.edit_schemas import FieldValue
from jobs.editing import changed_facts, put_changes
from jobs.entry_facts import DepotRows, facts_of
from jobs.entry_schemas import EntriesIn, EntryBase
from jobs.models import cores_of
from jobs.queries import entries_of
from people.models import Person
from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.apart.meeting import Met, meet
from temper_core.job.editing.form import EditField, edit_form
from temper_core.job.entries import Entry
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.loop import Loop
from temper_core.job.validate import open_job
from temper_core.views.board.row import Words, loop_on_board

MOST_REQUESTS = 200
MOST_ENTRIES = 120  # each is asked among all that came before it
ANOTHER = "That cannot be edited here. Set the entry aside, then record the right one."


class WaitsIn(Body):
    """One request that waits on a tablet, by its number in the queue there."""

    n: int
    body: EntriesIn


class EditWaitsIn(Body):
    """Other values for one entry that waits."""

    entry_id: UUID
    changes: Annotated[list[FieldValue], Field(max_length=80)]


class MeetIn(Body):
    """What waits for one loop, in its order.

    seen: the number of the last entry that the tablet's kit knew; ours: entries that this tablet has sent since. edit: an
    entry of waits, as it would be with other values.
    """

    seen: int
    waits: Annotated[list[WaitsIn], Field(max_length=MOST_REQUESTS)]
    ours: Annotated[list[UUID], Field(max_length=2000)] = []
    edit: EditWaitsIn | None = None


class MetEntry(Answer):
    """One entry that waits. n: its request in the queue; form: the fields that can be edited, of one that asks."""

    n: int
    said: Message
    happened_at: datetime
    met: Met
    form: list[EditField]


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
    """One loop: as it stands here, at the depot, and with both together; null: it cannot be calculated.

    edited: the request with the entry that was edited, to be kept on the tablet in place of the old one.
    """

    loop_id: int
    edited: EntriesIn | None
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
    ours = {str(one) for one in given.ours}
    job_id, _ = open_job(theirs)
    waits, edited = _with_edit(given, loop, lists)
    numbers: list[int] = []
    mine: list[Entry] = []
    for wait in waits:
        for entry in wait.body.entries:
            if str(entry.id) in known:  # it was sent, and the answer was lost
                continue
            if len(mine) == MOST_ENTRIES:
                raise CoreError(
                    "waits", f"More than {MOST_ENTRIES} entries wait for one loop. Send fewer at a time.", "many"
                )
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
    met = meet(loop, theirs, mine, given.seen, policy, now.tzinfo, ours)
    joined = theirs + [entry for entry, one in zip(mine, met, strict=True) if one.can_follow]
    here = [one for one in theirs if one.seq <= given.seen or one.id in ours]
    return Meeting(
        loop_id=row.pk,
        edited=edited,
        mine=[
            MetEntry(
                n=n,
                said=REGISTRY.sentence(entry.facts),
                happened_at=entry.happened_at,
                met=one,
                form=list(edit_form(entry.facts, loop)) if one.asks else [],
            )
            for n, entry, one in zip(numbers, mine, met, strict=True)
        ],
        theirs=[
            TheirEntry(id=one.id, said=REGISTRY.sentence(one.facts), happened_at=one.happened_at, person=one.person)
            for one in theirs
            if one.seq > given.seen and one.id not in ours
        ],
        here=stands(loop, here + mine, policy, now),
        there=stands(loop, theirs, policy, now),
        together=stands(loop, joined, policy, now),
    )


def _with_edit(given: MeetIn, loop: Loop, lists: DepotRows) -> tuple[list[WaitsIn], EntriesIn | None]:
    """What waits, with the edit in it, and the request that holds it; raises CoreError for an edit that cannot be."""
    if given.edit is None:
        return given.waits, None
    for at, wait in enumerate(given.waits):
        for n, entry in enumerate(wait.body.entries):
            if entry.id == given.edit.entry_id:
                body = wait.body.model_dump(mode="json")
                body["entries"][n]["facts"] = _edited(entry, given.edit.changes, loop, lists)
                changed = WaitsIn(n=wait.n, body=EntriesIn.model_validate_json(json.dumps(body)))
                wanted = changed_facts(facts_of(entry, lists), given.edit.changes, loop)
                if facts_of(changed.body.entries[n], lists) != wanted:
                    raise CoreError("edit", ANOTHER, "not_on_the_form")
                return [*given.waits[:at], changed, *given.waits[at + 1 :]], changed.body
    raise NotFound


def _edited(entry: EntryBase, changes: Sequence[FieldValue], loop: Loop, lists: DepotRows) -> Any:
    """The facts of a request with other values: poured as a mixture, its litres of each are edited."""
    facts, form = entry.facts.model_dump(mode="json"), edit_form(facts_of(entry, lists), loop)
    if facts.get("mixture_l") is not None:
        litres = {field.path: field.value for field in form if field.path in ("product_l", "water_l")}
        facts |= {"mixture_l": None, "product_share": None} | litres
    try:
        put_changes(facts, form, changes)
    except (KeyError, IndexError, TypeError):  # a field that the request names by another: a source of water, an instrument
        raise CoreError("edit", ANOTHER, "not_on_the_form") from None
    return facts
