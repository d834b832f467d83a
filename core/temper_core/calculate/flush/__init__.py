"""Flushing: rounds over the vessels of a loop, and how many reach the limit of the finished one."""

from temper_core.calculate.flush.rounds import (
    AfterDrain,
    FlushAnswer,
    FlushQuestion,
    FlushRound,
    FlushVessel,
    Rinse,
    VesselAfter,
    flush,
)

__all__ = ["AfterDrain", "FlushAnswer", "FlushQuestion", "FlushRound", "FlushVessel", "Rinse", "VesselAfter", "flush"]
