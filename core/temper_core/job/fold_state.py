"""What the walk through a ledger carries from entry to entry, and what can be asked of it at any time."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, datetime

from temper_core.basis.message import Saying
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate.cooldown import CooldownAnswer, CooldownQuestion, CoolPoint, cooldown
from temper_core.instruments import ReadingQuestion
from temper_core.instruments.trend import TrendPoint
from temper_core.job.age import AgePart
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.drain.facts import Drained
from temper_core.job.drain.state import Out
from temper_core.job.drain.volume import Strength, litres_out
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import Poured
from temper_core.job.fill.progress import Filling
from temper_core.job.flush.facts import RoundFilled
from temper_core.job.flush.rounds import Flush, went_through
from temper_core.job.flush.rules import Enough, Flushed, judge_enough
from temper_core.job.identify.facts import Metered, Told
from temper_core.job.inspect.decision import Routed, Skipped
from temper_core.job.inspect.facts import Tested
from temper_core.job.job_types import Route
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import Ready
from temper_core.job.open.state import Gate, Observation
from temper_core.job.readings import Place, Read, counted, question_of
from temper_core.job.state import Loop, Override, Seen
from temper_core.job.waiting.facts import ClockStarted, Paused
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Family, Fluid, Product
from temper_core.products.compatibility import old_limit_percent
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
class Tally:
    """What the fold carries from entry to entry; `loop.fold` turns it into a LoopState."""

    loop: Loop
    policy: Policy
    contents: Contents
    found: Fluid
    base: Base | None
    product: Product | None = None  # what makes the loop's new coolant
    job_id: str | None = None
    route: Route | None = None
    opened_at: datetime | None = None
    signed_at: datetime | None = None
    changed_at: datetime | None = None
    last_entry_id: str | None = None
    planned: Planned | None = None
    poured_before_plan: int = 0
    drained: Out | None = None
    pours: list[Poured] = field(default_factory=list)
    readings: list[tuple[str, Read]] = field(default_factory=list)
    proof: str | None = None
    mixed: bool = True
    strength_known: bool = False
    strength_read: bool = False  # read, or carried over from a proven job; otherwise it is only believed
    flags: list[Saying] = field(default_factory=list)
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
    told: Told | None = None
    seen: list[Seen] = field(default_factory=list)
    skipped: list[Skipped] = field(default_factory=list)
    routed: Routed | None = None
    asked: Route | None = None  # the route the job was opened for
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


def start(loop: Loop, policy: Policy) -> Tally:
    """The tally of an empty ledger: full of what is believed."""
    fluid = loop.believed
    glycol = (fluid.base.glycol if fluid.base else None) or Glycol.ETHYLENE
    strength = VolumePercent(fluid.strength_percent or 0.0)
    return Tally(
        loop=loop,
        policy=policy,
        contents=Contents.full(loop.layout, glycol, strength),
        found=fluid,
        base=fluid.base,
        strength_known=fluid.strength_percent is not None or fluid.base is Base.NONE,
        families=(fluid.family,) if fluid.family else (),
        parts=(AgePart(1.0, family=fluid.family),),
    )


@dataclass(frozen=True, slots=True)
class Carried:
    """What a signed-off job hands to the next one, so that a loop's whole life need not be walked to show its job.

    changed_on, changed_meter: as jobs kept it that knew of no parts; parts None: one of those. strengths: what was read
    since the last service, for what the history knows.
    """

    found: Fluid
    strength_read: bool
    families: tuple[Family, ...]
    changed_on: date | None
    meter: tuple[datetime, Metered] | None
    changed_meter: tuple[datetime, Metered] | None
    cleaned_at: tuple[datetime, ...]
    cooled_min: tuple[float, ...]
    signed_at: datetime | None = None
    route: Route | None = None
    parts: tuple[AgePart, ...] | None = None
    other_percent: float = 0.0
    strengths: tuple[TrendPoint, ...] = ()


def carried_of(t: Tally) -> Carried:
    """What this loop hands on, once signed off."""
    found = t.found
    if t.product is not None:
        found = Fluid(t.product.base, t.product.family, t.inside_strength_percent)
    return Carried(
        found,
        left_read(t),
        t.families,
        None,
        t.meters[-1] if t.meters else None,
        None,
        tuple(t.cleaned_at),
        tuple(t.cooled_min),
        t.signed_at,
        t.route,
        t.parts,
        t.other_percent,
        tuple(t.strengths),
    )


def left_read(t: Tally) -> bool:
    """Whether the strength it left with was read."""
    return bool(finished_questions(t)) if t.product is not None else t.strength_read


def start_from(loop: Loop, policy: Policy, carried: Carried) -> Tally:
    """The tally as the last signed-off job left it."""
    t = start(loop, policy)
    t.found, t.strength_read, t.families = carried.found, carried.strength_read, carried.families
    t.parts = carried.parts if carried.parts is not None else (_told_then(carried),)
    t.strengths = list(carried.strengths)
    t.meters = [carried.meter] if carried.meter else []
    t.cleaned_at, t.cooled_min = list(carried.cleaned_at), list(carried.cooled_min)
    t.signed_at, t.route = carried.signed_at, carried.route
    t.base, t.strength_known = carried.found.base, carried.found.strength_percent is not None
    glycol = (t.base.glycol if t.base else None) or Glycol.ETHYLENE
    full = Contents.full(loop.layout, glycol, VolumePercent(carried.found.strength_percent or 0.0))
    t.contents = full.with_other(carried.other_percent / 100)
    return t


def _told_then(carried: Carried) -> AgePart:
    meter = carried.changed_meter[1] if carried.changed_meter else None
    family = carried.families[0] if carried.families else None
    distance_km, hours = (meter.distance_km, meter.hours) if meter else (None, None)
    return AgePart(1.0, carried.changed_on, distance_km, hours, family)


def capacity_sd_l(loop: Loop, policy: Policy) -> float:
    """Standard deviation of a loop's capacity [l]."""
    if loop.capacity_sd_l is not None:
        return loop.capacity_sd_l
    return loop.capacity_l * policy[f"capacity_sd_{loop.capacity_source.value}"] / 100


