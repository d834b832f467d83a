"""What may be asked of somebody before they begin some work; other parts of the house put their question here."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum

from people.models import Person


class Work(StrEnum):
    """Work that something may be asked for before."""

    HIGH_VOLTAGE = "high_voltage"
    CLEANER = "cleaner"


BEFORE: list[Callable[[Person, Work], None]] = []


def check_may_begin(person: Person, work: Work) -> None:
    """Raises Conflict where something is asked for first."""
    for asks in BEFORE:
        asks(person, work)
