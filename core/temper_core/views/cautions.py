"""Cautions where the hand is: one line each, once per stage. Common practice, no source."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum

from temper_core.basis.message import Message, say
from temper_core.machine.equipment import CoolantFilter, Equipment, TankKind
from temper_core.products.chemistry import Requirement


class CautionPlace(StrEnum):
    """Where on the bench a caution bites: the stages, and what is done within them."""

    IDENTIFY = "identify"
    INSPECT = "inspect"
    OPEN = "open"
    DRAIN = "drain"
    FLUSH = "flush"
    RUN = "run"
    CLEANER_RUN = "cleaner_run"
    FILL = "fill"
    BLEED = "bleed"
    VERIFY = "verify"
    FINISH = "finish"
    BETWEEN = "between"


_MAKER = say("maker_first", "Maker's instructions and local rules first.")
_COLD = say("cold_sample", "Sample cold only. Never open it hot.")
_BELTS = say("belts", "Engine runs: hands, hair and sleeves clear of belts and fan.")
_FUMES = say("fumes", "Exhaust fumes kill: ventilate before each run.")
_HANDS = say("hands", "Wash your hands.")
_WATCH = say("watch_cleaner", "Stay with the machine during a cleaner run. Wear gloves and glasses.")
_RINSE = say("open_rinse", "Cover the wings. Keep water off belts, connectors and intake.")
_POISON = say("poison", "Poisonous. Keep away from children and animals. Dispose of it by local rules.")
_HIGH_VOLTAGE = say("high_voltage", "High voltage: trained people only, and isolated first.")
_NO_TANK = say("no_tank", "No tank: the coolant expands into the space under the neck. Do not fill it up.")
_CATCH = say("catch_tank", "The catch tank is normally empty: half full is a fault, not a level.")
_FILTER = say("charged_filter", "Charged coolant filter: it doses inhibitor, so measure before adding any.")
_ELECTRONICS = say("electronics", "Only its own ready-mix: no water, no other coolant, clean containers.")

_ISOLATE = frozenset(
    {
        CautionPlace.IDENTIFY,
        CautionPlace.INSPECT,
        CautionPlace.OPEN,
        CautionPlace.DRAIN,
        CautionPlace.FILL,
        CautionPlace.BLEED,
        CautionPlace.VERIFY,
        CautionPlace.BETWEEN,
    }
)


def cautions_at(
    place: CautionPlace, equipment: Equipment, need: Requirement | None = None, high_voltage: bool = False
) -> tuple[Message, ...]:
    """What must be known at one place of this loop's job."""
    return tuple(_cautions(place, equipment, need or Requirement(), high_voltage))


def _cautions(place: CautionPlace, built: Equipment, need: Requirement, high_voltage: bool) -> Iterator[Message]:
    if high_voltage and place in _ISOLATE:
        yield _HIGH_VOLTAGE
    if built.preheater and place in _ISOLATE:
        yield _preheater(built)
    if place in (CautionPlace.OPEN, CautionPlace.FILL, CautionPlace.BLEED, CautionPlace.VERIFY):
        yield _MAKER
    if place in (CautionPlace.INSPECT, CautionPlace.BETWEEN):
        yield _COLD
    if place in (CautionPlace.RUN, CautionPlace.CLEANER_RUN, CautionPlace.BLEED, CautionPlace.VERIFY, CautionPlace.INSPECT):
        yield _BELTS
    if place in (CautionPlace.RUN, CautionPlace.CLEANER_RUN, CautionPlace.BLEED, CautionPlace.VERIFY):
        yield _FUMES
    if place is CautionPlace.CLEANER_RUN:
        yield _WATCH
    if place is CautionPlace.FLUSH:
        yield _RINSE
    if place in (CautionPlace.FILL, CautionPlace.BLEED, CautionPlace.BETWEEN) and built.tank is TankKind.NONE:
        yield _NO_TANK
    if place in (CautionPlace.INSPECT, CautionPlace.FILL, CautionPlace.BETWEEN) and built.tank in (
        TankKind.CATCH,
        TankKind.DEGAS_AND_CATCH,
    ):
        yield _CATCH
    if place is CautionPlace.INSPECT and built.coolant_filter is CoolantFilter.CHARGED:
        yield _FILTER
    if place in (CautionPlace.IDENTIFY, CautionPlace.FLUSH, CautionPlace.FILL) and need.low_conductivity:
        yield _ELECTRONICS
    if place is CautionPlace.DRAIN:
        yield _POISON
    if place is CautionPlace.FINISH:
        yield _HANDS


def _preheater(built: Equipment) -> Message:
    pump = " Its pump can circulate the loop with the engine off." if built.preheater_pump else ""
    return say("preheater", "Fuel-fired preheater: it starts by itself. Off and locked." + pump)
