"""Generic layouts to start a machine from: shares of the capacity, heights, pipes, drains, bleeders, fill points.

Common practice, no source.

They are a beginning. What the manual or the tape measure says better replaces them.
"""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between
from temper_core.machine.circuit import Bleeder, BleederKind, Drain, FillPoint, Layout, Node, NodeKind, Pipe, Via
from temper_core.machine.equipment import Equipment, LevelRule, TankKind

LARGEST_L = 5000.0
LIP_MM = 25.0  # where a loop without a tank is filled to, until the maker's figure replaces it: Temper's default
TANK_ROOM = 0.5  # air above the cold mark, as a share of the tank's litres at the mark


@dataclass(frozen=True, slots=True)
class Generic:
    """One way loops are built; shares of the capacity add up to 1, drain shares are of each vessel."""

    key: str
    name: str
    says: str
    nodes: tuple[tuple[str, NodeKind, str, float, int, int, int], ...]  # id, kind, name, share, bottom, top [mm], column
    pipes: tuple[tuple[str, str, int, Via], ...]
    drains: tuple[tuple[str, str, int, tuple[tuple[str, float], ...]], ...]
    bleeders: tuple[tuple[str, int, BleederKind], ...]  # vessel, height [mm], kind, in the order they are opened
    fill_points: tuple[tuple[str, str], ...]  # vessel, what it is called, in the order they are filled
    equipment: Equipment = Equipment()