def out_of(t: Tally, facts: Drained) -> Out:
    """Litres a drain comes to now; raises CoreError for weights and marks that cannot be."""
    return litres_out(facts, t.contents, strength_inside(t), t.policy)


def strength_inside(t: Tally) -> Strength | None:
    """Strength of what is inside with its doubt, for its density; None where it is only believed and nothing thinned it."""
    if t.base is Base.NONE:
        return Strength(VolumePercent(0.0), 0.0)
    if t.strength_read or t.pours:
        return Strength(t.contents.strength, t.policy["inside_sd_read"])
    if not t.flush.rinsed or t.contents.total_l <= 0:
        return None
    share = t.contents.total.old_l / t.contents.total_l  # of an old strength that nobody read
    return Strength(t.contents.strength, share * t.policy["inside_sd_unread"])


def finished_questions(t: Tally) -> list[ReadingQuestion]:
    """Readings of the finished loop that can prove it: with an instrument, after a hot run."""
    return [question_of(t.glycol, facts) for _, facts in finished_readings(t)]


def finished_readings(t: Tally) -> list[tuple[str, Read]]:
    """The same with their entries."""
    return [
        (entry_id, facts)
        for entry_id, facts in t.readings
        if facts.place is Place.FINISHED and counted(facts) and facts.after_hot_run
    ]


def limit_of(t: Tally) -> float | None:
    """Old coolant that the finished loop may hold [%]; None where no limit applies or nothing is chosen."""
    return old_limit_percent(t.planned.product, t.found, t.policy) if t.planned else None


def cleaner_limit(t: Tally) -> float | None:
    """Cleaner that may stay [% of its working strength]; None where none went in."""
    row = t.flush.last_cleaner
    if row is None or not isinstance(row.facts, RoundFilled) or row.facts.agent is None:
        return None
    label = row.facts.agent.rinse_below_percent
    return t.policy["cleaner_rinse_percent"] if label is None else label


def cleaner_percent(t: Tally) -> float:
    """Cleaner that the finished full loop would hold [% of its working strength]."""
    return 100 * t.contents.total.cleaner_l / t.loop.capacity_l


def enough_of(t: Tally) -> Enough:
    """The stop rule, asked now."""
    rounds = t.flush.rounds
    sampled = rounds[-1].sampled if rounds else None
    if sampled is None and rounds and rounds[-1].facts is None:  # the jar of what was found
        sampled = next(((row.entry_id, row.sampled) for row in reversed(t.seen) if row.sampled), None)
    percent = t.finished_old_percent
    return judge_enough(
        Flushed(
            looks=sampled[1].looks if sampled else None,
            sediment_mm=sampled[1].sediment_mm if sampled else None,
            old_percent=percent,
            old_sd_percent=percent * t.flush.doubt,
            old_limit_percent=limit_of(t),
            cleaner_percent=cleaner_percent(t),
            cleaner_limit_percent=cleaner_limit(t),
            solids_mg_l=t.contents.total.solids_mg / t.loop.capacity_l,
            circulated=not rounds or went_through(rounds[-1], t.contents, t.loop.equipment),
        ),
        t.policy,
    )


def cooled(t: Tally, with_points: bool = True) -> CooldownAnswer:
    """When it is hand-warm, from the last run or the first temperature, by Newton's law; raises CoreError.

    Minutes count from there. An estimate for planning, never a proof.
    """
    policy = t.policy
    start, from_c = (t.stopped[1], policy["hot_c"]) if t.stopped else t.warm[0]
    points = [CoolPoint((at - start).total_seconds() / 60, c) for at, c in t.warm if at > start] if with_points else []
    bay_c = policy["bay_c"]
    return cooldown(
        CooldownQuestion(
            from_c,
            bay_c,
            max(bay_c + 1.0, policy["gate_probe_c"]),
            t.loop.capacity_l,
            tuple(points),
            sum(t.cooled_min) / len(t.cooled_min) if t.cooled_min else None,
        ),
        policy,
    )
