"""Whether every vessel of a layout hangs on the loop."""

from __future__ import annotations

from temper_core.basis.errors import CoreError
from temper_core.machine.circuit import Layout, NodeKind


def check_joined(layout: Layout) -> None:
    """Refuse a vessel that no hose joins to the rest, by its name; hoses themselves, and a layout without pipes, are joined.

    Raises CoreError. A flush would find no way into such a vessel.
    """
    joined = {name for pipe in layout.pipes for name in (pipe.start, pipe.end)}
    for i, node in enumerate(layout.nodes):
        if layout.pipes and node.kind is not NodeKind.HOSES and node.id not in joined:
            words = f"Nothing joins {node.name} to the loop. Add the hose that leads to it, or take the vessel away."
            raise CoreError(f"nodes.{i}", words, "not_joined")
