"""How sure the figures are that a job stands on, as the screen shows it. Made by `how_sure`, never stored as truth."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.message import Message
from temper_core.basis.uncertainty import Interval
from temper_core.job.doubt.inputs import Source


class SureOf(StrEnum):
    """The figures whose doubt is told: litres inside, old coolant left, predicted freeze point, and once it is read."""

    INSIDE = "inside"
    OLD = "old"
    PREDICTED = "predicted"
    READ = "read"


@dataclass(frozen=True, slots=True)
class SurePart:
    """One source of doubt: how much of the variance [%] is its own, and half the 95 % interval if it were the only one."""

    source: Source
    name: str
    share_percent: float
    half: float


@dataclass(frozen=True, slots=True)
class Gain:
    """What could be measured better, and the 95 % interval that would be left."""

    source: Source
    said: Message
    likely: Interval


@dataclass(frozen=True, slots=True)
class HowSure:
    """One figure with its 95 % interval in its own unit (L, %, degC); parts and gains largest first."""

    of: SureOf
    value: float
    likely: Interval
    parts: tuple[SurePart, ...]
    gains: tuple[Gain, ...]
