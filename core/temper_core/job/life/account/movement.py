"""What moved a loop's level since its last fill, each with its doubt."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from temper_core.basis.policy import Policy
from temper_core.job.loop import Loop
from temper_core.machine.circuit import NodeKind

POUR_SD = 0.03  # of what a jug holds; common practice, no source
SPILL_SD = 0.25  # of what a puddle looks like; common practice, no source
LAYOUT_SD = 0.3  # of the litres per mm of a layout nobody measured; Temper's own default
ONE_LOOK = timedelta(hours=12)


@dataclass(frozen=True, slots=True)
class Movement:
    """What happened to the level at one time. in_l: poured in; out_l: taken or spilled, so no loss of the loop's own.

    missing_l: how far the level stood below the cold mark afterwards [l], with its standard deviation; None: not looked at.
    trapped_l: of a fill, the air still inside when it left, with its standard deviation; None: nobody can tell.
    """

    at: datetime
    in_l: float = 0.0
    out_l: float = 0.0
    missing_l: float | None = None
    sd_l: float = 0.0
    trapped_l: float | None = None
    trapped_sd_l: float = 0.0

    @property
    def variance(self) -> float:
        """Of what went in and out [l squared]."""
        return (POUR_SD * self.in_l) ** 2 + (SPILL_SD * self.out_l) ** 2


def at_mark(at: datetime, loop: Loop, policy: Policy, in_l: float = 0.0) -> Movement:
    """Its level stood at the mark, after so many litres."""
    return Movement(at, in_l, 0.0, 0.0, mark_sd_l(loop, policy))


def mark_sd_l(loop: Loop, policy: Policy) -> float:
    """How well a look at the mark tells the level [l]: by the tank's own litres per mm, where it was measured."""
    per_mm = loop.equipment.tank_l_per_mm
    return policy["level_look_sd_l"] if per_mm is None else policy["level_look_sd_mm"] * per_mm


def level_missing(figures: Mapping[str, float], loop: Loop, policy: Policy) -> tuple[float, float] | None:
    """Litres missing up to the mark and their standard deviation, from `missing_l` or `missing_mm`; None: neither given."""
    mark = mark_sd_l(loop, policy)
    if "missing_l" in figures:
        missing_l = min(figures["missing_l"], loop.layout.volume_l)
        return missing_l, math.hypot(mark, missing_l * policy["missing_sd_percent"] / 100)
    if "missing_mm" not in figures:
        return None
    per_mm = loop.equipment.tank_l_per_mm
    if per_mm is not None:
        return figures["missing_mm"] * per_mm, mark
    tank = next((node for node in loop.layout.nodes if node.kind is NodeKind.TANK and node.volume_l > 0), None)
    if tank is None:
        return None
    missing_l = min(tank.volume_l, figures["missing_mm"] * tank.volume_l / (tank.top_mm - tank.bottom_mm))
    return missing_l, math.hypot(mark, LAYOUT_SD * missing_l)


def looks(movements: Sequence[Movement]) -> list[Movement]:
    """In their order; what was seen and poured within half a day is one look, its level the last one seen."""
    rows: list[Movement] = []
    for row in sorted(movements, key=lambda row: row.at):
        if not rows or row.at - rows[-1].at >= ONE_LOOK:
            rows.append(row)
            continue
        before = rows[-1]
        seen = row if row.missing_l is not None else before
        if row.missing_l is None and row.in_l + row.out_l > 0:
            seen = Movement(row.at)  # it was looked at before it moved again
        rows[-1] = replace(
            before, in_l=before.in_l + row.in_l, out_l=before.out_l + row.out_l, missing_l=seen.missing_l, sd_l=seen.sd_l
        )
    return rows
