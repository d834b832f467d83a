"""How sure a number is: standard deviations, 95 % intervals, first-order propagation."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from statistics import NormalDist

Z95 = NormalDist().inv_cdf(0.975)  # two-sided 95 %


@dataclass(frozen=True, slots=True)
class Interval:
    """A 95 % interval, low <= high, in the unit of what it belongs to."""

    low: float
    high: float


def chance_below(mean: float, sd: float, limit: float) -> float:
    """Chance (0-1) that a normal value lies below a limit; with no spread it is 0 or 1."""
    return 0.5 * math.erfc((mean - limit) / (sd * math.sqrt(2))) if sd > 0 else float(mean < limit)


def propagate(
    of: Callable[[Sequence[float]], float],
    at: Sequence[float],
    sds: Sequence[float],
    bounds: Sequence[tuple[float, float]],
) -> float:
    """Standard deviation of a smooth function of independent values, to first order.

    `of` is evaluated half a standard deviation (kept inside `bounds`) to each side of `at`.
    Source: JCGM 100:2008 (GUM), 5.1.2.
    """
    variance = 0.0
    for i, sd in enumerate(sds):
        if sd <= 0:
            continue
        low, high = bounds[i]
        up = min(high, at[i] + sd / 2)
        down = max(low, at[i] - sd / 2)
        if up <= down:
            continue
        rise = of([*at[:i], up, *at[i + 1 :]]) - of([*at[:i], down, *at[i + 1 :]])
        variance += (rise / (up - down) * sd) ** 2
    return math.sqrt(variance)
