"""Filling, bleeding, proving and coming back: the facts a person records."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import say
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.calculate.vacuum import Held
from temper_core.machine.bleeding import SIGNS_ASKED, BleedOutcome, BleedRecipe, FinishSign
from temper_core.products.chemistry import Product


class FillMethod(StrEnum):
    """How coolant goes in."""

    GRAVITY = "gravity"
    POINTS = "points"
    HOSE = "hose"
    VACUUM = "vacuum"


@dataclass(frozen=True, slots=True)
class Closed:
    """What the job had opened and is shut again, point by point, as one person felt it."""

    points: tuple[str, ...]

    def __post_init__(self) -> None:
        if not self.points:
            raise CoreError("points", "Which of them are shut? Confirm each by hand.", "required")


@dataclass(frozen=True, slots=True)
class LookedUnder:
    """Underneath, at half fill: dry, or where it drips."""

    dry: bool
    where: str = ""

    def __post_init__(self) -> None:
        if not self.dry and not self.where.strip():
            raise CoreError("where", "Where does it drip?", "required")


@dataclass(frozen=True, slots=True)
class VacuumPulled:
    """A vacuum on the empty loop: by the gauge, below ambient [kPa], how warm the loop is, how it held."""

    vacuum_kpa: float
    loop_c: float
    held: Held | None = None

    def __post_init__(self) -> None:
        check_between("vacuum_kpa", self.vacuum_kpa, 0, 105, "kPa", "Below ambient, as the gauge shows it; 25 inHg are 85.")
        check_between("loop_c", self.loop_c, -40, 60, "°C", "A cold loop only: warm fluid boils under vacuum.")


@dataclass(frozen=True, slots=True)
class BleedStarted:
    """A bleed runs from now by this recipe, kept as it was."""

    recipe: BleedRecipe


@dataclass(frozen=True, slots=True)
class BleedStepped:
    """A hand moves the bleed on to a step (from 0)."""

    step: int

    def __post_init__(self) -> None:
        check_between("step", self.step, 0, 23, "")


@dataclass(frozen=True, slots=True)
class BleedHeld:
    """The bleed is held: its clock stands."""


@dataclass(frozen=True, slots=True)
class BleedGoesOn:
    """The bleed goes on where it was held."""


@dataclass(frozen=True, slots=True)
class BleedEnded:
    """How it ended. finished asks for two signs; neck_open: it stood open from cold to the end (bled without the runner)."""

    outcome: BleedOutcome
    signs: tuple[FinishSign, ...] = ()
    neck_open: bool = False
    note: str = ""

    def __post_init__(self) -> None:
        if self.outcome is BleedOutcome.FINISHED and len(set(self.signs)) < SIGNS_ASKED:
            raise CoreError("signs", f"{len(set(self.signs))} of {SIGNS_ASKED} signs: it takes two.", "two_signs")


@dataclass(frozen=True, slots=True)
class Corrected:
    """A full, mixed loop: out_l taken out, product and water put back up to the cold mark."""

    out_l: float
    product: Product | None
    product_l: float
    water_l: float

    def __post_init__(self) -> None:
        check_between("out_l", self.out_l, 0.01, LARGEST_LOOP_L, "L", "Litres taken out.")
        check_between("product_l", self.product_l, 0, LARGEST_LOOP_L, "L", "Litres in cannot be negative.")
        check_between("water_l", self.water_l, 0, LARGEST_LOOP_L, "L", "Litres in cannot be negative.")
        if self.product is None and self.product_l > 0:
            said = say("required", "{product_l} of which product? Choose it.", product_l=self.product_l)
            raise CoreError("product", said)
        if self.product_l + self.water_l <= 0:
            raise CoreError("product_l", "Nothing went back in: say what did.", "nothing_poured")


class Level(StrEnum):
    """The level, read cold against its own rule."""

    AT_MARK = "at_mark"
    LOW = "low"
    OVER = "over"


class FinishPoint(StrEnum):
    """What is looked at before a name goes under it."""

    COVERS = "covers"
    SPILL = "spill"
    WASTE = "waste"
    LABEL = "label"


FINISH_NAMES = {
    FinishPoint.COVERS: "Covers and undertray on, heater back as found",
    FinishPoint.SPILL: "Spill cleaned, tray and floor dry",
    FinishPoint.WASTE: "Waste lidded and labelled",
    FinishPoint.LABEL: "Label on the machine",
}


class LeakMethod(StrEnum):
    """How the loop was proven tight."""

    PRESSURE = "pressure"
    VACUUM = "vacuum"


@dataclass(frozen=True, slots=True)
class LeakProof:
    """A hold by value: start [kPa against ambient], drop in so many minutes."""

    method: LeakMethod
    start_kpa: float
    drop_kpa: float
    minutes: float

    def __post_init__(self) -> None:
        check_between("start_kpa", self.start_kpa, 1, 250, "kPa", "What the gauge showed at the start.")
        check_between("drop_kpa", self.drop_kpa, 0, self.start_kpa, "kPa", "How far it fell; it cannot fall below zero.")
        check_between("minutes", self.minutes, 0.5, 240, "minutes", "How long it was watched.")


@dataclass(frozen=True, slots=True)
class FinishChecked:
    """The last look: level read cold (level_c: how warm), leak proof by value or why not, and the points that are done."""

    level: Level
    level_c: float
    leak: LeakProof | None = None
    no_leak_proof: str = ""
    done: tuple[FinishPoint, ...] = ()

    def __post_init__(self) -> None:
        check_between("level_c", self.level_c, -40, 130, "°C", "How warm it was when the level was read.")
        if self.leak is None and not self.no_leak_proof.strip():
            raise CoreError("no_leak_proof", "A hold by value, or why there is none.", "required")


@dataclass(frozen=True, slots=True)
class LevelSeen:
    """A look between services, or a recheck: the level, cold."""

    level: Level
    note: str = ""


@dataclass(frozen=True, slots=True)
class Amended:
    """A correction to a signed job: it stays as it was, and this stands beside it."""

    text: str
    entry_id: str = ""

    def __post_init__(self) -> None:
        if not self.text.strip():
            raise CoreError("text", "What is to be corrected?", "required")
        if len(self.text) > 500:
            raise CoreError("text", "Longer than 500 characters.", "too_long")
