"""What editing an entry takes and gives."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body, Number
from temper_core.basis.message import Message
from temper_core.job.editing.follows import Change
from temper_core.job.editing.form import EditField

Word = Annotated[str, Field(max_length=500)]
Some = Annotated[list[UUID], Field(max_length=200)]


class EditFormOut(Answer):
    """An entry as it counts now: in words, and its fields. No fields: nothing to mistype, only to undo."""

    said: Message
    fields: list[EditField]


class FieldValue(Body):
    """One field of the form, and what it shall be."""

    path: str = Field(max_length=80)
    value: bool | Number | Word | Annotated[list[Word], Field(max_length=40)] | None


class EditIn(Body):
    """An edit of an entry: the fields that change, or undo. id is the client's, so that sending twice keeps it once.

    undone, kept: of the entries that can no longer follow, those that go with it and those that stay. seen: the last entry
    that the screen had seen.
    """

    id: UUID
    changes: Annotated[list[FieldValue], Field(max_length=80)] = []
    undo: bool = False
    undone: Some = []
    kept: Some = []
    seen: UUID | None = None


class CannotFollowOut(Answer):
    """An entry that could not be recorded after the edit: in words, and why."""

    entry_id: UUID
    said: Message
    why: str


class EditShown(Answer):
    """What an edit would make of the loop. said: the entry as it would be; null where it is undone."""

    said: Message | None
    follows: list[Change]
    cannot_follow: list[CannotFollowOut]


class EditKept(Answer):
    """An edit was kept; undo: the entry that takes it back when it is undone itself, null where there is none."""

    undo: UUID | None
