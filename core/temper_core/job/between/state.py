"""Checks that come due after a job, and corrections to it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum

from temper_core.basis.message import Message


class RecheckWhy(StrEnum):
    """Why somebody comes back."""

    FIRST = "first"
    SECOND = "second"
    DILUTED = "diluted"
    LEAK = "leak"
    UNPROTECTED = "unprotected"  # not a recheck: a level check found less protection than the coldest asks for


@dataclass(frozen=True, slots=True)
class Recheck:
    """One check that is due: why, from which day it counts, when it is due, whether a reading belongs to it."""

    why: RecheckWhy
    said: Message
    opens_on: date
    due_on: date
    with_reading: bool
    done_at: datetime | None
    overdue: bool


@dataclass(frozen=True, slots=True)
class AmendedState:
    """A correction to a signed job."""

    entry_id: str
    at: datetime
    by: str
    about: str
    text: str


@dataclass(frozen=True, slots=True)
class AfterState:
    """What is due and was seen since it left: level checks, top-ups without a job, corrections. next_on: the next check."""

    rechecks: tuple[Recheck, ...]
    next_on: date | None
    overdue: bool
    diluted: Message | None
    amendments: tuple[AmendedState, ...]
