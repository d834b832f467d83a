"""The litre account since the last fill, look by look, as a picture shows it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from temper_core.basis.uncertainty import Z95
from temper_core.job.life.account.movement import Movement, looks


@dataclass(frozen=True, slots=True)
class LevelPoint:
    """One look: litres that went missing since the fill until then, with the 95 % half-width; litres poured in then."""

    at: datetime
    gone_l: float
    half_l: float
    in_l: float


def balance(movements: Sequence[Movement]) -> tuple[LevelPoint, ...]:
    """Every look at the level since the fill; what was poured without a look counts at the next one."""
    points: list[LevelPoint] = []
    gone, variance, poured = 0.0, 0.0, 0.0
    for n, row in enumerate(looks(movements)):
        if n > 0:
            gone += row.in_l - row.out_l
            variance += row.variance
            poured += row.in_l
        if row.missing_l is not None:
            half = Z95 * math.sqrt(variance + row.sd_l**2)
            points.append(LevelPoint(row.at, gone + row.missing_l, half, poured))
            poured = 0.0
    return tuple(points)