_K, _V, _B = NodeKind, Via, BleederKind
GENERIC: tuple[Generic, ...] = (
    Generic(
        "degas_tank", "Degas tank", "one radiator, one block, pressurised tank on top",
        (
            ("tank", _K.TANK, "Degas tank", 0.12, 1600, 1840, 1),
            ("heater", _K.HEATER, "Heater", 0.08, 1320, 1580, 0),
            ("radiator", _K.RADIATOR, "Radiator", 0.34, 680, 1440, 2),
            ("block", _K.BLOCK, "Engine block", 0.38, 520, 1120, 0),
            ("hoses", _K.HOSES, "Hoses", 0.08, 500, 1640, 1),
        ),
        (
            ("block", "radiator", 1260, _V.THERMOSTAT), ("radiator", "block", 620, _V.PUMP),
            ("block", "heater", 1220, _V.NONE), ("tank", "block", 760, _V.NONE),
        ),
        (
            ("A", "radiator", 660, (("radiator", 0.95), ("tank", 1.0), ("hoses", 0.5))),
            ("B", "block", 510, (("block", 0.65), ("heater", 0.2), ("hoses", 0.3))),
        ),
        (("heater", 1560, _B.NIPPLE), ("radiator", 1430, _B.PIPE)),
        (("tank", "cap"),),
    ),
    Generic(
        "overflow_bottle", "Overflow bottle", "cap on the radiator, bottle beside it about half full",
        (
            ("bottle", _K.TANK, "Overflow bottle", 0.07, 860, 1140, 1),
            ("heater", _K.HEATER, "Heater", 0.08, 1320, 1580, 0),
            ("radiator", _K.RADIATOR, "Radiator", 0.38, 700, 1560, 2),
            ("block", _K.BLOCK, "Engine block", 0.40, 520, 1120, 0),
            ("hoses", _K.HOSES, "Hoses", 0.07, 500, 1500, 1),
        ),
        (
            ("block", "radiator", 1380, _V.THERMOSTAT), ("radiator", "block", 640, _V.PUMP),
            ("block", "heater", 1240, _V.HEATER_VALVE), ("bottle", "radiator", 1480, _V.NONE),
        ),
        (("A", "radiator", 680, (("radiator", 0.95), ("hoses", 0.5))),),
        (),
        (("radiator", "cap"),),
        Equipment(tank=TankKind.OVERFLOW, level_rule=LevelRule.HALF_FULL),
    ),
    Generic(
        "two_banks", "Two banks", "two thermostats, one radiator, no block drain",
        (
            ("tank", _K.TANK, "Degas tank", 0.11, 1420, 1640, 1),
            ("bank1", _K.BLOCK, "Left bank", 0.235, 520, 820, 0),
            ("bank2", _K.BLOCK, "Right bank", 0.235, 900, 1200, 0),
            ("radiator", _K.RADIATOR, "Radiator", 0.33, 600, 1300, 2),
            ("hoses", _K.HOSES, "Hoses", 0.09, 500, 1450, 1),
        ),
        (
            ("bank2", "radiator", 1240, _V.THERMOSTAT), ("bank1", "radiator", 860, _V.THERMOSTAT),
            ("radiator", "bank1", 560, _V.PUMP), ("tank", "bank2", 1100, _V.NONE),
        ),
        (("A", "radiator", 590, (("radiator", 0.95), ("tank", 1.0), ("hoses", 0.5))),),
        (("bank1", 810, _B.SCREW), ("bank2", 1190, _B.SCREW)),
        (("tank", "cap"),),
    ),
    Generic(
        "power_electronics", "Power electronics", "electric pump, no thermostat: park it level to finish draining",
        (
            ("tank", _K.TANK, "Tank", 0.14, 980, 1120, 1),
            ("inverter", _K.ELECTRONICS, "Inverter", 0.17, 700, 900, 0),
            ("battery", _K.ELECTRONICS, "Battery plates", 0.36, 300, 520, 0),
            ("radiator", _K.RADIATOR, "Low radiator", 0.23, 420, 880, 2),
            ("hoses", _K.HOSES, "Hoses", 0.10, 280, 960, 1),
        ),
        (
            ("inverter", "radiator", 840, _V.NONE), ("radiator", "battery", 440, _V.PUMP),
            ("battery", "inverter", 600, _V.NONE), ("tank", "battery", 480, _V.NONE),
        ),
        (("A", "radiator", 410, (("radiator", 0.95), ("tank", 1.0), ("hoses", 0.6))),),
        (("inverter", 890, _B.SCREW),),
        (("tank", "cap"),),
        Equipment(tank=TankKind.DEGAS, level_rule=LevelRule.AT_MAX),
    ),
    Generic(
        "no_tank", "No expansion tank", "the coolant expands into the space under the neck",
        (
            ("radiator", _K.RADIATOR, "Radiator", 0.40, 380, 700, 2),
            ("block", _K.BLOCK, "Engine block", 0.50, 300, 660, 0),
            ("hoses", _K.HOSES, "Hoses", 0.10, 300, 720, 1),
        ),
        (("block", "radiator", 640, _V.THERMOSTAT), ("radiator", "block", 420, _V.PUMP)),
        (("A", "block", 300, (("block", 0.8), ("radiator", 0.9), ("hoses", 0.8))),),
        (),
        (("radiator", "cap"),),
        Equipment(tank=TankKind.NONE, level_rule=LevelRule.BELOW_LIP, level_below_lip_mm=LIP_MM),
    ),
    Generic(
        "several_plugs", "Several fill plugs", "tank, radiator and thermostat housing are filled in turn",
        (
            ("tank", _K.TANK, "Tank", 0.10, 1180, 1400, 1),
            ("heater", _K.HEATER, "Heater", 0.07, 1120, 1380, 0),
            ("radiator", _K.RADIATOR, "Radiator", 0.36, 640, 1320, 2),
            ("block", _K.BLOCK, "Engine block", 0.39, 480, 1020, 0),
            ("hoses", _K.HOSES, "Hoses", 0.08, 470, 1300, 1),
        ),
        (
            ("block", "radiator", 1070, _V.THERMOSTAT), ("radiator", "block", 580, _V.PUMP),
            ("block", "heater", 1060, _V.NONE), ("tank", "block", 700, _V.NONE),
        ),
        (
            ("A", "radiator", 620, (("radiator", 0.95), ("tank", 0.9), ("hoses", 0.5))),
            ("B", "block", 470, (("block", 0.6), ("heater", 0.1), ("hoses", 0.3))),
        ),
        (("radiator", 1310, _B.SCREW), ("block", 1010, _B.SCREW)),
        (("tank", "cap"), ("radiator", "plug"), ("block", "housing plug")),
    ),
)  # fmt: skip
BY_KEY: dict[str, Generic] = {row.key: row for row in GENERIC}


