"""How a job is done, and what came of it: the case, the record that is written, the claims beside the truth."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Interval
from temper_core.instruments import Scale
from temper_core.instruments.kinds import InstrumentKind
from temper_core.job.entries import Entry
from temper_core.job.fact import Fact
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType
from temper_core.job.loop import CapacitySource, Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.open.facts import EngineRun
from temper_core.job.read.facts import Instrument
from temper_core.machine.layouts import BY_KEY
from temper_core.products.chemistry import Base, Family, Form, Product
from temper_core.simulate.machine import TrueMachine

START = datetime(2026, 1, 5, 8, tzinfo=UTC)
LAYOUTS = tuple(BY_KEY)
HOT = EngineRun(minutes=25, opened=True, heater_full=True)
GLASS = Instrument("glass", "Glass", Scale.FREEZE_ETHYLENE, 1.0)
DIGITAL = Instrument("digital", "Digital", Scale.FREEZE_ETHYLENE, 0.1, InstrumentKind.DIGITAL)
TOOLS = {"glass": GLASS, "digital": DIGITAL}
NEW = Product("new", "New coolant", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 95.0)


@dataclass(frozen=True, slots=True)
class Case:
    """How a job is done. coldest_c: where it stands; target 5 K below. source: of the capacity. spilled: of the
    product recorded, so much never went in."""

    job_type: JobType
    layout: str
    tool: str = "digital"
    source: CapacitySource = CapacitySource.MANUAL
    read_found: bool = True
    read_rinses: bool = False
    rounds: int = 2
    readings: int = 1
    way: str = "weighed"
    level_seen: bool = True
    capacity_l: float = 30.0
    believed_percent: float = 45.0
    coldest_c: float = -30.0
    spilled: float = 0.0


@dataclass(frozen=True, slots=True)
class Claimed:
    """Something Temper said, beside the truth: value between low and high?"""

    what: str
    truth: float
    interval: Interval


@dataclass(slots=True)
class Played:
    """A job that was played: its claims and its last state."""

    case: Case
    machine: TrueMachine
    claims: list[Claimed] = field(default_factory=list)
    state: LoopState | None = None
    book: Book | None = None


class Book:
    """Entries as they are recorded, a quarter of an hour apart."""

    def __init__(self, loop: Loop, policy: Policy) -> None:
        self.loop, self.policy = loop, policy
        self.entries: list[Entry] = []

    def add(self, *facts: Fact) -> None:
        """Record them."""
        for one in facts:
            n = len(self.entries)
            at = START + timedelta(minutes=15 * n)
            self.entries.append(Entry(f"e{n}", "job", at, at, "IH", one, seq=n))

    @property
    def state(self) -> LoopState:
        """As it stands."""
        return fold(self.loop, self.entries, self.policy)
