"""What the walk through a ledger carries from entry to entry, and what can be asked of it at any time."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments.trend import TrendPoint
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import Poured
from temper_core.job.fill.progress import Filling
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.inside.rounds import Flush
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Tested
from temper_core.job.job_types import JobType
from temper_core.job.life.age import AgePart
from temper_core.job.loop import Loop
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import Ready
from temper_core.job.open.state import Gate, Observation
from temper_core.job.read.facts import Read
from temper_core.job.state import Override, Seen
from temper_core.job.waiting.facts import ClockStarted, Paused
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Family, Fluid, Product
from temper_core.science import Glycol


@dataclass(frozen=True, slots=True)
class Dilution:
    """A top-up between services: strength before and after [% by volume], None where nobody knows it.

    was_read: the strength that it thinned had been read, not only believed.
    """

    entry_id: str
    at: datetime
    facts: Poured
    before_percent: float | None
    after_percent: float | None
    other_base: bool
    was_read: bool


@dataclass(slots=True)
class LedgerFold:
    """What the fold carries from entry to entry; `loop.fold` turns it into a LoopState."""

    loop: Loop
    policy: Policy
    contents: Contents
    found: Fluid
    base: Base | None
    product: Product | None = None  # what makes the loop's new coolant
    job_id: str | None = None
    job_type: JobType | None = None
    opened_at: datetime | None = None
    signed_at: datetime | None = None
    changed_at: datetime | None = None
    last_entry_id: str | None = None
    planned: Planned | None = None
    poured_before_plan: int = 0
    drained: DrainedVolume | None = None
    pours: list[Poured] = field(default_factory=list)
    readings: list[tuple[str, Read]] = field(default_factory=list)
    proof: str | None = None
    circulated: bool = True  # ran through since the last pour
    strength_known: bool = False
    strength_read: bool = False  # read, or carried over from a proven job; otherwise it is only believed
    flags: list[Message] = field(default_factory=list)
    before_sign_off: Contents | None = None  # by the litres; signing off goes by the readings
    # the scald gate of this job
    observation: Observation | None = None
    ready: dict[Ready, datetime] = field(default_factory=dict)  # confirmed to stand ready, and when
    ran_seq: int = (
        0  # number of the last run that was recorded: a check recorded before it is older, whatever its clock says
    )
    isolated: bool = False  # this job had the high voltage made dead
    gate: Gate | None = None  # as it stands now; set by the fold, which knows the time
    flush: Flush = field(default_factory=Flush)
    fill: Filling = field(default_factory=Filling)
    # waiting: clocks that run, engine off since, temperatures since, put aside since
    clocks: list[tuple[Entry, ClockStarted]] = field(default_factory=list)
    stopped: tuple[str, datetime] | None = None
    warm: list[tuple[datetime, float]] = field(default_factory=list)
    paused: tuple[Entry, Paused] | None = None
    hands: tuple[str, str] | None = None  # id and name of who took it over
    over_limit: bool = False  # its cleaner is in too long; set by the fold, which knows the time
    # the test of this job
    reported: ReportedContents | None = None
    seen: list[Seen] = field(default_factory=list)
    skipped: list[Skipped] = field(default_factory=list)
    job_type_chosen: JobTypeChosen | None = None
    asked: JobType | None = None  # the job type it was opened for
    # since it was signed off, without a job
    levels: list[tuple[datetime, LevelSeen]] = field(default_factory=list)
    diluted: list[Dilution] = field(default_factory=list)
    read_since: datetime | None = None
    read_since_sd: float | None = None  # of that reading [% by volume]; None: told, or in steps
    reads: list[datetime] = field(default_factory=list)
    amendments: list[tuple[Entry, Amended]] = field(default_factory=list)
    conductivity: tuple[str, Tested, bool] | None = None  # since the last pour: entry, facts, whether it had run
    watered: bool = False  # water went into a loop that takes none
    strengths: list[TrendPoint] = field(default_factory=list)  # read since the last service
    # what outlives a job
    families: tuple[Family, ...] = ()  # inhibitors inside, beyond what may stay
    parts: tuple[AgePart, ...] = ()  # of how many ages the filling is
    meters: list[tuple[datetime, Metered]] = field(default_factory=list)
    cleaned_at: list[datetime] = field(default_factory=list)
    cooled_min: list[float] = field(default_factory=list)  # time constants that logged temperatures taught
    overrides: list[Override] = field(default_factory=list)

    @property
    def by_litres(self) -> Contents:
        """What the litres alone say is inside."""
        return self.before_sign_off or self.contents

    @property
    def glycol(self) -> Glycol:
        """The curves that apply; a glycol-free fill counts as water on the ethylene curves."""
        return self.contents.glycol

    @property
    def inside_strength_percent(self) -> float | None:
        """Strength of what is inside, mixed; None when nobody knows it."""
        return self.contents.strength if self.strength_known else None

    @property
    def other_percent(self) -> float:
        """Coolant of another base, or of one nobody knows, that the full loop holds [% of its volume]."""
        return 100 * self.contents.total.other_l / self.loop.capacity_l

    @property
    def bases_mixed(self) -> bool:
        """More of another base is inside than may stay: no scale is right, and nobody knows how far it protects."""
        return self.other_percent > self.policy["old_limit_change_percent"]

    @property
    def finished_old_percent(self) -> float:
        """Old coolant that the finished full loop would hold [% of its volume]."""
        return 100 * self.contents.total.old_l / self.loop.capacity_l


def start(loop: Loop, policy: Policy) -> LedgerFold:
    """The tally of an empty ledger: full of what is believed."""
    fluid = loop.believed
    glycol = (fluid.base.glycol if fluid.base else None) or Glycol.ETHYLENE
    strength = VolumePercent(fluid.strength_percent or 0.0)
    return LedgerFold(
        loop=loop,
        policy=policy,
        contents=Contents.full(loop.layout, glycol, strength),
        found=fluid,
        base=fluid.base,
        strength_known=fluid.strength_percent is not None or fluid.base is Base.NONE,
        families=(fluid.family,) if fluid.family else (),
        parts=(AgePart(1.0, family=fluid.family),),
    )


def capacity_sd_l(loop: Loop, policy: Policy) -> float:
    """Standard deviation of a loop's capacity [l]."""
    if loop.capacity_sd_l is not None:
        return loop.capacity_sd_l
    return loop.capacity_l * policy[f"capacity_sd_{loop.capacity_source.value}"] / 100
