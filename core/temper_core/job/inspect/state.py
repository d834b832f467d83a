"""Advice on the type of job, with its reasons."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

from temper_core.basis.message import Message
from temper_core.job.inspect.facts import Check
from temper_core.job.job_types import JobType


class Weight(IntEnum):
    """How much one piece of advice weighs."""

    FOR = 0  # speaks for leaving it
    HINT = 1
    DECIDES = 2
    STOPS = 3  # find the cause first: nothing is poured before


@dataclass(frozen=True, slots=True)
class Finding:
    """One reason: what it pulls towards, how hard, and the entry it points to (None: history or the record)."""

    code: str
    job_type: JobType
    weight: Weight
    said: Message
    entry_id: str | None = None


@dataclass(frozen=True, slots=True)
class FurtherTest:
    """A check worth making before deciding, and why."""

    check: Check
    name: str
    why: Message


@dataclass(frozen=True, slots=True)
class Advice:
    """The job type Temper advises, its reasons with the deciding ones first, and the tests that would sharpen it.

    stop: find the cause first; nothing is poured before.
    """

    job_type: JobType
    stop: bool
    said: Message
    reasons: tuple[Finding, ...]
    tests: tuple[FurtherTest, ...]
