"""Vacuum filling: how deep a pump gets at this altitude, the air that stays, the fluid that is drawn, whether it holds."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.science import ambient_kpa
from temper_core.science.boiling import water_vapour_kpa

COLDEST_C, WARMEST_C = -40.0, 60.0
SHORTEST_HOLD_MIN = 5.0  # 5 to 10 minutes are usual: common practice, no source


@dataclass(frozen=True, slots=True)
class Held:
    """How long the vacuum was watched, and how much of it was lost [kPa]."""

    minutes: float
    drop_kpa: float

    def __post_init__(self) -> None:
        check_between("minutes", self.minutes, 0.1, 240, "minutes", "How long the needle was watched.")
        check_between("drop_kpa", self.drop_kpa, 0, 110, "kPa", "How far the needle fell; it cannot rise by itself.")


@dataclass(frozen=True, slots=True)
class VacuumQuestion:
    """empty_volume_l: the air in the loop before; vacuum_kpa: by the gauge, below ambient; loop_c: how warm it is."""

    empty_volume_l: float
    altitude_m: float
    vacuum_kpa: float
    loop_c: float
    held: Held | None = None

    def __post_init__(self) -> None:
        check_between("empty_volume_l", self.empty_volume_l, 0.01, LARGEST_LOOP_L, "L", "Litres of air in the loop.")
        ambient = ambient_kpa(self.altitude_m)
        check_between("loop_c", self.loop_c, COLDEST_C, WARMEST_C, "°C", "A cold loop only: warm fluid boils under vacuum.")
        if not 0 <= self.vacuum_kpa < ambient:
            message = (
                f"{self.vacuum_kpa:g} kPa below ambient is not possible: 0 to {ambient:.1f} kPa is allowed at "
                f"{self.altitude_m:g} m. Read the gauge again; 25 inHg are 85 kPa."
            )
            raise CoreError("vacuum_kpa", message, "out_of_range")


@dataclass(frozen=True, slots=True)
class VacuumAnswer:
    """Pressures in kPa, the reachable one below ambient. air_left_l: at ambient pressure, at most; drawn_l: the fluid drawn.

    tight: whether the hold was within the rules; None where nothing was held, or not long enough to tell.
    """

    ambient_kpa: float
    reachable_kpa: float
    air_left_l: float
    drawn_l: float
    tight: bool | None
    warnings: tuple[Message, ...]


def vacuum(q: VacuumQuestion, policy: Policy | None = None) -> VacuumAnswer:
    """The result of this vacuum; see VacuumAnswer. Water's vapour pressure is taken: that of any coolant is lower.

    >>> a = vacuum(VacuumQuestion(24.5, 0, 85, 15, Held(10, 1.5)))
    >>> round(a.reachable_kpa, 1), round(a.air_left_l, 2), a.tight
    (86.3, 3.95, True)
    """
    policy = policy or Policy()
    ambient = ambient_kpa(q.altitude_m)
    reachable = ambient - max(policy["pump_floor_kpa"], water_vapour_kpa(max(q.loop_c, 0.01)))
    air = q.empty_volume_l * (ambient - q.vacuum_kpa) / ambient
    tight = vacuum_tight(q.held.minutes, q.held.drop_kpa, policy) if q.held else None
    return VacuumAnswer(ambient, reachable, air, q.empty_volume_l - air, tight, tuple(_warnings(q, reachable, policy)))


def vacuum_tight(minutes: float, drop_kpa: float, policy: Policy) -> bool | None:
    """Within the drop that policy allows in its time; a short hold can show a leak, but not that there is none (None)."""
    allowed = policy["vacuum_drop_kpa"] / policy["vacuum_hold_min"] * minutes
    long_enough = minutes >= SHORTEST_HOLD_MIN
    if drop_kpa > (allowed if long_enough else policy["vacuum_drop_kpa"]):
        return False
    return True if long_enough else None


def _warnings(q: VacuumQuestion, reachable: float, policy: Policy) -> list[Message]:
    said = []
    if q.vacuum_kpa > reachable + 0.5:
        words = "Deeper than a pump reaches here ({reachable_kpa:0} below ambient): the gauge is off, or the fluid boils."
        said.append(say("too_deep", words, reachable_kpa=reachable))
    elif q.vacuum_kpa < min(policy["vacuum_low_kpa"], reachable) - 0.5:
        words = "At least {low_kpa:0} below ambient is needed here: pull deeper, or look for a leak."
        said.append(say("too_shallow", words, low_kpa=min(policy["vacuum_low_kpa"], reachable)))
    if q.held and q.held.minutes < SHORTEST_HOLD_MIN:
        said.append(
            say(
                "held_too_short",
                "Held less than {minutes} minutes: too short for slow leaks.",
                minutes=f"{SHORTEST_HOLD_MIN:g}",
            )
        )
    return said
