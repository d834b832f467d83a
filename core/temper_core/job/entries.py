"""The facts of a loop's ledger, one dataclass per kind. Entries are only ever added; a mistake is voided by a later one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import say
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.job.fill.facts import (
    Amended,
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    Corrected,
    FillMethod,
    FinishChecked,
    LevelSeen,
    LookedUnder,
    VacuumPulled,
)
from temper_core.job.flush.facts import Caught, FlushEnded, RoundFilled, Swept, WasteKept
from temper_core.job.inspect.facts import Check, Sampled, Tested
from temper_core.job.open.facts import EngineRun, GateObserved, ReadyConfirmed
from temper_core.job.readings import Listed, Read
from temper_core.job.waiting.facts import ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged
from temper_core.products.chemistry import Base, Family, Fluid, Product

MOST_CAUGHT = 20


class Route(StrEnum):
    """What a loop's job is for; decides its stages."""

    CHECK = "check"
    TOP_UP = "top_up"
    CORRECT = "correct"
    RENEW = "renew"
    CHANGE_OUT = "change_out"
    CLEAN = "clean"


ROUTE_NAMES = {
    Route.CHECK: "check only",
    Route.TOP_UP: "top up",
    Route.CORRECT: "correct",
    Route.RENEW: "renew",
    Route.CHANGE_OUT: "change out",
    Route.CLEAN: "clean",
}


class Measured(StrEnum):
    """How litres were found."""

    WEIGHED = "weighed"
    MARKS = "marks"
    GUESSED = "guessed"


class Water(StrEnum):
    """Mixing water."""

    DEMINERALISED = "demineralised"
    TAP = "tap"


@dataclass(frozen=True, slots=True)
class JobOpened:
    """A loop comes in. found: what is believed to be inside; None takes over what the ledger says."""

    route: Route
    found: Fluid | None = None


class ToppedUp(StrEnum):
    """Who topped it up, with what, as far as anybody can tell."""

    NOTHING = "nothing"
    SAME = "same"
    WATER = "water"
    OTHER = "other"
    UNKNOWN = "unknown"


@dataclass(frozen=True, slots=True)
class Told:
    """What the person is told of the filling: its chemistry, its last change, what was topped up. None: nobody knows.

    changed_km, changed_hours: the meters at the last change, from which distance and hours count.
    """

    base: Base | None = None
    family: Family | None = None
    topped_up: ToppedUp = ToppedUp.UNKNOWN
    changed_on: date | None = None
    changed_km: float | None = None
    changed_hours: float | None = None

    def __post_init__(self) -> None:
        if self.changed_km is not None:
            check_between("changed_km", self.changed_km, 0, 5_000_000, "km", "As the meter stood at the last change.")
        if self.changed_hours is not None:
            check_between("changed_hours", self.changed_hours, 0, 200_000, "h", "As the meter stood at the last change.")

    @property
    def mixed(self) -> bool:
        """Another coolant went on top of it, or nobody knows what did."""
        return self.topped_up is ToppedUp.OTHER


@dataclass(frozen=True, slots=True)
class Metered:
    """Distance and hours as the machine shows them; replaced: a new meter, so that it may stand lower than before."""

    distance_km: float | None = None
    hours: float | None = None
    replaced: bool = False

    def __post_init__(self) -> None:
        if self.distance_km is None and self.hours is None:
            raise CoreError("distance_km", "Give the distance, the hours, or both.", "required")
        if self.distance_km is not None:
            check_between("distance_km", self.distance_km, 0, 5_000_000, "km", "As the machine shows it.")
        if self.hours is not None:
            check_between("hours", self.hours, 0, 200_000, "h", "As the machine shows them.")


@dataclass(frozen=True, slots=True)
class Skipped:
    """Checks that were asked for and not made, and why."""

    checks: tuple[Check, ...]
    reason: str

    def __post_init__(self) -> None:
        if not self.reason.strip():
            raise CoreError("reason", "Say why it is left out: whoever reads this next will ask.", "required")


@dataclass(frozen=True, slots=True)
class Routed:
    """The person's decision after the test. advised: what Temper advised; against it, a reason is asked."""

    route: Route
    advised: Route
    reason: str = ""

    def __post_init__(self) -> None:
        if self.route is not self.advised and not self.reason.strip():
            raise CoreError("reason", "Against the advice: say why, a lead will read it.", "required")

    @property
    def overrides(self) -> bool:
        """Decided against the advice."""
        return self.route is not self.advised


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
class Planned:
    """The chosen product; later the accepted mix: target, and the litres the plan asked for.

    dilute: a ready-mix is thinned with water by somebody's choice. reason: why a product for emergencies only goes in.
    """

    product: Product
    coldest_c: float
    margin_k: float
    target_freeze_c: float | None = None
    concentrate_l: float | None = None
    water_l: float | None = None
    dilute: bool = False
    reason: str = ""

    def __post_init__(self) -> None:
        check_between("coldest_c", self.coldest_c, -60, 40, "°C", "The coldest temperature the machine will stand in.")
        check_between("margin_k", self.margin_k, 0, 30, "K")
        for name in ("concentrate_l", "water_l"):
            value = getattr(self, name)
            if value is not None:
                check_between(name, value, 0, LARGEST_LOOP_L, "L")


