"""What the jobs API takes and gives."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import Field

from catalogue.schemas import AgentOut, ProductOut, WaterOut
from config.shapes import Answer, Body, Number
from depots.schemas import NightOut
from fleet.schemas import MachineListed, MachineOut
from jobs.back_schemas import ComingBack
from jobs.record_schemas import EntryOut
from people.shown import PersonOut
from temper_core.basis.message import Message
from temper_core.job.between.season import Season
from temper_core.job.flush.ahead import RoundAhead
from temper_core.job.flush.facts import Method
from temper_core.job.flush.methods import FlushMethodPlan
from temper_core.job.inspect.facts import CheckRow, LookRow, Spot
from temper_core.job.job_types import JobType, Stage
from temper_core.job.loop import CapacitySource
from temper_core.job.loop_state import LoopState, Override
from temper_core.job.mix.cost import ChangeCost
from temper_core.job.parking.facts import Parking
from temper_core.job.waiting.state import Wait
from temper_core.machine.bleeding import BleedRecipe
from temper_core.machine.circuit import Layout
from temper_core.machine.drain_points import DrainPlan
from temper_core.products.additive import AdditiveDose
from temper_core.products.agents import Dose, Runs
from temper_core.products.compatibility import Judged
from temper_core.products.conductivity import ConductivityLimit
from temper_core.views.board.bands import Band
from temper_core.views.board.row import BoardRow
from temper_core.views.cautions import CautionPlace
from temper_core.views.frost_scale import FrostScale
from temper_core.views.history import History
from temper_core.views.loop_line import LoopLine
from temper_core.views.supplies import Supply


class LoopJobType(Body):
    """One loop of the job, and what it is for."""

    loop_id: int
    job_type: JobType


class JobIn(Body):
    """Open a job on one or more loops of a machine. id is the client's; opened_at: when, null: now."""

    id: UUID
    machine_id: int
    loops: Annotated[list[LoopJobType], Field(min_length=1, max_length=12)]
    opened_at: datetime | None = None


class JobMove(Body):
    """The machine that a job belongs on, by its number."""

    machine_id: int


class LoopOut(Answer):
    """A loop, as shown; capacity in litres up to the cold mark. uuid: what it is known by outside this database.

    usual_layout: its layout is a generic one, nobody entered anything of it.
    """

    id: int
    uuid: UUID | None = None
    name: str
    position: int
    loops_on_machine: int
    capacity_l: float
    capacity_source: CapacitySource
    layout: Layout
    high_voltage: bool
    low_conductivity: bool
    cap_gauge_kpa: float | None
    room_l: float | None
    usual_layout: bool = False


class Choice(Answer):
    """A product with its verdict for this loop, and what the change costs (None where it may not go in)."""

    product: ProductOut
    judged: Judged
    cost: ChangeCost | None
    supplies: list[Supply]


class DraftOut(Answer):
    """Typed, not recorded."""

    stage: str
    data: dict[str, Any]
    updated_at: datetime


class PhotoOut(Answer):
    """A photo of an entry; its file is at /api/photos/{sha256}."""

    entry_id: UUID
    sha256: str


class CleanerChoice(Answer):
    """A cleaner with its dose for this loop, its run times and its limit."""

    agent: AgentOut
    dose: Dose
    runs: Runs


class FlushBench(Answer):
    """What a flush is planned with: the methods side by side, rounds ahead of the usual one, cleaners with their dose,
    waters with their verdict."""

    sweeps: list[Method]
    methods: list[FlushMethodPlan]
    ahead: list[RoundAhead]
    cleaners: list[CleanerChoice]
    waters: list[WaterOut]


class AdditiveChoice(Answer):
    """An additive with what to pour of it by the strips; dose null and the reason where nothing."""

    agent: AgentOut
    dose: AdditiveDose | None
    refused: str


class Bench(Answer):
    """Everything one loop's page needs.

    by: whose hands it is in; recent: this job's last standing entries, newest first. drain: where it is drained. flushing:
    None where the job has no flush or it is over. dosing: the additives where the job doses.
    in_doubt: entries of readings whose zero turned out to be off.
    level_opens: the level of this loop is only seen with its cap off. conductivity_limit: None where none is known.
    taught: what its jobs say of each stage, as a lead took it over. isolators: who may isolate high voltage today.
    """

    machine: MachineOut
    loop: LoopOut
    state: LoopState
    choices: list[Choice]
    drafts: list[DraftOut]
    by: PersonOut | None
    isolators: list[PersonOut]
    wait: Wait
    drain: DrainPlan
    flushing: FlushBench | None
    dosing: list[AdditiveChoice]
    recent: list[EntryOut]
    photos: list[PhotoOut]
    in_doubt: list[UUID]
    recipes: list[BleedRecipe]
    level: Message
    cautions: dict[CautionPlace, list[Message]]
    stated_in: str
    wants_conductivity: bool
    conductivity_limit: ConductivityLimit | None
    level_opens: bool
    taught: dict[Stage, list[Message]]
    frost_scales: list[FrostScale]
    coldest_c: float
    altitude_m: float
    currency: str
    policy: dict[str, float]
    server_time: datetime


