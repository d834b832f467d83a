"""What an instrument's reading really says."""

from temper_core.reading.correct import Flag, ReadingAnswer, ReadingQuestion, ReadingSpread, read
from temper_core.reading.repeats import Repeats, repeats
from temper_core.reading.scales import FACTS, Scale, ScaleFacts, mark

__all__ = [
    "FACTS",
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
