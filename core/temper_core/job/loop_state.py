"""The shapes of a loop and of what is known of it at one moment. `loop.fold` makes the second from the first."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from temper_core.basis.message import Message
from temper_core.basis.uncertainty import Interval, half_width
from temper_core.calculate.mix import Inside, LearnedCapacity, Spread
from temper_core.instruments import Edge, ReadingAnswer, Repeats, Scale, StepReading
from temper_core.instruments.sameness import Sameness
from temper_core.job.between.state import AfterState
from temper_core.job.dose.state import DoseState, InhibitorState
from temper_core.job.doubt.state import HowSure
from temper_core.job.fill.state import FillState, PourState
from temper_core.job.flush.state import FlushState
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.inside.verdict import ProofVerdict
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Check, Sampled, Spot, Tested
from temper_core.job.inspect.state import Advice
from temper_core.job.job_types import JobType, Stage, Status
from temper_core.job.life.due import Due
from temper_core.job.open.state import Gate
from temper_core.job.parking.facts import Parking
from temper_core.job.verify.state import Cause, CorrectionState, FinishState
from temper_core.job.waiting.state import PauseState, TimerState
from temper_core.machine.circuit import NodeKind
from temper_core.products.chemistry import Base, Family, Fluid, Product


@dataclass(frozen=True, slots=True)
class VesselState:
    """One vessel now. Shares and strengths are None when it is empty, strength also when it is unknown.

    litres_sd: its part of the doubt of what is inside, by its litres; 0 while full. half: of the 95 % interval.
    """

    id: str
    name: str
    kind: NodeKind
    volume_l: float
    litres: float
    litres_sd: float
    old_percent: float | None
    old_sd_percent: float
    strength_percent: float | None
    freeze_c: float | None
    litres_half: float = field(init=False, default=0.0)
    old_half_percent: float = field(init=False, default=0.0)

    def __post_init__(self) -> None:
        object.__setattr__(self, "litres_half", half_width(self.litres_sd))
        object.__setattr__(self, "old_half_percent", half_width(self.old_sd_percent))


@dataclass(frozen=True, slots=True)
class InsideState:
    """The whole loop now, as if mixed. finished_old_percent: old coolant the full loop would hold.

    half_l: half the 95 % interval of the litres; likely_l: the interval itself, which an edge may cut off on one side.
    """

    litres: float
    sd_l: float
    old_percent: float | None
    finished_old_percent: float
    strength_percent: float | None
    freeze_c: float | None
    base: Base | None
    family: Family | None
    likely_l: Interval
    half_l: float = field(init=False, default=0.0)

    def __post_init__(self) -> None:
        object.__setattr__(self, "half_l", half_width(self.sd_l))


@dataclass(frozen=True, slots=True)
class Claim:
    """How far the loop protects now, and why that much is claimed. freeze_c None: not known."""

    why: str
    freeze_c: float | None
    safe_to_c: float | None
    vessel: str | None
    said: Message


@dataclass(frozen=True, slots=True)
class PlanState:
    """What was chosen, and the accepted mix once there is one."""

    product: Product
    coldest_c: float
    margin_k: float
    target_freeze_c: float | None
    concentrate_l: float | None
    water_l: float | None
    dilute: bool = False
    reason: str = ""


@dataclass(frozen=True, slots=True)
class ReadingState:
    """One reading in the record with its result; value and zero in the scale's unit, of a step tester its steps."""

    entry_id: str
    value: float
    zero: float | None
    sample_c: float
    instrument: str | None
    scale: Scale | None
    after_hot_run: bool
    edge: Edge
    steps: StepReading | None
    answer: ReadingAnswer


@dataclass(frozen=True, slots=True)
class Seen:
    """A sample or a check of this job, with its entry; exactly one of the two."""

    entry_id: str
    sampled: Sampled | None
    tested: Tested | None


@dataclass(frozen=True, slots=True)
class Inspection:
    """The test of this job: checks asked for, what was seen, what was skipped and why, and the person's decision.

    reported: what was said of the filling; metered: the meters as last recorded, in this job or before. opening,
    opening_spots: checks and places that open this loop, so that they stand behind the safe-to-open check.
    """

    asked: tuple[Check, ...]
    seen: tuple[Seen, ...]
    skipped: tuple[Skipped, ...]
    reported: ReportedContents | None
    metered: Metered | None
    job_type_chosen: JobTypeChosen | None
    opening: tuple[Check, ...] = ()
    opening_spots: tuple[Spot, ...] = ()


@dataclass(frozen=True, slots=True)
class Override:
    """A decision against the advice, or a product for emergencies. acknowledged: a lead has seen it; said: what, and why."""

    entry_id: str
    job_id: str | None
    at: datetime
    person: str
    job_type_chosen: JobTypeChosen | None
    acknowledged: bool
    said: Message | None = None


@dataclass(frozen=True, slots=True)
class StageState:
    """One stage of the line; result says what came of it, or what is asked."""

    stage: Stage
    status: Status
    result: Message | None


@dataclass(frozen=True, slots=True)
class NextAction:
    """The one thing hands do next, and what follows it."""

    stage: Stage
    act: Message
    then: Message


@dataclass(frozen=True, slots=True)
class LoopState:
    """Everything the screen shows of a loop; made by fold, never stored as truth.

    mix_capacity_l: litres that a plan counts with. mix_inside: what is inside as a mix of the planned product must count it
    in (a remainder of another base and old coolant of unknown strength count as water). frost_risk: opened up, and what is
    in it freezes before the coldest expected temperature. standing: the state in one sentence, for whoever takes it up.
    hands_id: who took it over last. how_sure: the doubt of the figures
    that the job stands on. sameness, outlier_id: whether the repeats agree, and the entry of the one that does not.
    ran_hot: it ran since the last pour, thermostat open, heater full hot. top_up_share: product in a top-up of the same mix,
    of its litres. after: once signed off, what is due on it.
    """

    loop_id: str
    last_entry_id: str | None
    job_id: str | None
    job_type: JobType | None
    opened_at: datetime | None
    signed_at: datetime | None
    changed_at: datetime | None
    stage: Stage | None
    stages: tuple[StageState, ...]
    vessels: tuple[VesselState, ...]
    found: Fluid
    inside: InsideState
    drained_l: float | None
    flush: FlushState | None
    fill: FillState | None
    standing: Message
    timers: tuple[TimerState, ...]
    paused: PauseState | None
    parked: Parking | None
    hands_id: str | None
    plan: PlanState | None
    suggested_target_c: float
    target_note: Message | None
    mix_inside: Inside
    mix_capacity_l: float
    spread: Spread
    poured: PourState
    readings: tuple[ReadingState, ...]
    repeats: Repeats | None
    sameness: Sameness | None
    outlier_id: str | None
    predicted_freeze_c: float | None
    predicted_likely_c: Interval | None
    predicted_safe_c: float | None
    proof: ProofVerdict | None
    how_sure: tuple[HowSure, ...]
    causes: tuple[Cause, ...]
    correction: CorrectionState | None
    finish: FinishState | None
    after: AfterState | None
    ran_hot: bool
    top_up_share: float | None
    learned: LearnedCapacity | None
    claim: Claim
    frost_risk: bool
    inspection: Inspection
    advice: Advice | None
    gate: Gate
    inhibitor: tuple[InhibitorState, ...]
    dose: DoseState | None
    due: Due | None
    isolated: bool
    overrides: tuple[Override, ...]
    flags: tuple[Message, ...]
    next_action: NextAction | None
