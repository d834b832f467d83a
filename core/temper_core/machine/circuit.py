"""A loop's layout as data: vessels, pipes, drains, bleeders, fill points.

The drawing, the groups that mix and the drain hints come from it.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between, under
from temper_core.basis.message import say

VOLUME_TOLERANCE = 0.005  # of the capacity; figures in a layout are rounded


class NodeKind(StrEnum):
    """Kinds of vessel."""

    TANK = "tank"
    RADIATOR = "radiator"
    BLOCK = "block"
    HEATER = "heater"
    COOLER = "cooler"
    ELECTRONICS = "electronics"
    HOSES = "hoses"


class Via(StrEnum):
    """What sits in a pipe."""

    NONE = "none"
    THERMOSTAT = "thermostat"
    HEATER_VALVE = "heater_valve"
    PUMP = "pump"


NODE_KIND_NAMES = {
    NodeKind.TANK: "tank",
    NodeKind.RADIATOR: "radiator",
    NodeKind.BLOCK: "block and head",
    NodeKind.HEATER: "heater",
    NodeKind.COOLER: "oil or other cooler",
    NodeKind.ELECTRONICS: "electronics",
    NodeKind.HOSES: "hoses",
}
VIA_NAMES = {Via.NONE: "nothing", Via.THERMOSTAT: "thermostat", Via.HEATER_VALVE: "heater valve", Via.PUMP: "pump"}


@dataclass(frozen=True, slots=True)
class Node:
    """A vessel: litres up to the cold mark, heights above the floor [mm] and drawing column 0-2."""

    id: str
    kind: NodeKind
    name: str
    volume_l: float
    bottom_mm: float
    top_mm: float
    column: int

    def __post_init__(self) -> None:
        least = 0.0 if self.kind is NodeKind.TANK else 0.01  # a catch tank holds nothing up to the cold mark
        check_between("volume_l", self.volume_l, least, 5000, "L")
        check_between("bottom_mm", self.bottom_mm, 0, 10000, "mm")
        check_between("column", self.column, 0, 2, "")
        if self.top_mm <= self.bottom_mm:
            raise CoreError("top_mm", f"The top ({self.top_mm:g} mm) must lie above the bottom ({self.bottom_mm:g} mm).")


@dataclass(frozen=True, slots=True)
class Pipe:
    """A hose between two vessels at a height."""

    start: str
    end: str
    at_mm: float
    via: Via = Via.NONE


@dataclass(frozen=True, slots=True)
class Drain:
    """A drain point: its letter, its vessel, its height, and the share of each vessel it really empties (0-1)."""

    letter: str
    node: str
    height_mm: float
    share: Mapping[str, float]


class BleederKind(StrEnum):
    """How air is let out."""

    NIPPLE = "nipple"
    SCREW = "screw"
    PIPE = "pipe"  # a thin pipe to the tank: bleeds by itself


BLEEDER_NAMES = {BleederKind.NIPPLE: "nipple", BleederKind.SCREW: "screw", BleederKind.PIPE: "thin pipe"}


@dataclass(frozen=True, slots=True)
class Bleeder:
    """Where air is let out: its number, its vessel, its height, its kind."""

    number: int
    node: str
    height_mm: float
    kind: BleederKind = BleederKind.SCREW


@dataclass(frozen=True, slots=True)
class FillPoint:
    """Where coolant goes in: the order it is filled in, its vessel, and what it is called (cap, plug, hose)."""

    number: int
    node: str
    name: str = "cap"


@dataclass(frozen=True, slots=True)
class Layout:
    """Vessels (hoses are one of them), pipes, drains, bleeders and fill points of one loop.

    tank_total_l: the tank filled to the brim.
    """

    nodes: tuple[Node, ...]
    pipes: tuple[Pipe, ...] = ()
    drains: tuple[Drain, ...] = ()
    tank_total_l: float | None = None
    bleeders: tuple[Bleeder, ...] = ()
    fill_points: tuple[FillPoint, ...] = ()

    def __post_init__(self) -> None:
        ids = [node.id for node in self.nodes]
        if not ids:
            raise CoreError("nodes", "The layout is empty. Add at least one vessel.", "empty")
        if len(set(ids)) != len(ids):
            raise CoreError(
                "nodes", f"Two vessels share one name among {', '.join(ids)}. Name each differently.", "duplicate"
            )
        for i, pipe in enumerate(self.pipes):
            with under(f"pipes.{i}"):
                self._check_known(pipe.start, pipe.end)
        for name in ("bleeders", "fill_points"):
            for i, row in enumerate(getattr(self, name)):
                with under(f"{name}.{i}"):
                    self._check_known(row.node)
            _check_once(name, [str(row.number) for row in getattr(self, name)])
        _check_once("drains", [drain.letter for drain in self.drains])
        for i, drain in enumerate(self.drains):
            with under(f"drains.{i}"):
                self._check_known(drain.node, *drain.share)
                for vessel, share in drain.share.items():
                    check_between(f"share.{vessel}", share, 0, 1, "")

    def _check_known(self, *names: str) -> None:
        known = {node.id for node in self.nodes}
        for name in names:
            if name not in known:
                raise CoreError("node", f"No vessel is called '{name}': {', '.join(sorted(known))} are.", "unknown_vessel")

    @property
    def volume_l(self) -> float:
        """Litres up to the cold mark."""
        return sum(node.volume_l for node in self.nodes)

    @property
    def room_l(self) -> float | None:
        """Air above the cold mark [l]: the tank to the brim less the tank at the mark; None where it is not known."""
        tanks = [node.volume_l for node in self.nodes if node.kind is NodeKind.TANK]
        if self.tank_total_l is None or not tanks:
            return None
        return max(0.0, self.tank_total_l - sum(tanks))

    def reachable_l(self) -> dict[str, float]:
        """Litres that all drains together empty from each vessel, at 20 degC, by the layout."""
        return {
            node.id: node.volume_l * min(1.0, sum(drain.share.get(node.id, 0.0) for drain in self.drains))
            for node in self.nodes
        }


def circulating(layout: Layout, thermostat_open: bool, heater_open: bool, still: Collection[str] = ()) -> list[list[str]]:
    """Groups of vessels that hold one fluid while it runs; a vessel in none keeps to itself.

    A shut thermostat or heater valve cuts off the vessel its pipe leads to; what hangs only on that is cut off too. still:
    vessels that never circulate (an overflow bottle, a catch tank). Hoses go with the vessel that makes the flow.
    """
    shut = {Via.THERMOSTAT: not thermostat_open, Via.HEATER_VALVE: not heater_open}
    cut = {pipe.end for pipe in layout.pipes if shut.get(pipe.via, False)} | set(still)
    flows = [node for node in layout.nodes if node.id not in cut]
    group_of = {node.id: {node.id} for node in flows}
    hoses = [node.id for node in flows if node.kind is NodeKind.HOSES]
    source = next((n.id for n in flows if n.kind in (NodeKind.BLOCK, NodeKind.ELECTRONICS)), None)
    joins = [(pipe.start, pipe.end) for pipe in layout.pipes]
    joins += [(source, name) for name in hoses if source]
    if not layout.pipes:  # nothing is known of the flow: one loop
        joins += [(flows[0].id, node.id) for node in flows[1:]]
    for start, end in joins:
        if start in group_of and end in group_of and group_of[start] is not group_of[end]:
            both = group_of[start] | group_of[end]
            group_of |= dict.fromkeys(both, both)
    groups: list[list[str]] = []
    for node in flows:
        group = [other.id for other in layout.nodes if other.id in group_of[node.id]]
        if len(group) > 1 and group not in groups:
            groups.append(group)
    return groups


def _check_once(field: str, marks: list[str]) -> None:
    twice = sorted({mark for mark in marks if marks.count(mark) > 1})
    if twice:
        raise CoreError(field, f"{', '.join(twice)} is used twice. Give each its own mark.", "duplicate")


def resized(layout: Layout, capacity_l: float) -> Layout:
    """The layout for another capacity: the difference goes into the hoses, or over all vessels where they cannot take it."""
    hoses = next((node for node in layout.nodes if node.kind is NodeKind.HOSES), None)
    left = hoses.volume_l + capacity_l - layout.volume_l if hoses else 0.0
    if hoses and left >= hoses.volume_l / 2:
        nodes = tuple(replace(node, volume_l=left) if node is hoses else node for node in layout.nodes)
    else:
        times = capacity_l / layout.volume_l
        nodes = tuple(replace(node, volume_l=node.volume_l * times) for node in layout.nodes)
    return replace(layout, nodes=nodes)


def check_sum(layout: Layout, capacity_l: float) -> None:
    """The vessels must add up to the capacity at the cold mark; what is left over belongs to the hoses; raises CoreError."""
    gap = capacity_l - layout.volume_l
    if abs(gap) > VOLUME_TOLERANCE * capacity_l:
        raise CoreError(
            "layout",
            say(
                "volumes_do_not_close",
                "The vessels add up to {vessels_l:2}, the capacity is {capacity_l:2}: {gap_l:2} {what}. "
                "Put the difference into the hoses.",
                vessels_l=layout.volume_l,
                capacity_l=capacity_l,
                gap_l=abs(gap),
                what="are missing" if gap > 0 else "are too many",
            ),
        )
