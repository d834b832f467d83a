"""What an instrument's reading really says."""

from temper_core.instruments.correct import read
from temper_core.instruments.edge import EDGE_FLAGS, Edge
from temper_core.instruments.eyepiece import EyepieceMark, eyepiece
from temper_core.instruments.kinds import KINDS, InstrumentKind, InstrumentSpec
from temper_core.instruments.question import Flag, ReadingAnswer, ReadingQuestion, ReadingSpread
from temper_core.instruments.repeats import Repeats, repeats
from temper_core.instruments.scales import FACTS, Scale, ScaleFacts, mark
from temper_core.instruments.steps import StepReading, StepTester, read_steps

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
