"""How the boundary in the eyepiece looks. Only a sharp one is a reading; common practice, no source."""

from __future__ import annotations

from enum import StrEnum

from temper_core.instruments.question import Flag


class Edge(StrEnum):
    """The edge of the shadow."""

    SHARP = "sharp"
    SOFT = "soft"
    TWO_LINES = "two_lines"


EDGE_FLAGS = {
    Edge.SOFT: Flag(
        "blurred",
        "Blurred edge: dirty prism, oily sample, or not settled. Saved, not used. Wipe the prism, read a fresh drop.",
    ),
    Edge.TWO_LINES: Flag(
        "two_lines", "Two edges: unmixed or oily sample. Saved, not used. Stir, let it settle, read a fresh drop."
    ),
}
