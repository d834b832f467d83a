"""What a dose leaves in the state of a loop: the account of its inhibitors, and how far the job is."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

from temper_core.basis.message import Message
from temper_core.job.dose.facts import Dosed
from temper_core.products.additive import Band, Inhibitor


class DoseStep(StrEnum):
    """What is to be done next."""

    STRIPS = "strips"
    POUR = "pour"
    RUN = "run"
    AGAIN = "again"
    DONE = "done"


class DoseVerdict(StrEnum):
    """What the strips say after the dose."""

    PROTECTED = "protected"
    STILL_LOW = "still_low"
    OVERDOSED = "overdosed"
    DISAGREES = "disagrees"


@dataclass(frozen=True, slots=True)
class Account:
    """One inhibitor since its last strip: the band read, and with every dose since. read_mg_l: as matched.

    expected: what the account said just before the strip, where something was dosed since the one before; None: nothing was.
    """

    inhibitor: Inhibitor
    read_mg_l: float
    read_at: datetime
    job_id: str | None
    band: Band
    expected: Band | None = None
    doses: int = 0


@dataclass(slots=True)
class Dosing:
    """Doses of the job in work. circulated: it ran through since the last one. unread: raised, and no strip told since."""

    poured: list[tuple[str, Dosed]] = field(default_factory=list)
    circulated: bool = True
    unread: set[Inhibitor] = field(default_factory=set)


@dataclass(frozen=True, slots=True)
class InhibitorState:
    """One line of the account, as shown. low, high [mg/l]: what it is at least and at most now; None: open."""

    inhibitor: Inhibitor
    read_mg_l: float
    read_at: datetime
    low_mg_l: float | None
    high_mg_l: float | None
    allowed_low_mg_l: float
    allowed_high_mg_l: float
    doses: int
    said: Message


@dataclass(frozen=True, slots=True)
class DosePoured:
    """One dose of the job: its entry, the additive, and how much of it."""

    entry_id: str
    agent: str
    ml: float


@dataclass(frozen=True, slots=True)
class DoseState:
    """How far a job stands that doses: what to do, what was poured, and the verdict of the strips."""

    step: DoseStep
    said: Message
    poured: tuple[DosePoured, ...]
    verdict: DoseVerdict | None
