"""Lines of the record as the API gives them, made from the core's kinds of entry: the facts of each in its own shape."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union
from uuid import UUID

from pydantic import Field, RootModel, create_model

from config.shapes import Answer
from people.shown import PersonOut
from temper_core.basis.message import Message
from temper_core.job.entry_kind import EntryKind
from temper_core.job.fact import Fact
from temper_core.job.kinds import REGISTRY


class EntryBaseOut(Answer):
    """One line of the record; said: the entry in words.

    voided: undone, or edited since: it does not count as it stands here. edits: the entry that this one brings new figures
    for. editable: it has figures, or can be undone, and is of the open job or of today.
    """

    id: UUID
    said: Message
    happened_at: datetime
    recorded_at: datetime
    person: PersonOut
    job_id: UUID | None
    voided: bool
    edits: UUID | None = None
    editable: bool = False
    if TYPE_CHECKING:
        kind: str
        facts: Any


def _line_of(kind: EntryKind) -> type[EntryBaseOut]:
    """The schema of a line of one kind."""
    name = "".join(part.capitalize() for part in kind.name.split("_"))
    named: Any = Literal[kind.name]
    facts: Any = kind.facts
    doc = (EntryBaseOut.__doc__ or "").strip()
    return create_model(f"{name}Entry", __base__=EntryBaseOut, __doc__=doc, kind=(named, ...), facts=(facts, ...))


class UnreadableEntry(EntryBaseOut):
    """An entry that cannot be read any more; was: its kind as stored."""

    kind: Literal["unreadable"]
    facts: dict[str, Any]
    was: str


_LINES = {kind.name: _line_of(kind) for kind in REGISTRY}
if TYPE_CHECKING:
    AnyLine = EntryBaseOut
else:
    AnyLine = Annotated[Union[(*_LINES.values(), UnreadableEntry)], Field(discriminator="kind")]


class EntryOut(RootModel[AnyLine]):
    """One line of the record, its facts in the shape of its kind."""


def line_of(kind: str, facts: Fact, **more: Any) -> EntryOut:
    """A line with the facts as the core has them. more: of EntryBaseOut."""
    return EntryOut(_LINES[kind](kind=kind, facts=facts, **more))


def unreadable(kind: str, facts: dict[str, Any], **more: Any) -> EntryOut:
    """A line whose facts cannot be read. more: of EntryBaseOut."""
    return EntryOut(UnreadableEntry(kind="unreadable", facts=facts, was=kind, **more))
