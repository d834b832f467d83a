"""Kinds of vehicle and plant, as data: how their loops are usually built, and how much they hold.

machine_kinds.toml has the figures. What the manual or a measurement says replaces them.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from math import sqrt
from pathlib import Path

from temper_core.basis.errors import CoreError, check_between
from temper_core.products.chemistry import LoopUse, Material

SHIPPED = Path(__file__).with_name("machine_kinds.toml")


@dataclass(frozen=True, slots=True)
class KindLoop:
    """One loop of a kind: the layout it usually has, and its litres up to the cold mark from low_l to high_l."""

    name: str
    layout: str
    low_l: float
    high_l: float
    materials: tuple[Material, ...]
    use: LoopUse | None = None

    def __post_init__(self) -> None:
        check_between("low_l", self.low_l, 0.1, self.high_l, "L")

    @property
    def capacity_l(self) -> float:
        """The middle of the range [l]."""
        return (self.low_l + self.high_l) / 2

    @property
    def sd_l(self) -> float:
        """Standard deviation [l] where nobody knows more: anything in the range is as likely as anything else.

        >>> round(KindLoop("Engine loop", "degas_tank", 4.5, 6.5, ()).sd_l, 3)
        0.577
        """
        return (self.high_l - self.low_l) / sqrt(12)


@dataclass(frozen=True, slots=True)
class MachineKind:
    """A kind of machine. source: where its figures are from."""

    key: str
    name: str
    source: str
    loops: tuple[KindLoop, ...]


@cache
def machine_kinds() -> tuple[MachineKind, ...]:
    """All kinds that are shipped, in the order of the form."""
    given = tomllib.loads(SHIPPED.read_text(encoding="utf-8"))
    return tuple(
        MachineKind(
            row["key"],
            row["name"],
            row["source"],
            tuple(
                KindLoop(
                    loop["name"],
                    loop["layout"],
                    loop["low_l"],
                    loop["high_l"],
                    tuple(Material(one) for one in loop["materials"]),
                    LoopUse(loop["use"]) if "use" in loop else None,
                )
                for loop in row["loop"]
            ),
        )
        for row in given["kind"]
    )


def machine_kind(key: str) -> MachineKind:
    """A kind by its key; raises CoreError for an unknown one.

    >>> machine_kind("small_car").loops[0].high_l
    6.5
    """
    found = next((row for row in machine_kinds() if row.key == key), None)
    if found is None:
        known = ", ".join(row.key for row in machine_kinds())
        raise CoreError("kind", f"No kind of machine is called '{key}': {known} are.", "unknown_kind")
    return found
