"""What the jobs API takes and gives."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from catalogue.queries import ProductOut
from config.boundary import Answer, Body, Litres, Number
from fleet.shapes import MachineOut
from people.api import PersonOut
from temper_core.circuit import Layout
from temper_core.entries import Measured, Place, Route, Water
from temper_core.judge.chemistry import Judged
from temper_core.state import CapacitySource, LoopState


class LoopRoute(Body):
    """One loop of the job, and what it is for."""

    loop_id: int
    route: Route


class JobIn(Body):
    """Open a job on one or more loops of a machine. id is the client's."""

    id: UUID
    machine_id: int
    loops: Annotated[list[LoopRoute], Field(min_length=1, max_length=12)]


class _EntryIn(Body):
    """What every entry has: the client's id, and when it happened (now if left out)."""

    id: UUID
    happened_at: datetime | None = None


class PlannedFacts(Body):
    """The chosen product; with target and litres, the accepted mix."""

    product_id: int
    coldest_c: Number
    margin_k: Number
    target_freeze_c: Number | None = None
    concentrate_l: Litres | None = None
    water_l: Litres | None = None


class DrainedFacts(Body):
    """Litres out."""

    drained_l: Litres
    measured: Measured
    by_vessel: dict[str, Litres] = {}
    rinses: int = 0


class PouredFacts(Body):
    """What really went in."""

    product_id: int | None
    product_l: Litres
    water_l: Litres
    water: Water = Water.DEMINERALISED
    at_mark: bool = False


class ReadFacts(Body):
    """A reading; instrument_id null for a freeze temperature that was told. zero null: the instrument's last one."""

    value: Number
    place: Place
    instrument_id: int | None = None
    zero: Number | None = None
    sample_c: Number = 20.0
    after_hot_run: bool = False


class SignedOffFacts(Body):
    """The verdict as seen, and the reason when it is not proven."""

    proof: str = Field(max_length=20)
    reason: str = Field(default="", max_length=500)


class VoidedFacts(Body):
    """The entry taken back."""

    entry_id: UUID
    reason: str = Field(default="", max_length=500)


class PlannedIn(_EntryIn):
    """planned"""

    kind: Literal["planned"]
    facts: PlannedFacts


class DrainedIn(_EntryIn):
    """drained"""

    kind: Literal["drained"]
    facts: DrainedFacts


class PouredIn(_EntryIn):
    """poured"""

    kind: Literal["poured"]
    facts: PouredFacts


class ReadIn(_EntryIn):
    """read"""

    kind: Literal["read"]
    facts: ReadFacts


class SignedOffIn(_EntryIn):
    """signed off"""

    kind: Literal["signed_off"]
    facts: SignedOffFacts


class VoidedIn(_EntryIn):
    """voided"""

    kind: Literal["voided"]
    facts: VoidedFacts


AnyEntry = Annotated[
    PlannedIn | DrainedIn | PouredIn | ReadIn | SignedOffIn | VoidedIn,
    Field(discriminator="kind"),
]


class EntriesIn(Body):
    """Entries that are recorded together or not at all. seen: the last entry the screen had seen."""

    entries: Annotated[list[AnyEntry], Field(min_length=1, max_length=12)]
    seen: UUID | None = None


class LoopOut(Answer):
    """A loop, as shown; capacity in litres up to the cold mark."""

    id: int
    name: str
    position: int
    loops_on_machine: int
    capacity_l: float
    capacity_source: CapacitySource
    layout: Layout
    high_voltage: bool
    cap_gauge_kpa: float | None
    room_l: float | None


class Choice(Answer):
    """A product with its verdict for this loop."""

    product: ProductOut
    judged: Judged


class DraftOut(Answer):
    """Typed, not recorded."""

    stage: str
    data: dict[str, Any]
    updated_at: datetime


class EntryOut(Answer):
    """One line of the ledger."""

    id: UUID
    kind: str
    facts: dict[str, Any]
    happened_at: datetime
    recorded_at: datetime
    person: PersonOut
    job_id: UUID | None
    voided: bool


class ScaleMark(Answer):
    """A mark of the frost rule: strength in % by mass, first ice in degC, and by the warmer handbook where there is one."""

    glycol_mass_percent: float
    freeze_c: float
    warmer_c: float | None


class FrostScale(Answer):
    """What the frost rule is drawn from: the leg down to the coldest tabulated, and the leg that turns back."""

    glycol: str
    coldest_c: float
    lean: list[ScaleMark]
    rich: list[ScaleMark]


class Bench(Answer):
    """Everything one loop's page needs. by: who opened the job; recent: this job's last standing entries, newest first."""

    machine: MachineOut
    loop: LoopOut
    state: LoopState
    choices: list[Choice]
    drafts: list[DraftOut]
    by: PersonOut | None
    recent: list[EntryOut]
    frost_scales: list[FrostScale]
    coldest_c: float
    altitude_m: float
    currency: str
    policy: dict[str, float]
    server_time: datetime


class Strip(Answer):
    """One loop in work on the board."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    loop_position: int
    loops_on_machine: int
    capacity_l: float
    state: LoopState
    by: PersonOut


class Finished(Answer):
    """A loop that was signed off lately."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    signed_at: datetime
    proof: str
    freeze_c: float | None
    target_c: float | None


class Board(Answer):
    """What needs hands, sorted; and what was finished in the last days."""

    strips: list[Strip]
    finished: list[Finished]
    server_time: datetime


class SignedResult(Answer):
    """A signed-off job of this loop, as it was stored."""

    job_id: UUID
    signed_at: datetime
    signed_by: PersonOut
    core_version: str
    state: LoopState


class Ledger(Answer):
    """All entries of one loop, newest first, and its signed-off jobs."""

    machine: MachineOut
    loop: LoopOut
    state: LoopState
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
