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
        "blurred", "A blurred line: dirty prism, oily sample, or not settled. Kept, not counted: wipe, a fresh drop, again."
    ),
    Edge.TWO_LINES: Flag(
        "two_lines", "Two lines: an unmixed or oily sample. Kept, not counted: stir, let it settle, a fresh drop, again."
    ),
}
