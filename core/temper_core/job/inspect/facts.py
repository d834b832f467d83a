"""The guided inspection: what a sample looks like, which checks there are, what each can answer and what that may mean.

The words are the trade's; common practice, no source. Findings are facts; `inspect.judge` makes a judgement of them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.job.fact import Fact
from temper_core.machine.equipment import Equipment, LevelRule, TankKind
from temper_core.products.chemistry import Material, Requirement


class Opens(StrEnum):
    """Whether looking or testing opens the loop: never, always, where the level is read below the lip, or where the bottle
    is under the loop's pressure."""

    NEVER = "never"
    ALWAYS = "always"
    LEVEL = "level"
    BOTTLE = "bottle"


OPEN_BOTTLES = frozenset({TankKind.OVERFLOW, TankKind.CATCH})  # not under pressure: may be looked into


def opens(what: Opens, equipment: Equipment) -> bool:
    """Whether this opens a loop so built; source: common practice, no source."""
    if what is Opens.LEVEL:
        return equipment.level_rule is LevelRule.BELOW_LIP or equipment.tank is TankKind.NONE
    if what is Opens.BOTTLE:
        return equipment.tank not in OPEN_BOTTLES
    return what is Opens.ALWAYS


class Spot(StrEnum):
    """Where a sample was looked at: one symptom from one place is a hint."""

    NECK = "neck"
    BOTTLE = "bottle"
    RADIATOR = "radiator"
    DRAIN = "drain"


SPOT_NAMES = {
    Spot.NECK: "At the neck",
    Spot.BOTTLE: "Bottom of the bottle",
    Spot.RADIATOR: "In the radiator",
    Spot.DRAIN: "At the drain",
}
SPOT_OPENS = {Spot.NECK: Opens.ALWAYS, Spot.BOTTLE: Opens.BOTTLE, Spot.RADIATOR: Opens.ALWAYS, Spot.DRAIN: Opens.ALWAYS}


class Sign(StrEnum):
    """What a finding speaks for."""

    SOUND = "sound"
    TIRED = "tired"
    MIXED = "mixed"
    DIRT = "dirt"
    CAUSE = "cause"  # find the cause first
    PART = "part"  # a part to replace; says nothing of the coolant
    LOW = "low"


class Look(StrEnum):
    """What the sample looks like."""

    CRYSTAL_CLEAR = "crystal_clear"
    CLEAN_BRIGHT = "clean_bright"
    RESIDUAL_TINT = "residual_tint"
    FADED = "faded"
    SLIGHT_HAZE = "slight_haze"
    CLOUDY = "cloudy"
    BROWN_SWIRL = "brown_swirl"
    ORANGE_RUST = "orange_rust"
    FINE_SAND = "fine_sand"
    PARTICLES = "particles"
    CLAY = "clay"
    GEL = "gel"
    OILY_FILM = "oily_film"
    FROTH = "froth"


@dataclass(frozen=True, slots=True)
class LookRow:
    """One word of the inspection: what it is called, what it speaks for, and what it may mean."""

    look: Look
    name: str
    sign: Sign
    says: str


LOOKS: tuple[LookRow, ...] = (
    LookRow(Look.CLEAN_BRIGHT, "Clean bright", Sign.SOUND, "as it should be"),
    LookRow(Look.CRYSTAL_CLEAR, "Crystal clear", Sign.SOUND, "clear is not clean: it may still contain glycol or cleaner"),
    LookRow(Look.RESIDUAL_TINT, "Slight tint", Sign.SOUND, "a little old coolant is left"),
    LookRow(Look.FADED, "Faded", Sign.TIRED, "tired"),
    LookRow(Look.SLIGHT_HAZE, "Slight haze", Sign.MIXED, "two types, or inhibitor dropping out"),
    LookRow(Look.CLOUDY, "Cloudy", Sign.MIXED, "two types, or inhibitor dropping out"),
    LookRow(Look.GEL, "Gel", Sign.MIXED, "two types that do not mix"),
    LookRow(Look.BROWN_SWIRL, "Brown swirl when stirred", Sign.DIRT, "rust or scale on the bottom"),
    LookRow(Look.ORANGE_RUST, "Orange rust", Sign.DIRT, "rust; not a dye"),
    LookRow(Look.FINE_SAND, "Sand-like rust", Sign.DIRT, "rust out of the block"),
    LookRow(Look.PARTICLES, "Particles", Sign.DIRT, "rust, scale or seal"),
    LookRow(Look.CLAY, "Clay-like deposit", Sign.DIRT, "scale or dropped-out inhibitor"),
    LookRow(Look.OILY_FILM, "Oily film", Sign.CAUSE, "oil in the coolant: cooler or head gasket"),
    LookRow(Look.FROTH, "Froth", Sign.CAUSE, "gas in the coolant, or air drawn in"),
)
LOOK_ROWS: dict[Look, LookRow] = {row.look: row for row in LOOKS}