@dataclass(frozen=True, slots=True)
class Drained:
    """Litres out (at 20 degC), told in all or per vessel; or the containers they were caught in, as weighed or marked.

    measured: how told litres were found. corrected_l: what the containers really held in all, as somebody corrected it.
    Closes the round that is open, if one is. ran_with_cap_on: it ran freely with the cap left on, which asks for a leak.
    """

    drained_l: float | None = None
    measured: Measured | None = None
    by_vessel: Mapping[str, float] = field(default_factory=dict)
    caught: tuple[Caught, ...] = ()
    ran_with_cap_on: bool = False
    corrected_l: float | None = None

    def __post_init__(self) -> None:
        if (self.drained_l is None) != bool(self.caught):
            raise CoreError(
                "drained_l", "Give the litres, or the containers they were caught in: one of the two.", "required"
            )
        if len(self.caught) > MOST_CAUGHT:
            raise CoreError("caught", f"{len(self.caught)} containers: at most {MOST_CAUGHT} at once.", "out_of_range")
        if self.corrected_l is not None:
            if self.drained_l is not None:
                raise CoreError("corrected_l", "Litres told in all need no second figure: correct drained_l.", "not_both")
            check_between("corrected_l", self.corrected_l, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        if self.drained_l is not None and self.measured is None:
            raise CoreError("measured", "How were the litres found: weighed, by marks, or guessed?", "required")
        if self.drained_l is None:
            if self.by_vessel:
                raise CoreError("by_vessel", "Each container says where it was caught: leave this out.", "not_both")
            return
        check_between("drained_l", self.drained_l, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        for vessel, litres in self.by_vessel.items():
            check_between(f"by_vessel.{vessel}", litres, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        if self.by_vessel and abs(sum(self.by_vessel.values()) - self.drained_l) > 0.01:
            total = sum(self.by_vessel.values())
            words = "The vessels add up to {total_l:2}, not {drained_l:2}."
            raise CoreError("drained_l", say("sum_does_not_close", words, total_l=total, drained_l=self.drained_l))


@dataclass(frozen=True, slots=True)
class Poured:
    """What really went in: litres of product and of water. product None: water only.

    at_mark: the level now stands at the cold mark, so this pour ended the filling. method: how it went in; point: the
    number of the fill point, where there are several. bleeding: topped up while the air came out. mistake: water went into
    a loop that takes none, said as what it is.
    """

    product: Product | None
    product_l: float
    water_l: float
    water: Water | None = None
    at_mark: bool = False
    method: FillMethod = FillMethod.GRAVITY
    point: int | None = None
    bleeding: bool = False
    mistake: bool = False

    def __post_init__(self) -> None:
        todo = "Litres in cannot be negative."
        check_between("product_l", self.product_l, 0, LARGEST_LOOP_L, "L", todo)
        check_between("water_l", self.water_l, 0, LARGEST_LOOP_L, "L", todo)
        if self.product is None and self.product_l > 0:
            said = say("required", "{product_l} of which product? Choose it.", product_l=self.product_l)
            raise CoreError("product", said)
        if self.water_l > 0 and self.water is None:
            raise CoreError("water", "Which water went in: demineralised or tap?", "required")
        if self.product_l + self.water_l <= 0:
            raise CoreError("product_l", "Nothing in all: a pour needs product, water, or both.", "nothing_poured")


@dataclass(frozen=True, slots=True)
class SignedOff:
    """The person's name stands for the result. reason is asked when it is not proven.

    service_mode_ended: what was isolated for the job works again, service mode is left.
    """

    proof: str
    reason: str = ""
    service_mode_ended: bool = False

    def __post_init__(self) -> None:
        if self.proof not in ("proven", "glycol_free", "checked") and not self.reason.strip():
            raise CoreError("reason", f"The strength is not proven ({self.proof}): say why it leaves so.", "required")


@dataclass(frozen=True, slots=True)
class Voided:
    """Takes an earlier entry back; it stays in the ledger, struck."""

    entry_id: str
    reason: str = ""


Facts = (
    JobOpened
    | Told
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
    | Swept
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
    "told": Told,
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
    "swept": Swept,
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
