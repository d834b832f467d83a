"""Where air collects in a circuit."""

from __future__ import annotations

from temper_core.machine.circuit import BleederKind, Layout, NodeKind

_BLIND = frozenset({NodeKind.TANK, NodeKind.HOSES})


def where_air_sits(layout: Layout) -> str | None:
    """The vessel whose top lies highest, of those that do not bleed by themselves; None where all do."""
    by_itself = {row.node for row in layout.bleeders if row.kind is BleederKind.PIPE}
    rows = [node for node in layout.nodes if node.kind not in _BLIND and node.id not in by_itself]
    return max(rows, key=lambda node: node.top_mm).id if rows else None