class Strip(Answer):
    """One loop on the board: in work, or at rest where it can freeze tonight.

    parking: where its machine is. frost_low_c: the night's low there [degC] where what is inside can freeze, else null.
    by: whose hands it is in, null at rest.
    """

    machine: MachineOut
    loop_id: int
    loop_name: str
    loop_position: int
    loops_on_machine: int
    capacity_l: float
    row: BoardRow
    wait: Wait
    band: Band
    parking: Parking
    frost_low_c: float | None
    by: PersonOut | None


class LoopRow(Answer):
    """One loop in the list of machines; line null: its record cannot be calculated."""

    machine: MachineListed
    loop_id: int
    loop_name: str
    capacity_l: float
    capacity_source: CapacitySource
    signed_at: datetime | None
    line: LoopLine | None


class Loops(Answer):
    """Every loop of the depot."""

    loops: list[LoopRow]


class Finished(Answer):
    """A loop that was signed off lately."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    signed_at: datetime
    proof: str
    freeze_c: float | None
    target_c: float | None


class OverrideOut(Answer):
    """A decision against the advice that no lead has seen yet."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    override: Override


class FrostNote(Answer):
    """The season, and how many loops frost asks something of; loud: frost is here and they are not protected."""

    season: Season
    starts_on: date
    machines: int
    loud: int


class Broken(Answer):
    """A loop whose record cannot be calculated, and what to do."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    message: str


class RejudgedOut(Answer):
    """A signed job that today's rules judge worse: what, and what to do next."""

    id: int
    machine: MachineOut
    loop_id: int
    loop_name: str
    signed_at: datetime
    code: str
    said: Message
    act: Message


class RejudgedIn(Body):
    """What is done about it, by a lead."""

    answer: Annotated[str, Field(min_length=1, max_length=300)]


class Board(Answer):
    """What needs hands, sorted by band; overrides that wait for a lead (empty for others); what was finished lately.

    coming: level checks and services due, overdue first. broken: loops that cannot be calculated. rejudged: signed jobs
    that today's rules judge worse and that no lead has answered (empty for others).
    """

    strips: list[Strip]
    overrides: list[OverrideOut]
    finished: list[Finished]
    coming: list[ComingBack]
    frost: FrostNote
    broken: list[Broken]
    rejudged: list[RejudgedOut]
    night: NightOut
    server_time: datetime


class SignedResult(Answer):
    """A signed-off job of this loop, as it was stored; proof: the verdict that was signed."""

    job_id: UUID
    signed_at: datetime
    signed_by: PersonOut
    core_version: str
    proof: str
    state: LoopState


class Ledger(Answer):
    """All entries of one loop, newest first, and its signed-off jobs.

    state None: the record cannot be calculated, broken says what to do.
    """

    machine: MachineOut
    loop: LoopOut
    state: LoopState | None
    broken: str
    entries: list[EntryOut]
    signed: list[SignedResult]


class Preview(Answer):
    """The state as it would be with these entries; nothing is stored."""

    state: LoopState


class CapacityIn(Body):
    """The capacity as it was offered [l]."""

    capacity_l: Number


class DraftIn(Body):
    """What is typed on one stage, as the screen keeps it, and the last entry the screen had seen."""

    data: dict[str, Any]
    seen: UUID | None = None


class JobOpenedOut(Answer):
    """The job, and the loop to go to first."""

    id: UUID
    loop_ids: list[int]


class SpotRow(Answer):
    """A place to look at a sample."""

    spot: Spot
    name: str


class InspectionWords(Answer):
    """The guided inspection: places, words for a sample, checks with their answers."""

    spots: list[SpotRow]
    looks: list[LookRow]
    checks: list[CheckRow]


class LoopHistory(Answer):
    """A loop's life on one line, and how it stands today."""

    machine: MachineOut
    loop: LoopOut
    state: LoopState
    history: History
    coldest_c: float
    photos: list[PhotoOut]
