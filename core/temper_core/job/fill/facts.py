"""Filling, bleeding, proving and coming back: the facts a person records."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import say
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.calculate.vacuum import Held
from temper_core.job.fact import Fact
from temper_core.machine.bleeding import SIGNS_ASKED, BleedOutcome, BleedRecipe, FinishSign
from temper_core.products.chemistry import Product
from temper_core.products.shelf import Taken, check_taken


class FillMethod(StrEnum):
    """How coolant goes in."""

    GRAVITY = "gravity"
    POINTS = "points"
    HOSE = "hose"
    VACUUM = "vacuum"


@dataclass(frozen=True, slots=True)
class Closed(Fact):
    """What the job had opened and is shut again, point by point, as one person felt it."""

    points: tuple[str, ...]

    def __post_init__(self) -> None:
        if not self.points:
            raise CoreError("points", "Which of them are shut? Confirm each by hand.", "required")


@dataclass(frozen=True, slots=True)
class LookedUnder(Fact):
    """Underneath, at half fill: dry, or where it drips."""

    dry: bool
    where: str = ""

    def __post_init__(self) -> None:
        if not self.dry and not self.where.strip():
            raise CoreError("where", "Where does it drip?", "required")


@dataclass(frozen=True, slots=True)
class VacuumPulled(Fact):
    """A vacuum on the empty loop: by the gauge, below ambient [kPa], how warm the loop is, how it held."""

    vacuum_kpa: float
    loop_c: float
    held: Held | None = None

    def __post_init__(self) -> None:
        check_between("vacuum_kpa", self.vacuum_kpa, 0, 105, "kPa", "Below ambient, as the gauge shows it; 25 inHg are 85.")
        check_between("loop_c", self.loop_c, -40, 60, "°C", "A cold loop only: warm fluid boils under vacuum.")


@dataclass(frozen=True, slots=True)
class BleedStarted(Fact):
    """A bleed runs from now by this recipe, kept as it was."""

    recipe: BleedRecipe


@dataclass(frozen=True, slots=True)
class BleedStepped(Fact):
    """A hand moves the bleed on to a step (from 0)."""

    step: int

    def __post_init__(self) -> None:
        check_between("step", self.step, 0, 23, "")


@dataclass(frozen=True, slots=True)
class BleedHeld(Fact):
    """The bleed is held: its clock stands."""


@dataclass(frozen=True, slots=True)
class BleedGoesOn(Fact):
    """The bleed goes on where it was held."""


@dataclass(frozen=True, slots=True)
class BleedEnded(Fact):
    """How it ended. finished asks for two signs; neck_open: open from cold to the end (bled without guided steps)."""

    outcome: BleedOutcome
    signs: tuple[FinishSign, ...] = ()
    neck_open: bool = False
    note: str = ""

    def __post_init__(self) -> None:
        if self.outcome is BleedOutcome.FINISHED and len(set(self.signs)) < SIGNS_ASKED:
            raise CoreError("signs", f"{len(set(self.signs))} of {SIGNS_ASKED} signs: it takes two.", "two_signs")


@dataclass(frozen=True, slots=True)
class StrengthAdjusted(Fact):
    """A full, mixed loop: out_l taken out, product and water put back up to the cold mark; taken: from which cans."""

    out_l: float
    product: Product | None
    product_l: float
    water_l: float
    taken: tuple[Taken, ...] = ()

    def __post_init__(self) -> None:
        check_taken(self.taken, self.product, self.product_l, self.water_l)
        check_between("out_l", self.out_l, 0.01, LARGEST_LOOP_L, "L", "Litres taken out.")
        check_between("product_l", self.product_l, 0, LARGEST_LOOP_L, "L", "Litres in cannot be negative.")
        check_between("water_l", self.water_l, 0, LARGEST_LOOP_L, "L", "Litres in cannot be negative.")
        if self.product is None and self.product_l > 0:
            said = say("required", "{product_l} without a product. Choose which coolant it was.", product_l=self.product_l)
            raise CoreError("product", said)
        if self.product_l + self.water_l <= 0:
            raise CoreError("product_l", "No litres were poured back. Enter what went in.", "nothing_poured")


class Water(StrEnum):
    """Mixing water."""

    DEMINERALISED = "demineralised"
    TAP = "tap"


@dataclass(frozen=True, slots=True)
class Poured(Fact):
    """What really went in: litres of product and of water. product None: water only.

    at_mark: the level is now at the cold mark, so this pour ended the filling. method: how it went in; point: the
    number of the fill point, where there are several. bleeding: topped up while the air came out. mistake: water went into
    a loop that takes none, said as what it is. taken: out of which containers, as far as somebody said. source:
    the water of the depot that it was, solids_mg_l: what a litre of it leaves behind; None: as its kind usually does.
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
    taken: tuple[Taken, ...] = ()
    solids_mg_l: float | None = None
    source: str = ""

    def __post_init__(self) -> None:
        todo = "Litres in cannot be negative."
        check_between("product_l", self.product_l, 0, LARGEST_LOOP_L, "L", todo)
        check_between("water_l", self.water_l, 0, LARGEST_LOOP_L, "L", todo)
        if self.product is None and self.product_l > 0:
            said = say("required", "{product_l} without a product. Choose which coolant it was.", product_l=self.product_l)
            raise CoreError("product", said)
        if self.solids_mg_l is not None:
            check_between("solids_mg_l", self.solids_mg_l, 0, 50_000, "mg/l", "As on the water's analysis.")
        if self.water_l > 0 and self.water is None:
            raise CoreError("water", "The water is missing. Choose demineralised or tap.", "required")
        if self.product_l + self.water_l <= 0:
            raise CoreError("product_l", "No litres entered. A pour needs product, water, or both.", "nothing_poured")
        check_taken(self.taken, self.product, self.product_l, self.water_l)
