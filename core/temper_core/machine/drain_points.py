"""Where a loop is drained, in the order of the work, with the hints that each place asks for. Common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.machine.circuit import Drain, Layout, Node, NodeKind, Via
from temper_core.machine.equipment import Equipment, TankKind

_ORDER = {NodeKind.RADIATOR: 0, NodeKind.BLOCK: 1, NodeKind.COOLER: 2, NodeKind.ELECTRONICS: 2}


@dataclass(frozen=True, slots=True)
class DrainPoint:
    """A drain (where: its letter) or a vessel that is emptied by itself (where: its name).

    expected_l: litres it should give from a full loop; by_hand: no drain reaches it, it is emptied only if somebody does.
    """

    where: str
    name: str
    expected_l: float
    by_hand: bool
    hints: tuple[Message, ...]


@dataclass(frozen=True, slots=True)
class DrainPlan:
    """The places in order, and what holds for all of them."""

    points: tuple[DrainPoint, ...]
    hints: tuple[Message, ...]


def drain_plan(layout: Layout, equipment: Equipment, policy: Policy) -> DrainPlan:
    """Drains first, radiator before block; then what no drain reaches: bottle, heater core."""
    nodes = {node.id: node for node in layout.nodes}
    drains = sorted(layout.drains, key=lambda drain: (_ORDER.get(nodes[drain.node].kind, 3), drain.letter))
    blocks_drained = any(nodes[drain.node].kind is NodeKind.BLOCK for drain in layout.drains)
    points = [_drain(drain, nodes, layout, blocks_drained, policy) for drain in drains]
    reach = layout.reachable_l()
    points += [
        _by_hand(node, equipment)
        for node in layout.nodes
        if reach[node.id] < 0.5 * node.volume_l and node.kind in (NodeKind.TANK, NodeKind.HEATER)
    ]
    return DrainPlan(tuple(points), tuple(_for_all(layout, equipment)))


def _drain(drain: Drain, nodes: dict[str, Node], layout: Layout, blocks_drained: bool, policy: Policy) -> DrainPoint:
    node = nodes[drain.node]
    hints = []
    thermostat = any(pipe.via is Via.THERMOSTAT for pipe in layout.pipes)
    if node.kind is NodeKind.RADIATOR and thermostat:
        hints.append(say("leaves_block", "A cold thermostat is shut: the block stays full."))
        if not blocks_drained:
            words = "No block drain: thermostat out, rear up, or unsealed air at {bar} bar at most."
            hints.append(say("no_block_drain", words, bar=f"{policy['air_bar']:g}"))
    if node.kind is NodeKind.BLOCK:
        hints.append(say("tail_up", "Rear up empties the rear of the block."))
    expected = sum(nodes[vessel].volume_l * share for vessel, share in drain.share.items())
    return DrainPoint(drain.letter, node.name, expected, False, tuple(hints))


def _by_hand(node: Node, equipment: Equipment) -> DrainPoint:
    if node.kind is NodeKind.HEATER:
        said = say("heater_hoses", "Drains through its hoses with the valve open.")
    elif equipment.tank in (TankKind.OVERFLOW, TankKind.CATCH):
        said = say("lift_bottle", "No drain reaches it: lift it out and empty it.")
    else:
        said = say("suck_tank", "No drain reaches it: suck it out.")
    return DrainPoint(node.id, node.name, node.volume_l, True, (said,))


def _for_all(layout: Layout, equipment: Equipment) -> list[Message]:
    said = [say("air", "Open the cap to let air in. If it drains freely with the cap on, air gets in at a leak.")]
    if any(node.kind is NodeKind.ELECTRONICS for node in layout.nodes):
        said.append(say("level", "Park it level to finish draining."))
    return said


def still_vessels(layout: Layout, equipment: Equipment) -> list[str]:
    """Vessels that never circulate: an overflow bottle, a catch tank."""
    if equipment.tank not in (TankKind.OVERFLOW, TankKind.CATCH):
        return []
    return [node.id for node in layout.nodes if node.kind is NodeKind.TANK]


def drained_each_time(layout: Layout, equipment: Equipment) -> dict[str, float]:
    """Litres that a full drain takes from each vessel: what the drains reach, and a bottle that is lifted out."""
    volumes = {node.id: node.volume_l for node in layout.nodes}
    return layout.reachable_l() | {vessel: volumes[vessel] for vessel in still_vessels(layout, equipment)}
