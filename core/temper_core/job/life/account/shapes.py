"""How a loss goes: steady, at once, from a day on, until a day. Lines by weighted least squares.

The doubt is that of looks and jugs, never that of the points alone: two looks that happen to agree prove nothing.
Method: generalised least squares with a known covariance; any handbook of regression. Another shape than the steady one is
believed only where it explains the looks better by far more than chance does (`loss_shape_sds`).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.linear import cholesky, whitened


class Shape(StrEnum):
    """How a loss goes over the weeks."""

    STEADY = "steady"
    AT_ONCE = "at_once"
    STARTS = "starts"
    STOPS = "stops"


@dataclass(frozen=True, slots=True)
class Fit:
    """One shape put through the looks. size: litres a week, or litres where it went at once; at: the look it turns at."""

    shape: Shape
    at: int
    size: float
    sd: float
    misfit: float


def covariance(sds: Sequence[float], moved: Sequence[float]) -> list[list[float]]:
    """Of what was lost until each look: its own error, and every jug's until then. moved: variance of each look's litres."""
    until, rest = [], 0.0
    for variance in moved:
        rest += variance
        until.append(rest)
    n = len(sds)
    return [[until[min(i, j)] + (sds[i] ** 2 if i == j else 0.0) for j in range(n)] for i in range(n)]


def shapes(weeks: Sequence[float], lost: Sequence[float], sds: Sequence[float], moved: Sequence[float]) -> list[Fit]:
    """Every shape through what was lost until each look, the steady one first; those whose size the looks cannot tell
    are left out.

    >>> rows = shapes([0, 1, 2, 3], [0.0, 0.5, 1.0, 1.5], [0.1] * 4, [0.0] * 4)
    >>> rows[0].shape.value, round(rows[0].size, 3)
    ('steady', 0.5)
    """
    root, n = cholesky(covariance(sds, moved)), len(weeks)
    level, lost = _held(whitened(root, [1.0] * n), whitened(root, lost))
    rows = [(Shape.STEADY, 0), *((Shape.AT_ONCE, k) for k in range(1, n))]
    rows += [(shape, k) for k in range(1, n - 1) for shape in (Shape.STARTS, Shape.STOPS)]
    found = []
    for shape, at in rows:
        effect = whitened(root, [_EFFECTS[shape](weeks, at, k) for k in range(n)])
        whole = _dot(effect, effect)
        effect = _without(level, effect)
        left = _dot(effect, effect)
        if left > 1e-12 * max(1.0, whole):
            size = _dot(effect, lost) / left
            rest = [y - size * x for y, x in zip(lost, effect, strict=True)]
            found.append(Fit(shape, at, size, 1 / math.sqrt(left), _dot(rest, rest)))
    return found


def misfit_of_none(lost: Sequence[float], sds: Sequence[float], moved: Sequence[float]) -> float:
    """How badly the looks fit a level that holds."""
    root = cholesky(covariance(sds, moved))
    _, rest = _held(whitened(root, [1.0] * len(lost)), whitened(root, lost))
    return _dot(rest, rest)


def _held(ones: list[float], lost: list[float]) -> tuple[list[float], list[float]]:
    """The direction of a level that holds, and what is left of the looks without it."""
    length = math.sqrt(_dot(ones, ones))
    level = [value / length for value in ones]
    return level, _without(level, lost)


def _without(level: Sequence[float], values: Sequence[float]) -> list[float]:
    along = _dot(level, values)
    return [value - along * one for value, one in zip(values, level, strict=True)]


_EFFECTS: dict[Shape, Callable[[Sequence[float], int, int], float]] = {
    Shape.STEADY: lambda weeks, at, n: weeks[n] - weeks[0],
    Shape.AT_ONCE: lambda weeks, at, n: 1.0 if n >= at else 0.0,
    Shape.STARTS: lambda weeks, at, n: max(0.0, weeks[n] - weeks[at]),
    Shape.STOPS: lambda weeks, at, n: min(weeks[n], weeks[at]) - weeks[0],
}


def _dot(one: Sequence[float], other: Sequence[float]) -> float:
    return sum(a * b for a, b in zip(one, other, strict=True))
