"""What an instrument's reading really says."""

from temper_core.reading.correct import Flag, ReadingAnswer, ReadingQuestion, ReadingSpread, read
from temper_core.reading.edge import EDGE_FLAGS, Edge
from temper_core.reading.eyepiece import EyepieceMark, eyepiece
from temper_core.reading.kinds import KINDS, InstrumentKind, InstrumentSpec
from temper_core.reading.repeats import Repeats, repeats
from temper_core.reading.scales import FACTS, Scale, ScaleFacts, mark
from temper_core.reading.steps import StepReading, StepTester, read_steps

__all__ = [
    "EDGE_FLAGS",
    "FACTS",
    "KINDS",
    "Edge",
    "EyepieceMark",
    "Flag",
    "InstrumentKind",
    "InstrumentSpec",
    "ReadingAnswer",
    "ReadingQuestion",
    "ReadingSpread",
    "Repeats",
    "Scale",
    "ScaleFacts",
    "StepReading",
    "StepTester",
    "eyepiece",
    "mark",
    "read",
    "read_steps",
    "repeats",
]
