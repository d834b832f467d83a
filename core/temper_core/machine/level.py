"""A loop that is not full to its cold mark: litres missing from the top, and full again with what it holds."""

from __future__ import annotations

from temper_core.basis.quantity import VolumePercent
from temper_core.machine.circuit import NodeKind
from temper_core.machine.contents import Contents


def less(contents: Contents, missing_l: float) -> Contents:
    """Litres missing from the top: out of the tank, then out of all alike."""
    if missing_l <= 0:
        return contents
    held = contents.all_litres()
    tank = next((node.id for node in contents.layout.nodes if node.kind is NodeKind.TANK and node.volume_l > 0), None)
    first = min(missing_l, held[tank]) if tank is not None else 0.0
    left = contents.drain(first, {tank: first}) if tank is not None and first > 0 else contents
    return left.lose(missing_l - first) if missing_l > first else left


def full_of_the_same(contents: Contents) -> Contents:
    """Every vessel full to the cold mark with what all of it is, mixed."""
    full = Contents.full(contents.layout, contents.glycol, VolumePercent(min(100.0, contents.strength)))
    return full.with_other(contents.total.other_l / max(1e-9, contents.total_l))
