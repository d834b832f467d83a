"""Two instruments on the same samples: difference against mean, its bias and its limits (Bland and Altman, 1986)."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import combinations

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Z95, t95

LEAST_PAIRS = 3


@dataclass(frozen=True, slots=True)
class Pair:
    """One sample read on both [mass percent of glycol], corrected."""

    first: float
    second: float

    @property
    def mean(self) -> float:
        """What it is drawn against."""
        return (self.first + self.second) / 2

    @property
    def difference(self) -> float:
        """First less second."""
        return self.first - self.second


@dataclass(frozen=True, slots=True)
class SampleRead:
    """A corrected reading [mass percent]: of which loop and place, on which instrument, when."""

    loop: str
    place: str
    instrument: str
    at: datetime
    percent: float


def same_samples(readings: Sequence[SampleRead], policy: Policy | None = None) -> dict[tuple[str, str], list[Pair]]:
    """Pairs by the two instruments (in order of name): the same loop and place within the policy's minutes.

    Repeats on one instrument are averaged first. A sample begins with its first reading.
    """
    within = timedelta(minutes=(policy or Policy())["same_sample_minutes"])
    samples: dict[tuple[str, str], list[tuple[datetime, dict[str, list[float]]]]] = defaultdict(list)
    for row in sorted(readings, key=lambda row: row.at):
        known = samples[row.loop, row.place]
        if not known or row.at - known[-1][0] > within:
            known.append((row.at, defaultdict(list)))
        known[-1][1][row.instrument].append(row.percent)
    pairs: dict[tuple[str, str], list[Pair]] = defaultdict(list)
    for rows in samples.values():
        for _, by_instrument in rows:
            means = {name: math.fsum(values) / len(values) for name, values in by_instrument.items()}
            for first, second in combinations(sorted(means), 2):
                pairs[first, second].append(Pair(means[first], means[second]))
    return dict(pairs)


@dataclass(frozen=True, slots=True)
class Agreement:
    """Bias and standard deviation of the differences, their 95 % limits, the doubt of the bias [mass percent].

    disagrees: the bias is more than chance and more than the rules allow. bias_sd: standard deviation of the bias.
    """

    count: int
    bias: float
    sd: float
    low: float
    high: float
    bias_half: float
    disagrees: bool
    said: Message
    bias_sd: float = 0.0


def agreement(pairs: Sequence[Pair], policy: Policy | None = None) -> Agreement | None:
    """How two instruments agree; None with fewer than three samples."""
    policy = policy or Policy()
    n = len(pairs)
    if n < LEAST_PAIRS:
        return None
    differences = [pair.difference for pair in pairs]
    bias = math.fsum(differences) / n
    sd = math.sqrt(math.fsum((d - bias) ** 2 for d in differences) / (n - 1))
    half = t95(n - 1) * sd / math.sqrt(n)
    apart = abs(bias) > max(half, policy["instruments_agree_percent"])
    values = {"bias_percent": abs(bias), "half_percent": half}
    side = "more" if bias > 0 else "less"
    if apart:
        words = "Reads {bias_percent} {side} than the other ±{half_percent}, on {count} samples: check its zero."
    else:
        words = "Agrees with the other within {half_percent} on {count} samples."
    said = say("disagrees" if apart else "agrees", words, side=side, count=str(n), **values)
    return Agreement(n, bias, sd, bias - Z95 * sd, bias + Z95 * sd, half, apart, said, half / Z95)
