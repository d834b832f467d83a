"""The next of a few figures, from this machine's own and those of its sisters: partial pooling, with the doubt of few.

A figure varies from job to job, and its mean from machine to machine. Few figures say little of either spread, so each
begins at a usual one that counts as much as four figures would. Own figures then weigh against the sisters' by their
variances. Source: the normal hierarchical model (Gelman, Bayesian Data Analysis, ch. 5), spreads plugged in.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.uncertainty import Interval, t95

USUAL_COUNTS = 4  # figures that the usual spread weighs like; own default
LEAST_FIGURES = 2


@dataclass(frozen=True, slots=True)
class Pooled:
    """What the next figure will be: value, standard deviation, and where it lies in 95 of 100; of how many figures.

    own: figures of this machine; sisters: machines beside it that gave some.
    """

    value: float
    sd: float
    likely: Interval
    figures: int
    own: int
    sisters: int


def pooled(own: Sequence[float], sisters: Sequence[Sequence[float]], usual_sd: float, between_sd: float) -> Pooled | None:
    """The next figure of a machine; None where there are fewer than two in all. Raises CoreError for spreads below 0.

    usual_sd, between_sd: how far figures usually lie apart on one machine, and means of sister machines, in its unit.

    >>> pooled([0.70, 0.72], [], 0.03, 0.03).value
    0.71
    """
    check_between("usual_sd", usual_sd, 1e-12, 1e9, "")
    check_between("between_sd", between_sd, 0, 1e9, "")
    groups = [list(rows) for rows in sisters if len(rows)]
    figures = len(own) + sum(len(rows) for rows in groups)
    if not all(math.isfinite(value) for rows in (own, *groups) for value in rows):
        raise CoreError("own", "A figure is not a number. Leave it out.", "not_finite")
    if figures < LEAST_FIGURES:
        return None
    every = [list(own), *groups] if len(own) else groups
    free = sum(len(rows) - 1 for rows in every)
    apart = sum((value - _mean(rows)) ** 2 for rows in every for value in rows)
    within = (USUAL_COUNTS * usual_sd**2 + apart) / (USUAL_COUNTS + free)
    value, variance = _of_both(list(own), groups, within, _between(every, within, between_sd))
    sd = math.sqrt(variance + within)
    half = t95(USUAL_COUNTS + free) * sd
    return Pooled(round(value, 12), sd, Interval(value - half, value + half), figures, len(own), len(groups))


def _mean(rows: Sequence[float]) -> float:
    return sum(rows) / len(rows)


def _between(every: Sequence[Sequence[float]], within: float, usual_sd: float) -> float:
    """Variance of the machines' means, less what chance alone makes of it; drawn towards the usual one."""
    if len(every) < 2:
        return usual_sd**2
    means = [_mean(rows) for rows in every]
    middle, free = _mean(means), len(means) - 1
    seen = sum((mean - middle) ** 2 for mean in means) / free - _mean([within / len(rows) for rows in every])
    return (USUAL_COUNTS * usual_sd**2 + free * max(0.0, seen)) / (USUAL_COUNTS + free)


def _of_both(own: list[float], sisters: Sequence[Sequence[float]], within: float, between: float) -> tuple[float, float]:
    """Mean of this machine and its variance: its own figures weighed against where its sisters lie."""
    rows = [(_mean(own), within / len(own))] if own else []
    if sisters:
        weights = [1 / (between + within / len(group)) for group in sisters]
        middle = sum(weight * _mean(group) for weight, group in zip(weights, sisters, strict=True)) / sum(weights)
        rows.append((middle, between + 1 / sum(weights)))
    weight = sum(1 / variance for _, variance in rows)
    return sum(value / variance for value, variance in rows) / weight, 1 / weight
