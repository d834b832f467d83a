"""Lines of the record as shown, made from rows as they are stored; no Django in here."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from jobs.record_schemas import EntryOut, line_of, unreadable
from jobs.stored import Stored
from people.shown import PersonOut
from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.job.editing.outcome import editable
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.fact import Fact
from temper_core.job.kinds import REGISTRY

UNREADABLE = say("unreadable", "This entry cannot be read. Undo it.")
People = Mapping[int, PersonOut]


def entry_out(row: Stored, people: People, facts: Fact | None = None, **more: Any) -> EntryOut:
    """A line of the record; one that cannot be read says so. facts: as they count now, where the entry was edited."""
    more |= {
        "id": row.id,
        "happened_at": row.happened_at,
        "recorded_at": row.recorded_at,
        "person": people[row.person_id],
        "job_id": row.job_id,
    }
    more.setdefault("voided", False)
    try:
        facts = facts or row.core.facts
        return line_of(row.kind, facts, said=REGISTRY.sentence(facts), **more)
    except (CoreError, ValueError):
        return unreadable(row.kind, json.loads(row.facts), said=UNREADABLE, **more)


def entry_outs(rows: Sequence[Stored], people: People, core: list[CoreEntry], now: datetime) -> list[EntryOut]:
    """Lines of the record, newest first, as they were recorded; those that were undone or edited are marked."""
    facts = {row.id: json.loads(row.facts) for row in rows if row.kind in ("voided", "edited")}
    gone = {str(facts[row.id].get("entry_id")) for row in rows if row.kind == "voided"}
    brought = {str(facts[row.id]["by"]): str(facts[row.id]["entry_id"]) for row in rows if row.kind == "edited"}
    edits = [row for row in rows if row.kind == "edited" and str(row.id) not in gone]
    newest = {str(facts[row.id]["entry_id"]): str(facts[row.id]["by"]) for row in sorted(edits, key=lambda row: row.seq)}
    open_ = editable(core, now)
    found = []
    for row in sorted(rows, key=lambda row: row.seq, reverse=True):
        key = str(row.id)
        about = brought.get(key)
        struck = key in gone or key in newest or (about is not None and newest.get(about) != key)
        may = not struck and (about or key) in open_
        found.append(entry_out(row, people, voided=struck, edits=UUID(about) if about else None, editable=may))
    return found
