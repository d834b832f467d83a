"""The entries of a loop's record. They are only ever added; a mistake is taken back by a later one that names it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.fact import Fact
from temper_core.job.job_types import JobType
from temper_core.products.chemistry import Fluid


@dataclass(frozen=True, slots=True)
class JobOpened(Fact):
    """The job of a loop starts. found: what is believed to be inside; None takes over what the record says."""

    job_type: JobType
    found: Fluid | None = None


@dataclass(frozen=True, slots=True)
class Acknowledged(Fact):
    """A lead has seen an override. answer: what is done about it, in words; "" nothing was said."""

    entry_id: str
    answer: str = ""

    def __post_init__(self) -> None:
        if len(self.answer) > 300:
            raise CoreError("answer", "Longer than 300 characters. Shorten it.", "too_long")


@dataclass(frozen=True, slots=True)
class PhotoAdded(Fact):
    """A picture that belongs to an earlier entry; the file is named by its hash."""

    entry_id: str
    sha256: str


@dataclass(frozen=True, slots=True)
class Voided(Fact):
    """Takes an earlier entry back; it stays in the record, struck."""

    entry_id: str
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Edited(Fact):
    """An earlier entry has the facts of another one (by) instead of its own; both stay in the record, the first struck."""

    entry_id: str
    by: str


@dataclass(frozen=True, slots=True)
class Entry:
    """One fact about one loop, made by a person: the name to show, and the id, since two may share a name.

    seq: its number in the loop's record, as recorded; clocks may go back, it never does.
    """

    id: str
    job_id: str | None
    happened_at: datetime
    recorded_at: datetime
    person: str
    facts: Fact
    person_id: str = ""
    seq: int = 0

    @property
    def order(self) -> tuple[datetime, int, datetime, str]:
        """Order of the fold: when it happened, then as recorded."""
        return (self.happened_at, self.seq, self.recorded_at, self.id)


def standing(entries: Iterable[Entry]) -> list[Entry]:
    """Entries in the order of the fold as they count: without those taken back, edited ones with the facts of now.

    An edited entry keeps its id, its time and its person; the one that brought the new facts does not count by itself.
    """
    entries = sorted(entries, key=lambda entry: entry.order)
    voided = {entry.facts.entry_id for entry in entries if isinstance(entry.facts, Voided)}
    stays = [entry for entry in entries if entry.id not in voided and not isinstance(entry.facts, Voided | Edited)]
    edits = [entry for entry in entries if isinstance(entry.facts, Edited)]
    if not edits:
        return stays
    now, brought = facts_now(entries), brought_by_edits(entries)
    return [replace(entry, facts=now.get(entry.id, entry.facts)) for entry in stays if entry.id not in brought]


def brought_by_edits(entries: Iterable[Entry]) -> frozenset[str]:
    """The ids of entries that only bring the new facts of an edit: they were typed then, they did not happen then."""
    return frozenset(entry.facts.by for entry in entries if isinstance(entry.facts, Edited))


def facts_now(entries: Iterable[Entry]) -> dict[str, Fact]:
    """The facts that edited entries have now, by their ids."""
    rows = sorted(entries, key=lambda entry: entry.seq)
    voided = {entry.facts.entry_id for entry in rows if isinstance(entry.facts, Voided)}
    facts = {entry.id: entry.facts for entry in rows}
    edits = [entry.facts for entry in rows if isinstance(entry.facts, Edited) and entry.id not in voided]
    return {edit.entry_id: facts[edit.by] for edit in edits if edit.by in facts}


def counting_now(entries: Iterable[Entry]) -> list[tuple[Entry, Fact]]:
    """Entries that stand, each with its facts as they count now; what only brought an edit is left out."""
    rows = list(entries)
    now, brought = facts_now(rows), {row.facts.by for row in rows if isinstance(row.facts, Edited)}
    return [(entry, now.get(entry.id, entry.facts)) for entry in standing(rows) if entry.id not in brought]


def check_stands(entries: Iterable[Entry], entry_id: str) -> Entry:
    """The entry of this id, not taken back; raises Conflict where there is none."""
    found = next((entry for entry in standing(entries) if entry.id == entry_id), None)
    if found is None:
        raise Conflict(
            "entry_id", "That entry is not in this record, or was undone already. Reload the record.", "not_standing"
        )
    return found
