"""The freeze curve for many draws at once: a table per gram, and a cubic where a function is bent."""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

from temper_core.basis.quantity import MassFraction
from temper_core.science import Glycol, curve_doubt_k, density_20c, freeze_point

LAST_TABULATED_W = 0.60  # past it the curve breaks off: cubics would bridge the gap


class Row(NamedTuple):
    """What a solution with so many grams of glycol a litre is like."""

    density: float
    freeze_c: float
    doubt_k: float


@lru_cache(maxsize=2)
def rows_of(glycol: Glycol) -> tuple[Row, ...]:
    """One row for each whole gram of glycol a litre (at 20 degC), from none to neat: looked up instead of solved for."""
    ws = [MassFraction(i / 4000) for i in range(4001)]
    grams = [w * density_20c(glycol, w) for w in ws]
    rows = []
    for g in range(math.floor(grams[-1]) + 1):
        i = max(1, bisect_left(grams, g))
        w = MassFraction(ws[i - 1] + (ws[i] - ws[i - 1]) * (g - grams[i - 1]) / (grams[i] - grams[i - 1]))
        rows.append(Row(density_20c(glycol, w), freeze_point(glycol, w).at_most_c, curve_doubt_k(glycol, w)))
    return tuple(rows)


def between(rows: tuple[Row, ...], grams: float, column: int) -> float:
    """One column of the rows by straight lines between them; the ends carry on."""
    i = min(max(0, int(grams)), len(rows) - 2)
    a, b = rows[i][column], rows[i + 1][column]
    return a + (grams - i) * (b - a)


def freeze_at(rows: tuple[Row, ...], grams: float) -> float:
    """Freeze point [degC]."""
    return between(rows, grams, 1)


_NODES = tuple(math.cos(math.pi * (k + 0.5) / 4) for k in range(4))


_COSINES = tuple(tuple(math.cos(j * math.pi * (k + 0.5) / 4) / 2 for k in range(4)) for j in range(4))


def cubic(of: Callable[[float], float]) -> tuple[float, float, float, float]:
    """Coefficients of the cubic through a function at the four Chebyshev nodes of -1 to 1."""
    p, q, r, s = (of(node) for node in _NODES)
    c = [p * a + q * b + r * c + s * d for a, b, c, d in _COSINES]
    return (c[0] / 2 - c[2], c[1] - 3 * c[3], 2 * c[2], 4 * c[3])


class Bent(NamedTuple):
    """A quantity near where it stands: value, slope and half the curvature."""

    value: float
    slope: float
    bend: float

    def scaled(self, sd: float) -> Bent:
        """The same against the number of standard deviations."""
        return Bent(self.value, self.slope * sd, self.bend * sd * sd)


def bent(of: Callable[[float], float], x: float, step: float, low: float, high: float) -> Bent:
    """Through three points around x, kept inside the bounds."""
    middle = min(max(x, low + step), high - step)
    a, b, c = of(middle - step), of(middle), of(middle + step)
    slope, bend = (c - a) / (2 * step), (a - 2 * b + c) / (2 * step * step)
    off = x - middle
    return Bent(b + off * (slope + off * bend), slope + 2 * off * bend, bend)
