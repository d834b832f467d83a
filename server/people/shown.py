"""Somebody, as every screen shows them."""

from __future__ import annotations

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


class PersonOut(Answer):
    """Somebody, as shown."""

    id: int
    username: str
    name: str
    initials: str
    role: str


def person_out(person: Somebody) -> PersonOut:
    """A person as shown."""
    return PersonOut(id=person.id, username=person.username, name=person.name, initials=person.initials, role=person.role)