def generic_layout(key: str, capacity_l: float) -> Layout:
    """A generic layout for a capacity [l at 20 degC up to the cold mark]; raises CoreError for an unknown one.

    >>> round(generic_layout("degas_tank", 32.0).volume_l, 6)
    32.0
    """
    generic = BY_KEY.get(key)
    if generic is None:
        raise CoreError("layout", f"No layout is called '{key}': {', '.join(BY_KEY)} are.", "unknown_layout")
    check_between("capacity_l", capacity_l, 0.1, LARGEST_L, "L", "Litres up to the cold mark.")
    nodes = tuple(
        Node(id_, kind, name, share * capacity_l, bottom, top, column)
        for id_, kind, name, share, bottom, top, column in generic.nodes
    )
    tanks = sum(node.volume_l for node in nodes if node.kind is NodeKind.TANK)
    return Layout(
        nodes,
        tuple(Pipe(start, end, at, via) for start, end, at, via in generic.pipes),
        tuple(Drain(letter, node, height, dict(share)) for letter, node, height, share in generic.drains),
        tanks * (1 + TANK_ROOM) if tanks else None,
        tuple(Bleeder(n, node, height, kind) for n, (node, height, kind) in enumerate(generic.bleeders, 1)),
        tuple(FillPoint(n, node, name) for n, (node, name) in enumerate(generic.fill_points, 1)),
    )


def generic_equipment(key: str) -> Equipment:
    """Tank kind and level rule that go with a generic layout; raises CoreError for an unknown one.

    >>> generic_equipment("overflow_bottle").tank.value
    'overflow'
    """
    generic = BY_KEY.get(key)
    if generic is None:
        raise CoreError("layout", f"No layout is called '{key}': {', '.join(BY_KEY)} are.", "unknown_layout")
    return generic.equipment


def is_usual(layout: Layout) -> bool:
    """Whether nobody entered anything of it: vessels, heights and room are a generic layout's, drawn for its capacity.

    >>> is_usual(generic_layout("degas_tank", 32.0))
    True
    """
    return any(_alike(layout, row) for row in GENERIC)


def _alike(layout: Layout, generic: Generic) -> bool:
    """The same vessels and room; a capacity learned since lies in the hoses, which nobody measures."""
    ours = [node for node in layout.nodes if node.kind is not NodeKind.HOSES]
    if not ours or [node.id for node in layout.nodes] != [row[0] for row in generic.nodes]:
        return False
    share = next(row[3] for row in generic.nodes if row[0] == ours[0].id)
    capacity_l = ours[0].volume_l / share if share > 0 else 0.0
    if not 0.1 <= capacity_l <= LARGEST_L:
        return False
    usual, near = generic_layout(generic.key, capacity_l), 1e-4 * capacity_l
    theirs = [node for node in usual.nodes if node.kind is not NodeKind.HOSES]
    if len(ours) != len(theirs) or (layout.tank_total_l is None) != (usual.tank_total_l is None):
        return False
    for a, b in zip(ours, theirs, strict=True):
        if (a.id, a.kind, a.bottom_mm, a.top_mm) != (b.id, b.kind, b.bottom_mm, b.top_mm):
            return False
        if abs(a.volume_l - b.volume_l) > near:
            return False
    return abs((layout.tank_total_l or 0.0) - (usual.tank_total_l or 0.0)) <= near