class Check(StrEnum):
    """Checks on the loop and its fluid."""

    LEVEL = "level"
    LEAKS = "leaks"
    HOSES = "hoses"
    CAP = "cap"
    BUBBLES = "bubbles"
    RADIATOR = "radiator"
    PRESSURE = "pressure"
    INHIBITOR = "inhibitor"
    CONDUCTIVITY = "conductivity"
    COMBUSTION_GAS = "combustion_gas"
    FLOW = "flow"
    DYE = "dye"
    CATCH_TANK = "catch_tank"


@dataclass(frozen=True, slots=True)
class Outcome:
    """One answer of a check in words."""

    key: str
    name: str
    sign: Sign
    says: str = ""


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure of a check with its unit and what it may be. kind: temperature, pressure or none (shown as it is)."""

    key: str
    name: str
    unit: str
    low: float
    high: float
    kind: str = ""
    required: bool = True


@dataclass(frozen=True, slots=True)
class CheckRow:
    """A check: its name, how it is done, its answers in words or in figures. on_advice: only when something asks for it.

    opens: whether it opens the loop. hot: done first, from outside, the engine may be hot or run. steps: its own procedure.
    """

    check: Check
    name: str
    how: str
    outcomes: tuple[Outcome, ...] = ()
    figures: tuple[Figure, ...] = ()
    on_advice: bool = False
    opens: Opens = Opens.NEVER
    hot: bool = False
    steps: tuple[str, ...] = ()


LOW_LEVELS = frozenset({"low", "keeps_falling"})
# fmt: off
CHECKS: tuple[CheckRow, ...] = (
    CheckRow(Check.LEVEL, "Level", "Cold, against the cold mark. Ask who tops up.", (
        Outcome("at_mark", "at the mark", Sign.SOUND),
        Outcome("low", "low", Sign.LOW, "the level is low"),
        Outcome("keeps_falling", "keeps falling", Sign.CAUSE, "the level keeps falling"),
        Outcome("over", "over the mark", Sign.SOUND),
    ), (
        Figure("missing_l", "missing up to the mark", "L", 0, LARGEST_LOOP_L, "volume", required=False),
        Figure("missing_mm", "or below the mark by", "mm", 0, 1000, required=False),
    ), opens=Opens.LEVEL),
    CheckRow(Check.CATCH_TANK, "Catch tank", "Normally empty. Look in.", (
        Outcome("empty", "empty", Sign.SOUND),
        Outcome("liquid", "liquid in it", Sign.CAUSE, "liquid in the catch tank: boiled over, overfilled, or gas"),
    )),
    CheckRow(Check.LEAKS, "Leaks", "Joints, pump, heater, under the radiator. Hands clear of belts and fan.", (
        Outcome("none", "none seen", Sign.SOUND),
        Outcome("weeping", "a joint weeps", Sign.PART, "a joint weeps"),
        Outcome("dripping", "it drips", Sign.CAUSE, "it drips"),
    ), hot=True),
    CheckRow(Check.HOSES, "Hoses", "Squeeze them cold.", (
        Outcome("sound", "sound", Sign.SOUND),
        Outcome("soft", "soft", Sign.PART, "a hose is soft: replace the set while drained"),
        Outcome("cracked", "cracked", Sign.PART, "a hose is cracked: replace the set while drained"),
    )),
    CheckRow(Check.CAP, "Cap and neck", "Cold only. Underside of the cap, neck with a light.", (
        Outcome("clean", "clean", Sign.SOUND),
        Outcome("worn", "seal worn", Sign.PART, "the cap's seal is worn: a new cap"),
        Outcome("rust", "rust", Sign.DIRT, "rust under the cap"),
        Outcome("sludge", "pale sludge", Sign.CAUSE, "pale sludge under the cap: oil, or condensate"),
    ), opens=Opens.ALWAYS),
    CheckRow(Check.BUBBLES, "Bubbles", "In the tank with the engine running, cap unchanged.", (
        Outcome("none", "none", Sign.SOUND),
        Outcome("few", "a few, then none", Sign.SOUND),
        Outcome("endless", "endless", Sign.CAUSE, "endless bubbles"),
    ), hot=True),
    CheckRow(Check.RADIATOR, "Radiator, both sides", "Infrared thermometer, hot, from outside. Touch nothing.", (), (
        Figure("in_c", "inlet side", "°C", -20, 150, "temperature"),
        Figure("out_c", "outlet side", "°C", -20, 150, "temperature"),
    ), hot=True),
    CheckRow(Check.PRESSURE, "Pressure hold", "Cold. Pump to the cap pressure, wait, read again.", (), (
        Figure("start_kpa", "start", "kPa", 1, 250, "pressure"),
        Figure("end_kpa", "end", "kPa", 0, 250, "pressure"),
        Figure("minutes", "after", "min", 0.5, 240),
    ), opens=Opens.ALWAYS, steps=(
        "Confirm safe to open, loop cold.",
        "Fit the tester on the neck.",
        "Pump to the cap pressure. Wait 5 minutes or more, then read again.",
        "To test it hot: run with the tester on, then engine off.",
        "Confirm safe to open again before the tester comes off.",
    )),
    CheckRow(Check.INHIBITOR, "Strips", "Dip, wait as long as the strip says, hold against its card.", (), (
        Figure("ph", "pH", "pH", 4, 14, required=False),
        Figure("reserve_ml", "reserve", "ml", 0, 60, required=False),
        Figure("nitrite_mg_l", "nitrite", "mg/l", 0, 10000, required=False),
        Figure("molybdate_mg_l", "molybdate", "mg/l", 0, 10000, required=False),
    ), opens=Opens.ALWAYS),
    CheckRow(Check.CONDUCTIVITY, "Conductivity", "Rinse the cell with the sample first.", (), (
        Figure("us_cm", "conductivity", "µS/cm", 0, 20000),
        Figure("sample_c", "sample", "°C", -5, 60, "temperature"),
    ), opens=Opens.ALWAYS),
    CheckRow(Check.COMBUSTION_GAS, "Combustion gas", "Vented tester with test fluid on the neck, opened cold.", (
        Outcome("negative", "no change", Sign.SOUND),
        Outcome("positive", "changes", Sign.CAUSE, "combustion gas in the coolant"),
    ), on_advice=True, opens=Opens.ALWAYS, steps=(
        "Confirm safe to open, loop cold.",
        "Lower the level so that no liquid can reach the tester.",
        "Fit the tester on the neck. The loop vents through it.",
        "Warm the engine. Face away. Stop if coolant rises towards the tester.",
        "Read the colour, then engine off.",
        "Confirm safe to open again before the tester comes off.",
    )),
    CheckRow(Check.FLOW, "Flow through the radiator", "Hose in at the top: does as much come out below?", (
        Outcome("good", "runs freely", Sign.SOUND),
        Outcome("poor", "backs up", Sign.DIRT, "the radiator backs up"),
    ), on_advice=True, opens=Opens.ALWAYS),
    CheckRow(Check.DYE, "Leak dye", "Dye in at the neck, run, then look along the joints with its lamp.", (
        Outcome("none", "none seen", Sign.SOUND),
        Outcome("seen", "dye seen", Sign.CAUSE, "dye shows a leak"),
    ), on_advice=True, opens=Opens.ALWAYS),
)
# fmt: on
CHECK_ROWS: dict[Check, CheckRow] = {row.check: row for row in CHECKS}


@dataclass(frozen=True, slots=True)
class Sampled(Fact):
    """What the fluid looks like at one place; sediment after settling [mm], None if not looked for."""

    spot: Spot
    looks: tuple[Look, ...] = ()
    sediment_mm: float | None = None
    note: str = ""

    def __post_init__(self) -> None:
        if self.sediment_mm is not None:
            check_between("sediment_mm", self.sediment_mm, 0, 200, "mm", "Height of the sediment in the jar.")
        if not self.looks and self.sediment_mm is None:
            raise CoreError("looks", "No look is chosen. Choose at least one, or enter the sediment.", "required")
        if len(set(self.looks)) != len(self.looks):
            raise CoreError("looks", "A look is listed twice. List it once.", "duplicate")


@dataclass(frozen=True, slots=True)
class Tested(Fact):
    """One check with its answer: a word (outcome) or figures, as its row asks.

    compensated: a conductivity as the meter converts it to 25 degC, or as it is at the sample's temperature; None: not said.
    card: of a strip, the values on the card that a figure was matched to; empty where it was not matched.
    """

    check: Check
    outcome: str | None = None
    figures: Mapping[str, float] = field(default_factory=dict)
    note: str = ""
    compensated: bool | None = None
    card: Mapping[str, tuple[float, ...]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        row = CHECK_ROWS[self.check]
        allowed = [outcome.key for outcome in row.outcomes]
        if allowed and self.outcome not in allowed:
            raise CoreError("outcome", f"'{self.outcome}' is not a result: {', '.join(allowed)} are.", "unknown_outcome")
        if not allowed and self.outcome is not None:
            raise CoreError("outcome", f"{row.name} is recorded as figures. Leave the result out.", "unknown_outcome")
        known = {figure.key: figure for figure in row.figures}
        for key, value in self.figures.items():
            if key not in known:
                asked = ", ".join(known) or "none"
                raise CoreError(f"figures.{key}", f"{row.name} has no figure '{key}': {asked}.", "unknown_figure")
            check_between(f"figures.{key}", value, known[key].low, known[key].high, known[key].unit)
        for key, values in self.card.items():
            _check_card(key, self.figures.get(key), tuple(values))
        missing = [figure for figure in row.figures if figure.required and figure.key not in self.figures]
        if missing:
            raise CoreError(f"figures.{missing[0].key}", f"{row.name}: {missing[0].name} is missing.", "required")
        if self.check is Check.LEVEL and self.figures and self.outcome not in LOW_LEVELS:
            raise CoreError("figures", "Something is missing from a low level only. Leave the figures out.", "not_low")
        if row.figures and not row.outcomes and not self.figures:
            raise CoreError("figures", f"{row.name}: give at least one figure.", "required")
        if self.check is Check.PRESSURE and self.figures["end_kpa"] > self.figures["start_kpa"]:
            raise CoreError(
                "figures.end_kpa",
                f"It ended at {self.figures['end_kpa']:g} kPa, above its start of {self.figures['start_kpa']:g} kPa: "
                "the loop was warming up, or the two are swapped. Test it cold.",
                "pressure_rose",
            )

    def sign(self) -> Sign | None:
        """What the word speaks for; None for figures."""
        row = CHECK_ROWS[self.check]
        return next((outcome.sign for outcome in row.outcomes if outcome.key == self.outcome), None)


def _check_card(key: str, value: float | None, values: tuple[float, ...]) -> None:
    """A card's values rise, and the figure is one of them; raises CoreError."""
    if list(values) != sorted(set(values)):
        raise CoreError(f"card.{key}", "The values of a card rise. Correct the bands of the strips.", "not_rising")
    if value not in values:
        shown = ", ".join(f"{one:g}" for one in values)
        raise CoreError(f"card.{key}", f"The figure is none of its card: {shown}. Choose the band.", "not_on_card")


def asked_for(need: Requirement, equipment: Equipment | None = None) -> tuple[Check, ...]:
    """The checks of a usual inspection of this loop, in order; conductivity and the catch tank where there is one.

    First what wants nothing opened and may be hot, then the rest from outside, then what opens the loop.
    """
    built = equipment or Equipment()
    usual = [row.check for row in CHECKS if not row.on_advice]
    if built.tank not in (TankKind.CATCH, TankKind.DEGAS_AND_CATCH):
        usual.remove(Check.CATCH_TANK)
    usual.sort(key=lambda check: (not CHECK_ROWS[check].hot, opens(CHECK_ROWS[check].opens, built)))
    if need.low_conductivity:
        left_out = {Check.BUBBLES, Check.INHIBITOR, Check.RADIATOR}
        return tuple(check for check in usual if check not in left_out)
    usual.remove(Check.CONDUCTIVITY)
    if Material.WET_LINERS in need.materials:  # liners live by nitrite or molybdate: strips first
        usual.remove(Check.INHIBITOR)
        first = next(at for at, check in enumerate(usual) if opens(CHECK_ROWS[check].opens, built))
        usual.insert(first, Check.INHIBITOR)
    return tuple(usual)
