"""The uncertain inputs of a loop's record, each with a name, and what each is called on the screen.

One input is one quantity of the real world that nobody knows exactly: the capacity, the scale's own error, the strength
that was found. It is the same one in every entry that it touches, so what it does there goes together.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Source(StrEnum):
    """Where doubt comes from."""

    CAPACITY = "capacity"
    LEVEL = "level"
    DRAINED = "drained"
    FOUND = "found"
    PRODUCT = "product"
    EXCHANGE = "exchange"
    POURED = "poured"
    INSTRUMENT = "instrument"
    ZERO = "zero"
    LINE = "line"
    CURVE = "curve"


SOURCE_NAMES = {
    Source.CAPACITY: "capacity",
    Source.LEVEL: "level at arrival",
    Source.DRAINED: "litres out",
    Source.FOUND: "strength found",
    Source.PRODUCT: "glycol in the product",
    Source.EXCHANGE: "what stays in each vessel",
    Source.POURED: "litres in",
    Source.INSTRUMENT: "instrument",
    Source.ZERO: "zero",
    Source.LINE: "reading the line",
    Source.CURVE: "freeze tables",
}


@dataclass(frozen=True, slots=True)
class Input:
    """One uncertain input: a standard normal value, so many standard deviations off what is believed.

    key: one for each thing in the world (a scale, an instrument, one jug of one pour). better: its standard deviation as a
    share of today's, were it measured well; None: nothing better is known.
    """

    key: str
    source: Source
    better: float | None = None
