"""A cooling loop as its machine has it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.machine.circuit import Layout, check_sum
from temper_core.machine.drain_points import drained_each_time
from temper_core.machine.equipment import Equipment
from temper_core.machine.portions import spread_over
from temper_core.products.chemistry import Fluid, Requirement


class CapacitySource(StrEnum):
    """Where a capacity comes from."""

    MEASURED = "measured"
    MANUAL = "manual"
    REMEMBERED = "remembered"
    LEARNED = "learned"
    KIND = "kind"


CAPACITY_NAMES = {
    CapacitySource.MEASURED: "measured",
    CapacitySource.MANUAL: "manual",
    CapacitySource.REMEMBERED: "memory",
    CapacitySource.LEARNED: "readings",
    CapacitySource.KIND: "usual for its kind",
}


# what a machine teaches, by its key in Loop.taught: shares of what was inside; minutes
DRAIN, ROUND, FILL, COOLING = "drain", "round", "fill", "cooling"


def drain_key(letter: str) -> str:
    """The key of one drain point's share."""
    return f"{DRAIN}:{letter}"


@dataclass(frozen=True, slots=True)
class Taught:
    """A figure that measured jobs taught and a lead took over, with its standard deviation and how many jobs it is of."""

    value: float
    sd: float
    jobs: int


@dataclass(frozen=True, slots=True)
class Loop:
    """One cooling loop as the fleet knows it. capacity_l: litres at 20 degC up to the cold mark.

    altitude_m: of the depot; built: the machine's year. capacity_sd_l: its standard deviation where it is known better than
    from its source; capacity_known_at: since when. taught: what its jobs taught and a lead took over, by its key.
    """

    id: str
    name: str
    capacity_l: float
    capacity_source: CapacitySource
    layout: Layout
    need: Requirement
    coldest_c: float
    believed: Fluid = Fluid()
    cap_gauge_kpa: float | None = None
    capacity_sd_l: float | None = None
    capacity_known_at: datetime | None = None
    equipment: Equipment = Equipment()
    altitude_m: float = 0.0
    built: int | None = None
    high_voltage: bool = False
    taught: Mapping[str, Taught] = field(default_factory=dict)

    def __post_init__(self) -> None:
        check_between("capacity_l", self.capacity_l, 0.1, LARGEST_LOOP_L, "L", "Litres up to the cold mark.")
        check_between("coldest_c", self.coldest_c, -60, 40, "°C")
        if self.cap_gauge_kpa is not None:
            check_between("cap_gauge_kpa", self.cap_gauge_kpa, 0, 250, "kPa", "Gauge pressure printed on the cap.")
        if self.layout.nodes:
            check_sum(self.layout, self.capacity_l)
        else:
            raise CoreError("layout", "The loop has no vessel. Add at least one.", "empty")


def drained_usually(loop: Loop) -> dict[str, float]:
    """Litres that a drain of the full loop takes from each vessel: as its jobs taught, else as its layout says."""
    reach = drained_each_time(loop.layout, loop.equipment)
    taught = loop.taught.get(DRAIN)
    if taught is None:
        return reach
    volumes = {node.id: node.volume_l for node in loop.layout.nodes}
    return spread_over(min(1.0, max(0.0, taught.value)) * sum(volumes.values()), reach, volumes)
