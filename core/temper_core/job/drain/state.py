"""Litres out of a loop, with their doubt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DrainedVolume:
    """Litres out at 20 degC with their standard deviation; by_vessel empty: where the layout's drains reach.

    drained_l: what is then missing up to the cold mark, whatever stood in the loop before.
    """

    litres: float
    sd_l: float
    by_vessel: Mapping[str, float]
    drained_l: float
