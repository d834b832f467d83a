"""How a flush stands, as the screen shows it: rounds, jars, cleaner, waste. Made by `loop.fold`, never stored as truth."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

from temper_core.basis.message import Message
from temper_core.basis.uncertainty import Interval, half_width
from temper_core.calculate.flush.estimate import Source
from temper_core.job.flush.facts import Method, WasteKind
from temper_core.job.flush.rules import Enough
from temper_core.job.inspect.facts import Look
from temper_core.products.water import WaterKind


class Step(StrEnum):
    """What a flush waits for: the next round (or the word that it is enough), its run, the safe-to-open check, its drain."""

    PLAN = "plan"
    RUN = "run"
    GATE = "gate"
    DRAIN = "drain"


@dataclass(frozen=True, slots=True)
class RoundVessel:
    """A vessel in a round: shares while it ran [%] with the standard deviation of the old one; None: it was empty.

    solids_mg_l: what tap water would leave behind of its fluid. _half: of the 95 % interval.
    """

    id: str
    name: str
    old_percent: float | None
    old_sd_percent: float
    cleaner_percent: float
    solids_mg_l: float
    old_half_percent: float = field(init=False, default=0.0)

    def __post_init__(self) -> None:
        object.__setattr__(self, "old_half_percent", half_width(self.old_sd_percent))


@dataclass(frozen=True, slots=True)
class Jar:
    """What was looked at and read of a round. entry_id: of the sample, where photos hang; None: no sample taken.

    read_entry_id: of the reading, where there is one; says: its result.
    """

    entry_id: str | None
    looks: tuple[Look, ...]
    sediment_mm: float | None
    read_entry_id: str | None
    says: Message | None


@dataclass(frozen=True, slots=True)
class RoundState:
    """One round, or the first drain (number 0, method None). Shares in %, litres at 20 degC.

    step: what it still waits for, PLAN when it is done. thin: what this round did not do, said plainly.
    finished_old_percent: old coolant the finished full loop would hold after its drain; None before.
    finished_half_percent: half its 95 % interval.
    """

    number: int
    entry_id: str
    at: datetime
    by: str
    method: Method | None
    step: Step
    water: WaterKind | None
    water_l: float
    opened: bool | None
    out_l: float | None
    vessels: tuple[RoundVessel, ...]
    ran_percent: float | None
    finished_old_percent: float | None
    finished_sd_percent: float | None
    source: Source
    jar: Jar | None
    thin: tuple[Message, ...]
    finished_half_percent: float | None = field(init=False, default=None)

    def __post_init__(self) -> None:
        object.__setattr__(self, "finished_half_percent", half_width(self.finished_sd_percent))


@dataclass(frozen=True, slots=True)
class CleanerState:
    """A cleaner that is in, or not yet rinsed below its limit. since: when it went in; run_min, limit_min: of its clock.

    running: its own fluid is still in, so that its limit counts. percent: of its working strength, after refill.
    """

    entry_id: str
    name: str
    since: datetime
    run_min: float
    limit_min: float
    running: bool
    percent: float
    limit_percent: float


@dataclass(frozen=True, slots=True)
class WasteState:
    """Litres of one kind that came out in this job, of which so many are in lidded, labelled containers.

    more: containers that the rest still asks for.
    """

    kind: WasteKind
    out_l: float
    kept_l: float
    containers: int
    reuse_l: float
    more: int


@dataclass(frozen=True, slots=True)
class FlushState:
    """The flush of the job in work. limit_percent None: no limit applies, or nothing is chosen yet.

    finished_likely_percent: its 95 % interval, which a share keeps above 0. water_l: by kind, in all rounds. early: ended
    although the stop rule said no, and why. no_reuse: why nothing of it may be kept to go back in.
    """

    step: Step
    rounds: tuple[RoundState, ...]
    limit_percent: float | None
    finished_old_percent: float
    finished_sd_percent: float
    finished_likely_percent: Interval
    cleaner: CleanerState | None
    solids_mg_l: float
    enough: Enough
    ended: bool
    early: str
    water_l: dict[WaterKind, float]
    waste: tuple[WasteState, ...]
    no_reuse: tuple[Message, ...]
