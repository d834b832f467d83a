"""What is really so of one machine and of the hands and instruments on it: drawn by the depot's own rules, from a seed.

The sizes of the errors are the rules of "how sure", their shapes are normal unless it is said: common practice, no source.
Nothing here uses the code that reckons the doubt.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from random import Random

from temper_core.basis.policy import Policy
from temper_core.instruments.scales import FACTS, Scale, depression_k_per_w
from temper_core.job.fold_state import capacity_sd_l
from temper_core.job.loop import Loop
from temper_core.job.read.facts import Instrument
from temper_core.science import Glycol

MOST_PERCENT = 70.0  # nobody fills stronger


@dataclass(frozen=True, slots=True)
class Tool:
    """One instrument: what is engraved on it, and how it is off. off_zero_k: in kelvin at water; bias: in divisions."""

    instrument: Instrument
    off_zero_k: float
    bias_divisions: float
    eye_divisions: float


@dataclass(slots=True)
class Truth:
    """One machine. capacity_l, missing_l [l]; found_percent [% by volume]; product_w: glycol in the new product.

    shared: by how much each way of measuring litres is off in all its uses, as a share. exchange: of rinse water through a
    vessel, as a factor. mix_k: how much warmer than the first table it freezes, as a share of the way to the other table.
    """

    loop: Loop
    glycol: Glycol
    capacity_l: float
    missing_l: float
    found_percent: float
    product_w: float
    shared: dict[str, float]
    exchange: dict[str, float]
    table: float
    rng: Random
    policy: Policy = field(default_factory=Policy)

    def own_error(self, way: str) -> float:
        """The factor of one measurement of litres by this way: what all of them share, and its own."""
        sd = _sd_of(self.policy, way) * math.sqrt(1 - self.policy["shared_error_percent"] / 100)
        return max(0.05, 1 + self.shared[way] + self.rng.gauss(0.0, sd))


WAYS = ("weighed", "marks", "guessed", "jug")


def _sd_of(policy: Policy, way: str) -> float:
    return policy["poured_sd" if way == "jug" else f"drained_sd_{way}"] / 100


def draw(loop: Loop, glycol: Glycol, believed_percent: float, rng: Random, policy: Policy, *, level_seen: bool) -> Truth:
    """A truth that the beliefs about it are fair to."""
    shared = math.sqrt(policy["shared_error_percent"] / 100)
    level = policy["level_sd_seen" if level_seen else "level_sd_unseen"] / 100
    found = -1.0
    while not 0 <= found <= MOST_PERCENT:  # believed strengths are drawn until they can be
        found = rng.gauss(believed_percent, policy["inside_sd_unread"])
    return Truth(
        loop=loop,
        glycol=glycol,
        capacity_l=loop.capacity_l + rng.gauss(0.0, capacity_sd_l(loop, policy)),
        missing_l=loop.capacity_l * rng.gauss(0.0, level),
        found_percent=found,
        product_w=0.95 + rng.gauss(0.0, policy["product_sd"] / 100),
        shared={way: rng.gauss(0.0, _sd_of(policy, way) * shared) for way in WAYS},
        exchange={node.id: math.exp(rng.gauss(0.0, policy["exchange_sd_percent"] / 100)) for node in loop.layout.nodes},
        table=rng.random(),
        rng=rng,
        policy=policy,
    )


def draw_tool(instrument: Instrument, rng: Random, policy: Policy) -> Tool:
    """An instrument as it may be: its zero, and how right it is along its scale."""
    return Tool(
        instrument,
        rng.gauss(0.0, policy["zero_unchecked_k"]),
        rng.gauss(0.0, policy["accuracy_divisions"]),
        EYE_DIVISIONS,
    )


EYE_DIVISIONS = 0.15


def zero_in_axis(scale: Scale, glycol: Glycol, off_k: float, per_w: float) -> float:
    """An offset in kelvin at water, on the instrument's own axis; per_w: the axis over the mass fraction there."""
    assert FACTS[scale] is not None
    return off_k / depression_k_per_w(glycol) * per_w
