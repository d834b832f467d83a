"""What an instrument's reading really says."""

from temper_core.reading.correct import Flag, ReadingAnswer, ReadingQuestion, ReadingSpread, read
from temper_core.reading.edge import EDGE_FLAGS, Edge
from temper_core.reading.repeats import Repeats, repeats
from temper_core.reading.scales import FACTS, Scale, ScaleFacts, mark

__all__ = [
    "EDGE_FLAGS",
    "FACTS",
    "Edge",
    "Flag",
    "ReadingAnswer",
    "ReadingQuestion",
    "ReadingSpread",
    "Repeats",
    "Scale",
    "ScaleFacts",
    "mark",
    "read",
    "repeats",
]
