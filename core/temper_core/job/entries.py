"""The facts of a loop's ledger, one dataclass per kind. Entries are only ever added; a mistake is voided by a later one."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.drain.facts import Drained
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    Corrected,
    LookedUnder,
    Poured,
    VacuumPulled,
)
from temper_core.job.flush.facts import FlushEnded, RoundFilled, VesselRinsed, WasteKept
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.inspect.decision import Routed, Skipped
from temper_core.job.inspect.facts import Sampled, Tested
from temper_core.job.job_types import Route
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import EngineRun, GateObserved, ReadyConfirmed
from temper_core.job.readings import Listed, Read
from temper_core.job.verify.facts import FinishChecked, SignedOff
from temper_core.job.waiting.facts import ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged
from temper_core.products.chemistry import Fluid


@dataclass(frozen=True, slots=True)
class JobOpened:
    """A loop comes in. found: what is believed to be inside; None takes over what the ledger says."""

    route: Route
    found: Fluid | None = None


@dataclass(frozen=True, slots=True)
class Acknowledged:
    """A lead has seen an override."""

    entry_id: str


@dataclass(frozen=True, slots=True)
class PhotoAdded:
    """A picture that belongs to an earlier entry; the file is named by its hash."""

    entry_id: str
    sha256: str


@dataclass(frozen=True, slots=True)
class Voided:
    """Takes an earlier entry back; it stays in the ledger, struck."""

    entry_id: str
    reason: str = ""


Facts = (
    JobOpened
    | ReportedContents
    | Metered
    | Planned
    | Sampled
    | Tested
    | PhotoAdded
    | Skipped
    | Routed
    | Acknowledged
    | GateObserved
    | ReadyConfirmed
    | EngineRun
    | TemperatureLogged
    | ClockStarted
    | ClockStopped
    | Paused
    | Resumed
    | Drained
    | RoundFilled
    | VesselRinsed
    | FlushEnded
    | WasteKept
    | Closed
    | LookedUnder
    | VacuumPulled
    | Poured
    | BleedStarted
    | BleedStepped
    | BleedHeld
    | BleedGoesOn
    | BleedEnded
    | Read
    | Listed
    | Corrected
    | FinishChecked
    | SignedOff
    | LevelSeen
    | Amended
    | Voided
)
KINDS: dict[str, type[Facts]] = {
    "job_opened": JobOpened,
    "told": ReportedContents,
    "metered": Metered,
    "planned": Planned,
    "sampled": Sampled,
    "tested": Tested,
    "photo_added": PhotoAdded,
    "skipped": Skipped,
    "routed": Routed,
    "acknowledged": Acknowledged,
    "gate_observed": GateObserved,
    "ready_confirmed": ReadyConfirmed,
    "engine_run": EngineRun,
    "temperature_logged": TemperatureLogged,
    "clock_started": ClockStarted,
    "clock_stopped": ClockStopped,
    "paused": Paused,
    "resumed": Resumed,
    "drained": Drained,
    "round_filled": RoundFilled,
    "swept": VesselRinsed,
    "flush_ended": FlushEnded,
    "waste_kept": WasteKept,
    "closed": Closed,
    "looked_under": LookedUnder,
    "vacuum_pulled": VacuumPulled,
    "poured": Poured,
    "bleed_started": BleedStarted,
    "bleed_stepped": BleedStepped,
    "bleed_held": BleedHeld,
    "bleed_goes_on": BleedGoesOn,
    "bleed_ended": BleedEnded,
    "read": Read,
    "listed": Listed,
    "corrected": Corrected,
    "finish_checked": FinishChecked,
    "signed_off": SignedOff,
    "level_seen": LevelSeen,
    "amended": Amended,
    "voided": Voided,
}
KIND_OF: dict[type[Facts], str] = {facts: kind for kind, facts in KINDS.items()}


@dataclass(frozen=True, slots=True)
class Entry:
    """One fact about one loop, made by a person: the name to show, and the id, since two may share a name.

    seq: its number in the loop's ledger, as recorded; clocks may go back, it never does.
    """

    id: str
    job_id: str | None
    happened_at: datetime
    recorded_at: datetime
    person: str
    facts: Facts
    person_id: str = ""
    seq: int = 0

    @property
    def order(self) -> tuple[datetime, int, datetime, str]:
        """Order of the fold: when it happened, then as recorded."""
        return (self.happened_at, self.seq, self.recorded_at, self.id)
