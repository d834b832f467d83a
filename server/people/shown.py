"""Somebody, as every screen shows them."""

from __future__ import annotations

from datetime import date
from typing import Protocol

from config.shapes import Answer


class Somebody(Protocol):
    """A person, wherever they are kept."""

    @property
    def id(self) -> int:
        """Their number."""

    @property
    def username(self) -> str:
        """How they sign in."""

    @property
    def name(self) -> str:
        """How they are called."""

    @property
    def initials(self) -> str:
        """How they sign."""

    @property
    def role(self) -> str:
        """What they may do."""

    @property
    def isolates_until(self) -> date | None:
        """The last day on which they may isolate high voltage; None: they may not."""


class PersonOut(Answer):
    """Somebody, as shown. isolates_until: the last day on which they may isolate high voltage; null: they may not."""

    id: int
    username: str
    name: str
    initials: str
    role: str
    isolates_until: date | None = None


def person_out(person: Somebody) -> PersonOut:
    """A person as shown."""
    return PersonOut(
        id=person.id,
        username=person.username,
        name=person.name,
        initials=person.initials,
        role=person.role,
        isolates_until=person.isolates_until,
    )
