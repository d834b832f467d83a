"""The entries that the jobs API takes: one shape per kind that a person records."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from config.boundary import Body, Litres, Number
from jobs.entry_base import EntryBase, Note
from jobs.fill_shapes import (
    AmendedIn,
    BleedEndedIn,
    BleedGoesOnIn,
    BleedHeldIn,
    BleedStartedIn,
    BleedSteppedIn,
    ClosedIn,
    CorrectedIn,
    FinishCheckedIn,
    LevelSeenIn,
    LookedUnderIn,
    VacuumPulledIn,
)
from jobs.flush_shapes import (
    CaughtIn,
    ClockStartedFacts,
    ClockStoppedFacts,
    FlushEndedFacts,
    PausedFacts,
    ResumedFacts,
    RoundFilledFacts,
    SweptFacts,
    TemperatureLoggedFacts,
    WasteKeptFacts,
)
from jobs.read_shapes import ReadIn
from temper_core.job.drain.facts import Measured
from temper_core.job.fill.facts import FillMethod, Water
from temper_core.job.identify.facts import ToppedUp
from temper_core.job.inspect.facts import Check, Look, Spot
from temper_core.job.job_types import Route
from temper_core.job.open.facts import Pressure, Ran, Ready, Warmth
from temper_core.products.chemistry import Base, Family


class PlannedFacts(Body):
    """The chosen product; with target and litres, the accepted mix."""

    product_id: int
    coldest_c: Number
    margin_k: Number
    target_freeze_c: Number | None = None
    concentrate_l: Litres | None = None
    water_l: Litres | None = None
    dilute: bool = False
    reason: Note = ""


class GateObservedFacts(Body):
    """Two signs and what stands ready, before a cap is touched."""

    warmth: Warmth
    pressure: Pressure
    held: bool | None = None
    temperature_c: Number | None = None
    soft: bool | None = None
    gauge_kpa: Number | None = None
    ready: Annotated[list[Ready], Field(max_length=6)] = []
    isolated_by: Annotated[str, Field(max_length=80)] = ""


class ReadyConfirmedFacts(Body):
    """What stands ready for a drain or a run."""

    ready: Annotated[list[Ready], Field(max_length=6)]


class EngineRunFacts(Body):
    """Engine or preheater ran."""

    by: Ran = Ran.ENGINE
    minutes: Number | None = None
    opened: bool | None = None
    heater_full: bool | None = None
    neck_open: bool = False


class DrainedFacts(Body):
    """Litres out as told, in all or per vessel, and how they were found; or the containers they were caught in."""

    drained_l: Litres | None = None
    measured: Measured | None = None
    by_vessel: dict[str, Litres] = {}
    caught: Annotated[list[CaughtIn], Field(max_length=20)] = []
    ran_with_cap_on: bool = False
    corrected_l: Litres | None = None


class PouredFacts(Body):
    """What really went in; water: which, where there is any. mistake: water in a loop that takes none."""

    product_id: int | None
    product_l: Litres
    water_l: Litres
    water: Water | None = None
    at_mark: bool = False
    method: FillMethod = FillMethod.GRAVITY
    point: int | None = None
    bleeding: bool = False
    mistake: bool = False


class ToldFacts(Body):
    """What is said of the filling; null: nobody knows."""

    base: Base | None = None
    family: Family | None = None
    topped_up: ToppedUp = ToppedUp.UNKNOWN
    changed_on: date | None = None
    changed_km: Number | None = None
    changed_hours: Number | None = None


class MeteredFacts(Body):
    """Distance and hours as the machine shows them."""

    distance_km: Number | None = None
    hours: Number | None = None
    replaced: bool = False


class SampledFacts(Body):
    """What the fluid looks like at one place."""

    spot: Spot
    looks: Annotated[list[Look], Field(max_length=14)] = []
    sediment_mm: Number | None = None
    note: Note = ""


class TestedFacts(Body):
    """One check with its answer in a word or in figures."""

    check: Check
    outcome: Annotated[str, Field(max_length=20)] | None = None
    figures: dict[str, Number] = {}
    note: Note = ""
    compensated: bool | None = None


class SkippedFacts(Body):
    """Checks that were asked for and not made."""

    checks: Annotated[list[Check], Field(max_length=14)]
    reason: Note


class RoutedFacts(Body):
    """The decision, the advice as it was seen, and the reason where they differ."""

    route: Route
    advised: Route
    reason: Note = ""


class AcknowledgedFacts(Body):
    """The override that a lead has seen."""

    entry_id: UUID


class SignedOffFacts(Body):
    """The verdict as seen, and the reason when it is not proven."""

    proof: str = Field(max_length=20)
    reason: str = Field(default="", max_length=500)
    service_mode_ended: bool = False


class VoidedFacts(Body):
    """The entry taken back."""

    entry_id: UUID
    reason: str = Field(default="", max_length=500)


class PlannedIn(EntryBase):
    """planned"""

    kind: Literal["planned"]
    facts: PlannedFacts


class ToldIn(EntryBase):
    """told"""

    kind: Literal["told"]
    facts: ToldFacts


class MeteredIn(EntryBase):
    """metered"""

    kind: Literal["metered"]
    facts: MeteredFacts


class SampledIn(EntryBase):
    """sampled"""

    kind: Literal["sampled"]
    facts: SampledFacts


class TestedIn(EntryBase):
    """tested"""

    kind: Literal["tested"]
    facts: TestedFacts


class SkippedIn(EntryBase):
    """skipped"""

    kind: Literal["skipped"]
    facts: SkippedFacts


class RoutedIn(EntryBase):
    """routed"""

    kind: Literal["routed"]
    facts: RoutedFacts


class AcknowledgedIn(EntryBase):
    """acknowledged"""

    kind: Literal["acknowledged"]
    facts: AcknowledgedFacts


class GateObservedIn(EntryBase):
    """gate observed"""

    kind: Literal["gate_observed"]
    facts: GateObservedFacts


class ReadyConfirmedIn(EntryBase):
    """ready confirmed"""

    kind: Literal["ready_confirmed"]
    facts: ReadyConfirmedFacts


class EngineRunIn(EntryBase):
    """engine run"""

    kind: Literal["engine_run"]
    facts: EngineRunFacts


class DrainedIn(EntryBase):
    """drained"""

    kind: Literal["drained"]
    facts: DrainedFacts


class TemperatureLoggedIn(EntryBase):
    """temperature logged"""

    kind: Literal["temperature_logged"]
    facts: TemperatureLoggedFacts


class ClockStartedIn(EntryBase):
    """clock started"""

    kind: Literal["clock_started"]
    facts: ClockStartedFacts


class ClockStoppedIn(EntryBase):
    """clock stopped"""

    kind: Literal["clock_stopped"]
    facts: ClockStoppedFacts


class PausedIn(EntryBase):
    """paused"""

    kind: Literal["paused"]
    facts: PausedFacts


class ResumedIn(EntryBase):
    """resumed"""

    kind: Literal["resumed"]
    facts: ResumedFacts


class RoundFilledIn(EntryBase):
    """round filled"""

    kind: Literal["round_filled"]
    facts: RoundFilledFacts


class SweptIn(EntryBase):
    """swept"""

    kind: Literal["swept"]
    facts: SweptFacts


class FlushEndedIn(EntryBase):
    """flush ended"""

    kind: Literal["flush_ended"]
    facts: FlushEndedFacts


class WasteKeptIn(EntryBase):
    """waste kept"""

    kind: Literal["waste_kept"]
    facts: WasteKeptFacts


class PouredIn(EntryBase):
    """poured"""

    kind: Literal["poured"]
    facts: PouredFacts


class SignedOffIn(EntryBase):
    """signed off"""

    kind: Literal["signed_off"]
    facts: SignedOffFacts


class VoidedIn(EntryBase):
    """voided"""

    kind: Literal["voided"]
    facts: VoidedFacts


AnyEntry = Annotated[
    ToldIn
    | MeteredIn
    | PlannedIn
    | SampledIn
    | TestedIn
    | SkippedIn
    | RoutedIn
    | AcknowledgedIn
    | GateObservedIn
    | ReadyConfirmedIn
    | EngineRunIn
    | TemperatureLoggedIn
    | ClockStartedIn
    | ClockStoppedIn
    | PausedIn
    | ResumedIn
    | DrainedIn
    | RoundFilledIn
    | SweptIn
    | FlushEndedIn
    | WasteKeptIn
    | ClosedIn
    | LookedUnderIn
    | VacuumPulledIn
    | PouredIn
    | BleedStartedIn
    | BleedSteppedIn
    | BleedHeldIn
    | BleedGoesOnIn
    | BleedEndedIn
    | ReadIn
    | CorrectedIn
    | FinishCheckedIn
    | SignedOffIn
    | LevelSeenIn
    | AmendedIn
    | VoidedIn,
    Field(discriminator="kind"),
]


class EntriesIn(Body):
    """Entries that are recorded together or not at all. seen: the last entry the screen had seen.

    between: without a job, between services: a level, a top-up, a reading, a correction to what was signed.
    """

    entries: Annotated[list[AnyEntry], Field(min_length=1, max_length=12)]
    seen: UUID | None = None
    between: bool = False
