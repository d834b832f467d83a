"""What the fold of a record keeps, in small records: of one job, of the loop's life, since the last sign-off."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from temper_core.basis.message import Message
from temper_core.instruments.trend import TrendPoint
from temper_core.job.between.facts import Amended, LevelSeen, LostWhen
from temper_core.job.dose.state import Account, Dosing
from temper_core.job.doubt.program import Step
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import Poured
from temper_core.job.fill.progress import Filling
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.inside.rounds import Flush
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Tested
from temper_core.job.job_types import JobType
from temper_core.job.life.account.movement import Movement
from temper_core.job.life.age import AgePart
from temper_core.job.life.conducting import Conducted
from temper_core.job.loop_state import Override, Seen
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import Ready
from temper_core.job.open.state import Observation
from temper_core.job.parking.facts import Parking
from temper_core.job.read.facts import Read
from temper_core.job.waiting.facts import ClockStarted, Paused
from temper_core.machine.contents import Contents
from temper_core.products.additive import Inhibitor
from temper_core.products.chemistry import Family, Product


@dataclass(slots=True)
class Inspecting:
    """What was seen, what was left out, and the job type that was chosen."""

    seen: list[Seen] = field(default_factory=list)
    skipped: list[Skipped] = field(default_factory=list)
    chosen: JobTypeChosen | None = None


@dataclass(slots=True)
class Opening:
    """The safe-to-open check. isolated: this job had the high voltage made dead."""

    observation: Observation | None = None
    ready: dict[Ready, datetime] = field(default_factory=dict)  # confirmed to stand ready, and when
    isolated: bool = False


@dataclass(slots=True)
class Waiting:
    """Clocks that run, the engine off since (entry, when), temperatures since, paused since, who took it over."""

    clocks: list[tuple[Entry, ClockStarted]] = field(default_factory=list)
    stopped: tuple[str, datetime] | None = None
    warm: list[tuple[datetime, float]] = field(default_factory=list)
    paused: tuple[Entry, Paused] | None = None
    hands: tuple[str, str] | None = None


@dataclass(slots=True)
class Mixing:
    """The chosen product and the accepted mix; poured_before: how many pours came before it."""

    planned: Planned | None = None
    poured_before: int = 0


@dataclass(slots=True)
class Verifying:
    """Readings, the conductivity since the last pour (entry, facts, whether it had run), and the verdict signed.

    watered: water went into a loop that takes none. before_sign_off: by the litres; signing off follows the readings.
    signed_acts: what was done and seen until then.
    """

    readings: list[tuple[str, Read]] = field(default_factory=list)
    conductivity: tuple[str, Tested, bool] | None = None
    watered: bool = False
    proof: str | None = None
    before_sign_off: Contents | None = None
    signed_acts: tuple[Step, ...] = ()


@dataclass(slots=True)
class JobState:
    """One job; a new job is a new one. id None: there was none yet. asked: the job type it was opened for.

    drained, pours: since the last drain. circulated: it ran through since the last pour. product: what makes the loop's new
    coolant. lesson: what this job measured of its machine, by its key.
    """

    id: str | None = None
    job_type: JobType | None = None
    asked: JobType | None = None
    opened_at: datetime | None = None
    signed_at: datetime | None = None
    product: Product | None = None
    reported: ReportedContents | None = None
    drained: DrainedVolume | None = None
    pours: list[Poured] = field(default_factory=list)
    circulated: bool = True
    flags: list[Message] = field(default_factory=list)
    inspect: Inspecting = field(default_factory=Inspecting)
    open: Opening = field(default_factory=Opening)
    waiting: Waiting = field(default_factory=Waiting)
    mix: Mixing = field(default_factory=Mixing)
    flush: Flush = field(default_factory=Flush)
    fill: Filling = field(default_factory=Filling)
    verify: Verifying = field(default_factory=Verifying)
    dosing: Dosing = field(default_factory=Dosing)
    lesson: list[tuple[str, float]] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Dilution:
    """A top-up between services: strength before and after [% by volume], None where not known it.

    was_read: the strength that it diluted had been read, not only believed.
    """

    entry_id: str
    at: datetime
    facts: Poured
    before_percent: float | None
    after_percent: float | None
    other_base: bool
    was_read: bool


@dataclass(slots=True)
class SinceSignOff:
    """What was recorded without a job since the last one was signed off.

    read_at, read_sd: of the last reading [% by volume]; read_sd None: reported, or in steps.
    """

    levels: list[tuple[datetime, LevelSeen]] = field(default_factory=list)
    diluted: list[Dilution] = field(default_factory=list)
    reads: list[datetime] = field(default_factory=list)
    read_at: datetime | None = None
    read_sd: float | None = None
    amendments: list[tuple[Entry, Amended]] = field(default_factory=list)


@dataclass(slots=True)
class LoopLife:
    """What outlives a job: inhibitors inside beyond what may stay, of how many ages the filling is, meters, cleans.

    cooled_min: time constants that logged temperatures taught. strengths: read since the last service; movements: of its
    level since; lost_when: when it goes, as seen. parked: when it was left last or came into hands, and where it stands
    since then, None where that was not said. inhibitor: the account of each since its last strip;
    conducted: conductivities since the last fill.
    """

    families: tuple[Family, ...] = ()
    parts: tuple[AgePart, ...] = ()
    meters: list[tuple[datetime, Metered]] = field(default_factory=list)
    cleaned_at: list[datetime] = field(default_factory=list)
    cooled_min: list[float] = field(default_factory=list)
    overrides: list[Override] = field(default_factory=list)
    strengths: list[TrendPoint] = field(default_factory=list)
    movements: list[Movement] = field(default_factory=list)
    lost_when: LostWhen | None = None
    parked: tuple[datetime, Parking | None] | None = None
    inhibitor: dict[Inhibitor, Account] = field(default_factory=dict)
    conducted: list[Conducted] = field(default_factory=list)
