"""A straight line through a loop's readings: is its protection falling, and when is the frost the stronger?

Weights are equal: one depot, one kind of instrument. The doubt of the slope is never less than what the instruments allow.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from temper_core.basis.dates import DAYS_IN_MONTH, day_words
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Z95, fitted, squares, t95
from temper_core.science import COLDEST_TARGET_C, Glycol, mass_fraction_at_freeze, strength_of

LEAST_POINTS, LEAST_DAYS = 3, 7
MOST_MONTHS = 120  # further on nobody plans


@dataclass(frozen=True, slots=True)
class TrendPoint:
    """A strength read then [% by volume], and the standard deviation that the instrument leaves it."""

    at: datetime
    strength_percent: float
    sd_percent: float = 0.0


@dataclass(frozen=True, slots=True)
class Trend:
    """Change of strength [% by volume a month] with its 95 % half-width."""

    slope: float
    half: float
    points: int

    @property
    def falls(self) -> bool:
        """It falls, beyond what the readings could show by chance."""
        return self.slope + self.half < 0


def trend(points: Sequence[TrendPoint]) -> Trend | None:
    """The line; None with fewer than three readings, or within a week."""
    if len(points) < LEAST_POINTS or (points[-1].at - points[0].at) < timedelta(days=LEAST_DAYS):
        return None
    months = [(point.at - points[0].at).total_seconds() / 86400 / DAYS_IN_MONTH for point in points]
    slope, sd = fitted(months, [point.strength_percent for point in points])
    own = max(point.sd_percent for point in points)
    return Trend(slope, max(t95(len(points) - 2) * sd, Z95 * own / math.sqrt(squares(months))), len(points))


@dataclass(frozen=True, slots=True)
class Falling:
    """Protection that falls: how fast, and the day on which it meets the coldest expected temperature (None: far off)."""

    trend: Trend
    meets_on: date | None
    said: Message


def falling(points: Sequence[TrendPoint], glycol: Glycol, coldest_c: float, policy: Policy) -> Falling | None:
    """A warning where the readings in order of time fall for certain, and as fast as policy asks; else None."""
    line = trend(points)
    return meets(line, points[-1], glycol, coldest_c, policy) if line is not None else None


def meets(line: Trend, last: TrendPoint, glycol: Glycol, coldest_c: float, policy: Policy) -> Falling | None:
    """Where a line that falls leads to from its last reading; None where it does not fall as fast as policy asks."""
    if not line.falls or -line.slope < policy["leak_slope_percent_month"]:
        return None
    needed = strength_of(glycol, mass_fraction_at_freeze(glycol, min(0.0, max(coldest_c, COLDEST_TARGET_C[glycol]))))
    months = (last.strength_percent - needed) / -line.slope
    values = {"loss_percent": -line.slope, "half_percent": line.half, "coldest_c": coldest_c}
    words = "Falls by {loss_percent} a month ±{half_percent}"
    if months <= 0:
        said = say("falling_past", f"{words}: the coldest expected, {{coldest_c:0}}, is past it already.", **values)
        return Falling(line, last.at.date(), said)
    if months > MOST_MONTHS:
        return Falling(line, None, say("falling", f"{words}: perhaps a leak topped up with water.", **values))
    on = (last.at + timedelta(days=months * DAYS_IN_MONTH)).date()
    ends = "it reaches the coldest expected, {coldest_c:0}, about {day}."
    said = say("falling_to", f"{words}: {ends}", day=day_words(on), **values)
    return Falling(line, on, said)
