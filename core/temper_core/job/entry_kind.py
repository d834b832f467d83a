"""One record per kind of entry: what it holds, when it may follow, what it does, how it is worded, when it may be undone.

A stage registers its kinds in its `kinds.py`; the fold, the validation, the record's sentences and the API's schema are all
made from these records.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any

from temper_core.basis.errors import Conflict
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry
from temper_core.job.fact import Fact
from temper_core.job.fold_state import LedgerFold
from temper_core.job.job_types import Stage
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState


class Need(StrEnum):
    """What has to hold before a fact is recorded: the safe-to-open check alone, or with stands and tray as well."""

    CAP = "cap"
    DRAIN = "drain"


@dataclass(frozen=True, slots=True)
class Attempt:
    """An entry that somebody adds, as it is validated: the loop, its entries so far, and the state that follows.

    now: when it happened, by the depot's clock. person_id: who records it. without_job: recorded between services.
    """

    loop: Loop
    entries: Sequence[Entry]
    fold: LedgerFold
    state: LoopState
    policy: Policy
    now: datetime | None = None
    person_id: str | None = None
    without_job: bool = False


def nothing(*_: Any) -> None:
    """It changes no state, or asks nothing that its own figures do not ask."""


def opens_nothing(attempt: Attempt, facts: Any) -> Need | None:
    """It opens nothing."""


def opens_cap(attempt: Attempt, facts: Any) -> Need | None:
    """Whatever it is, the loop is open for it."""
    return Need.CAP


def opens_drain(attempt: Attempt, facts: Any) -> Need | None:
    """Fluid comes out: stands and tray are asked as well."""
    return Need.DRAIN


def undo_alone(target: Entry, standing: Sequence[Entry]) -> None:
    """Taken back only when its job holds nothing else; raises Conflict."""
    if sum(entry.job_id == target.job_id for entry in standing) > 1:
        raise Conflict("entry_id", "The job has other entries. Undo those first.", "not_last")


@dataclass(frozen=True, slots=True)
class WithoutJob:
    """How a kind is validated and what it does when it is recorded between services, where that differs."""

    validate: Callable[[Attempt, Any], None] = nothing
    apply: Callable[[LedgerFold, Any, Entry], None] | None = None


@dataclass(frozen=True, slots=True)
class EntryKind:
    """A kind of entry. name: as stored and in the API. facts: its dataclass.

    apply: what it does to the fold. sentence: how the record tells it. validate: refuses what cannot follow (raises
    CoreError or Conflict). opens: what it opens, so that the safe-to-open check comes first. can_be: refuses figures that
    nothing can give, before all else. undo: refuses to be taken
    back. in_job: belongs to an open job. while_paused: allowed while the job is paused. any_time: about an entry or the job
    itself, whether a job is open or not. without_job: allowed between services, None where it is not.
    did: what its person did, as another screen says it. stages: where its form stands, so that a draft there is done with.
    quiet: changes nothing that anybody else must have seen. by_client: recorded through the entries of the API; the others
    come of a job that is opened, a picture, an import.
    """

    name: str
    facts: type[Fact]
    apply: Callable[[LedgerFold, Any, Entry], None]
    sentence: Callable[[Any], Message]
    validate: Callable[[Attempt, Any], None] = nothing
    opens: Callable[[Attempt, Any], Need | None] = opens_nothing
    can_be: Callable[[Attempt, Any], None] = nothing
    undo: Callable[[Entry, Sequence[Entry]], None] = nothing
    in_job: bool = True
    while_paused: bool = False
    any_time: bool = False
    without_job: WithoutJob | None = None
    did: str = "added an entry"
    stages: tuple[Stage, ...] = ()
    quiet: bool = False
    by_client: bool = True


class Registry:
    """Kinds of entry by name and by the dataclass of their facts."""

    def __init__(self, kinds: Iterable[EntryKind]) -> None:
        rows = tuple(kinds)
        self._names: Mapping[str, EntryKind] = {row.name: row for row in rows}
        self._facts: Mapping[type[Fact], EntryKind] = {row.facts: row for row in rows}
        if not len(rows) == len(self._names) == len(self._facts):
            raise ValueError("two kinds of entry share a name, or their facts")

    def __iter__(self) -> Iterator[EntryKind]:
        return iter(self._names.values())

    def __contains__(self, name: object) -> bool:
        return name in self._names

    def named(self, name: str) -> EntryKind:
        """The kind of this name; KeyError where there is none."""
        return self._names[name]

    def named_by(self, facts: type[Fact]) -> str:
        """The name of the kind that has these facts."""
        return self._facts[facts].name

    def of(self, facts: Fact) -> EntryKind:
        """The kind that these facts are of; KeyError where nobody registered it."""
        return self._facts[type(facts)]

    def apply(self, fold: LedgerFold, entry: Entry) -> None:
        """Let one entry act on the fold."""
        kind = self.of(entry.facts)
        act = kind.apply
        if entry.job_id is None and kind.without_job is not None and kind.without_job.apply is not None:
            act = kind.without_job.apply
        act(fold, entry.facts, entry)

    def sentence(self, facts: Fact) -> Message:
        """The record's sentence of these facts."""
        return self.of(facts).sentence(facts)
