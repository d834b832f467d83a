"""What a loop is built with, and what follows from it for whoever works on it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import Message, say
from temper_core.machine.bleeding import BleedRecipe


class TankKind(StrEnum):
    """Where the coolant expands to."""

    DEGAS = "degas"
    OVERFLOW = "overflow"
    CATCH = "catch"
    DEGAS_AND_CATCH = "degas_and_catch"
    NONE = "none"


TANK_NAMES = {
    TankKind.DEGAS: "degas tank",
    TankKind.OVERFLOW: "overflow bottle",
    TankKind.CATCH: "catch tank",
    TankKind.DEGAS_AND_CATCH: "degas and catch tank",
    TankKind.NONE: "none",
}


class LevelRule(StrEnum):
    """What the cold level is read against."""

    BETWEEN_MARKS = "between_marks"
    AT_MAX = "at_max"
    BELOW_LIP = "below_lip"
    HALF_FULL = "half_full"


LEVEL_RULE_NAMES = {
    LevelRule.BETWEEN_MARKS: "between the marks",
    LevelRule.AT_MAX: "upper mark",
    LevelRule.BELOW_LIP: "below the lip",
    LevelRule.HALF_FULL: "half full",
}


class CoolantFilter(StrEnum):
    """A coolant filter, if there is one: charged ones give inhibitor off, blank ones do not."""

    NONE = "none"
    BLANK = "blank"
    CHARGED = "charged"


FILTER_NAMES = {CoolantFilter.NONE: "none", CoolantFilter.BLANK: "blank", CoolantFilter.CHARGED: "charged"}


@dataclass(frozen=True, slots=True)
class ServiceInterval:
    """How long the maker says a filling lasts; None: not stated. Due at the earliest of the three."""

    months: float | None = None
    distance_km: float | None = None
    hours: float | None = None

    def __post_init__(self) -> None:
        for name, most, unit in (("months", 240, "months"), ("distance_km", 2_000_000, "km"), ("hours", 50_000, "h")):
            value = getattr(self, name)
            if value is not None:
                check_between(name, value, 1, most, unit, "As the maker states; leave it empty if not stated.")


@dataclass(frozen=True, slots=True)
class Equipment:
    """Tank, level rule, thermostat, preheater, filter; conductivity_limit_us_cm is the maker's, for electronics loops.

    tank_l_per_mm: litres of the tank per millimetre of its height, at the mark; None: not measured. bleed: the loop's own
    bleed recipe; None: a generic one.
    """

    tank: TankKind = TankKind.DEGAS
    level_rule: LevelRule = LevelRule.BETWEEN_MARKS
    level_below_lip_mm: float | None = None
    tank_l_per_mm: float | None = None
    thermostat_opens_c: float | None = None
    preheater: bool = False
    preheater_pump: bool = False
    coolant_filter: CoolantFilter = CoolantFilter.NONE
    conductivity_limit_us_cm: float | None = None
    interval: ServiceInterval = ServiceInterval()
    bleed: BleedRecipe | None = None

    def __post_init__(self) -> None:
        if self.thermostat_opens_c is not None:
            check_between("thermostat_opens_c", self.thermostat_opens_c, 40, 120, "°C", "About 70 to 90 °C is usual.")
        if self.level_below_lip_mm is not None:
            check_between("level_below_lip_mm", self.level_below_lip_mm, 1, 300, "mm", "Below the lip of the neck, cold.")
        if self.tank_l_per_mm is not None:
            words = "Pour a litre into the tank and measure how far it rises: 0.05 is a tank of 20 mm a litre."
            check_between("tank_l_per_mm", self.tank_l_per_mm, 0.001, 10, "L/mm", words)
        if self.conductivity_limit_us_cm is not None:
            check_between(
                "conductivity_limit_us_cm", self.conductivity_limit_us_cm, 0.1, 5000, "µS/cm", "The maker's limit."
            )
        if self.level_rule is LevelRule.BELOW_LIP and self.level_below_lip_mm is None:
            raise CoreError(
                "level_below_lip_mm", "Millimetres below the lip are missing. Enter them, read cold.", "required"
            )
        if self.preheater_pump and not self.preheater:
            raise CoreError(
                "preheater_pump", "A preheater pump without a preheater. Tick the preheater too.", "no_preheater"
            )


_LEVEL = {
    LevelRule.BETWEEN_MARKS: "between the marks",
    LevelRule.AT_MAX: "at the upper mark",
    LevelRule.HALF_FULL: "bottle about half full",
}


def level_words(equipment: Equipment) -> Message:
    """Where the level belongs, read cold."""
    if equipment.level_rule is LevelRule.BELOW_LIP:
        return say("level_below_lip", "Level: {mm} mm below the lip, read cold.", mm=f"{equipment.level_below_lip_mm:g}")
    return say("level", "Level: {where}, read cold.", where=_LEVEL[equipment.level_rule])


def cautions(equipment: Equipment, high_voltage: bool = False) -> tuple[Message, ...]:
    """What must be known before anybody touches this loop; source: common practice, no source."""
    said = []
    if high_voltage:
        said.append(say("high_voltage", "High voltage: trained people only, and the loop isolated first."))
    if equipment.preheater:
        pump = " Its pump can circulate the loop with the engine off." if equipment.preheater_pump else ""
        said.append(say("preheater", "Fuel-fired preheater: it starts by itself. Off and locked before the cap." + pump))
    if equipment.tank in (TankKind.CATCH, TankKind.DEGAS_AND_CATCH):
        said.append(say("catch_tank", "The catch tank is normally empty: half full is a fault, not a level."))
    if equipment.tank is TankKind.NONE:
        said.append(say("no_tank", "No tank: the coolant expands into the space under the neck. Do not fill it up."))
    if equipment.coolant_filter is CoolantFilter.CHARGED:
        said.append(say("charged_filter", "Charged coolant filter: it doses inhibitor, so measure before adding any."))
    return tuple(said)
