"""Entries as they are stored, and as the core knows them. No Django in here: a browser keeps the same rows."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Mapping
from datetime import datetime
from functools import lru_cache
from typing import Any, NamedTuple
from uuid import UUID

from pydantic import TypeAdapter

from temper_core.basis.errors import CoreError
from temper_core.job.between.facts import Amended
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.fact import Fact
from temper_core.job.kinds import REGISTRY
from temper_core.job.life.snapshot import LoopSnapshot

SNAPSHOT = TypeAdapter(LoopSnapshot)
_ISOLATOR = re.compile(r'"isolated_by_id":\s*(\d+)')
FACTS: dict[str, TypeAdapter[Any]] = {kind.name: TypeAdapter(kind.facts) for kind in REGISTRY}


@lru_cache(maxsize=8192)  # a ledger is read again with every entry, what stands in it never changes
def _read_facts(kind: str, stored: str) -> Fact:
    facts: Fact = FACTS[kind].validate_json(stored)
    return facts


def stored_facts(facts: Fact) -> dict[str, Any]:
    """Facts as they are stored: people by their number, names are joined when they are read."""
    kept: dict[str, Any] = FACTS[REGISTRY.of(facts).name].dump_python(facts, mode="json")
    if kept.get("isolated_by_id") is not None:
        kept["isolated_by"] = ""
    return kept


def isolator_of(facts: str) -> int | None:
    """Number of the person that stored facts name; None where they name nobody."""
    found = _ISOLATOR.search(facts)
    return int(found[1]) if found else None


def named(facts: str, names: Mapping[int, str]) -> str:
    """Stored facts with the name of the person that they name by number."""
    who = isolator_of(facts)
    if who is None:
        return facts
    return json.dumps({**json.loads(facts), "isolated_by": names.get(who, f"person {who}")})


class Stored(NamedTuple):
    """The columns of an entry, facts as the text that is stored with the names of people joined, and its person's name."""

    id: UUID
    job_id: UUID | None
    happened_at: datetime
    recorded_at: datetime
    person_id: int
    seq: int
    kind: str
    facts: str
    person: str

    @property
    def core(self) -> CoreEntry:
        """As the core knows it."""
        return self.with_facts(_read_facts(self.kind, self.facts))

    def with_facts(self, facts: Fact) -> CoreEntry:
        """As the core knows it, of these facts."""
        return CoreEntry(
            id=str(self.id),
            job_id=str(self.job_id) if self.job_id else None,
            happened_at=self.happened_at,
            recorded_at=self.recorded_at,
            person=self.person,
            facts=facts,
            person_id=str(self.person_id),
            seq=self.seq,
        )


def cores_of_stored(rows: Iterable[Stored], taking_back: str = "") -> list[CoreEntry]:
    """Rows as the core knows them; one that cannot be read does not count once it is taken back, or is about to be.

    taking_back: the id of the entry that is about to be. Raises CoreError or ValueError where another cannot be read.
    """
    rows = list(rows)
    gone = {str(json.loads(row.facts).get("entry_id")) for row in rows if row.kind == "voided"} | {taking_back}
    found = []
    for row in rows:
        try:
            found.append(row.core)
        except (CoreError, ValueError):
            if str(row.id) not in gone:
                raise
            found.append(row.with_facts(Amended("It cannot be read.")))
    return found
