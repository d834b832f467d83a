"""How sure a number is: standard deviations, 95 % intervals, first-order propagation, evenly spread cases."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from operator import mul
from statistics import NormalDist

Z95 = NormalDist().inv_cdf(0.975)  # two-sided 95 %


@dataclass(frozen=True, slots=True)
class Interval:
    """A 95 % interval, low <= high, in the unit of what it belongs to."""

    low: float
    high: float


def half_width(sd: float | None) -> float | None:
    """Half the width of the 95 % interval of a standard deviation, in its unit; None stays None."""
    return None if sd is None else Z95 * sd


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


_SOBOL_BITS = 30
_SOBOL = (  # degree, coefficients and first direction numbers of dimensions 2 to 5
    (1, 0, (1,)),
    (2, 1, (1, 3)),
    (3, 1, (1, 3, 1)),
    (3, 2, (1, 1, 1)),
)


def _directions(degree: int, coefficients: int, first: Sequence[int]) -> list[int]:
    m = list(first)
    for i in range(degree, _SOBOL_BITS):
        value = m[i - degree] ^ (m[i - degree] << degree)
        for k in range(1, degree):
            if coefficients >> (degree - 1 - k) & 1:
                value ^= m[i - k] << k
        m.append(value)
    return [value << (_SOBOL_BITS - 1 - i) for i, value in enumerate(m)]


@lru_cache
def evenly_spread(count: int) -> tuple[tuple[float, float, float, float, float], ...]:
    """The first `count` (a power of two) points of the Sobol sequence in five dimensions, half a step off zero; 0-1.

    Source: S. Joe, F. Y. Kuo, Constructing Sobol sequences with better two-dimensional projections (2008), direction
    numbers of the first five dimensions; checked against SciPy.
    """
    columns = [[1 << (_SOBOL_BITS - 1 - i) for i in range(_SOBOL_BITS)], *(_directions(*row) for row in _SOBOL)]
    state = [0] * len(columns)
    half = 0.5 / count
    points = []
    for i in range(count):
        a, b, c, d, e = (x / 2**_SOBOL_BITS + half for x in state)
        points.append((a, b, c, d, e))
        lowest_zero = (~i & (i + 1)).bit_length() - 1
        state = [x ^ column[lowest_zero] for x, column in zip(state, columns, strict=True)]
    return tuple(points)


def quantile(ordered: Sequence[float], share: float) -> float:
    """The value below which a share (0-1) of a sorted sample lies, smoothed: a straight line over normal scores nearby.

    In the tail of a few hundred values two neighbours alone would jump; the line runs through a third of sqrt(n) on
    either side.
    """
    n = len(ordered)
    place = share * n - 0.5
    reach = max(2, round(math.sqrt(n) / 3))
    low, high = max(0, math.floor(place) - reach), min(n - 1, math.floor(place) + 1 + reach)
    if high - low < 3:
        return ordered[min(max(0, round(place)), n - 1)]
    weights = _weights(n, low, high, share)
    return float(sum(map(mul, weights, ordered[low : high + 1])))


@lru_cache(maxsize=256)
def _weights(n: int, low: int, high: int, share: float) -> tuple[float, ...]:
    """What each neighbour counts for: least squares against normal scores, read at the score of the share."""
    normal = NormalDist()
    scores = [normal.inv_cdf((i + 0.5) / n) for i in range(low, high + 1)]
    middle = sum(scores) / len(scores)
    off = (normal.inv_cdf(share) - middle) / sum((z - middle) ** 2 for z in scores)
    return tuple(1 / len(scores) + (z - middle) * off for z in scores)


def squares(x: Sequence[float]) -> float:
    """Sum of the squared distances from their mean."""
    mean = math.fsum(x) / len(x)
    return math.fsum((a - mean) ** 2 for a in x)


def fitted(x: Sequence[float], y: Sequence[float]) -> tuple[float, float]:
    """Least-squares slope of y over x, and its standard error; needs three points and two different x."""
    n = len(x)
    mx, my = math.fsum(x) / n, math.fsum(y) / n
    sxx = squares(x)
    if n < 3 or sxx == 0:
        return 0.0, math.inf
    slope = math.fsum((a - mx) * (b - my) for a, b in zip(x, y, strict=True)) / sxx
    left = math.fsum((b - my - slope * (a - mx)) ** 2 for a, b in zip(x, y, strict=True))
    return slope, math.sqrt(left / (n - 2) / sxx)


_T95 = (12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228, 2.201, 2.179, 2.160, 2.145, 2.131)


def t95(freedom: int) -> float:
    """Student's t for a two-sided 95 % interval; by the normal's 1.96 plus a correction beyond 15 degrees of freedom."""
    if freedom < 1:
        return math.inf
    if freedom <= len(_T95):
        return _T95[freedom - 1]
    return Z95 + 2.45 / freedom
