"""Litres out of a loop, with their doubt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class DrainedVolume:
    """Litres out at 20 degC with their standard deviation; by_vessel empty: where the layout's drains reach.

    drained_l: what is then missing up to the cold mark, whatever stood in the loop before. ways: litres of it by how they
    were found; by_kg_l: litres of it that follow from a weight of kg; spilled_l: what missed the tray, as estimated.
    by_place: litres by the drain or vessel that a container named.
    """

    litres: float
    sd_l: float
    by_vessel: Mapping[str, float]
    drained_l: float
    ways: Mapping[str, float] = field(default_factory=dict)
    by_kg_l: float = 0.0
    kg: float = 0.0
    spilled_l: float = 0.0
    by_place: Mapping[str, float] = field(default_factory=dict)
