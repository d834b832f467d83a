"""What was seen of a world: readings of its strength, a level at its mark. Each is a number with its own doubt."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from temper_core.job.doubt.inputs import Input
from temper_core.job.doubt.world import World

LEAST_SD = 1e-6
OPEN_END_SD = 0.02  # mass fraction: how sharp "stronger than the last mark" is


def _one_sided(x: float) -> tuple[float, float]:
    """Where a value is pulled and how sharply by "not past this", x standard deviations inside; in standard deviations.

    Newton's step on the logarithm of a normal probability.
    """
    if x > 6:
        return 0.0, 1e6  # far inside: says nothing
    slope = math.exp(-x * x / 2) / math.sqrt(2 * math.pi) / max(1e-12, 0.5 * math.erfc(-x / math.sqrt(2)))
    bend = max(1e-9, slope * (slope + x))
    return slope / bend, 1 / math.sqrt(bend)


def _there(world: World, vessels: Sequence[int], noted: str) -> float:
    """The strength in these vessels together, or as it was when they ran."""
    return world.w_then(noted) if noted else world.w_of(vessels)


class Seen(Protocol):
    """Something seen; run notes in the world what it should have shown there."""

    @property
    def inputs(self) -> tuple[Input, ...]:
        """The inputs it depends on."""
        ...

    def run(self, world: World, z: Sequence[float]) -> None:
        """Note what it should have shown."""
        ...

    def measured(self, predicted: float) -> tuple[float, float]:
        """The value and standard deviation that stand for it, where a world predicts this."""
        ...

    def log_chance(self, predicted: float) -> float:
        """Logarithm of how likely it is to be seen in a world that predicts this, up to a constant."""
        ...


@dataclass(frozen=True, slots=True)
class ReadW:
    """A reading of these vessels together, as a mass fraction, corrected.

    sd: of this look alone. errors: instrument and zero, with their standard deviations in mass fraction. at_most: it is
    only a bound, since it is not distinguishable from water. noted: of a jar, the name its strength was noted under.
    """

    vessels: tuple[int, ...]
    w: float
    sd: float
    errors: tuple[tuple[Input, float], ...]
    at_most: bool = False
    noted: str = ""
    entry_id: str = ""

    @property
    def inputs(self) -> tuple[Input, ...]:
        """What the looks on one instrument share."""
        return tuple(one for one, _ in self.errors)

    def run(self, world: World, z: Sequence[float]) -> None:
        """The strength there, as this instrument shows it."""
        off = sum(sd * at for (_, sd), at in zip(self.errors, z, strict=True))
        world.seen.append(_there(world, self.vessels, self.noted) + off)

    def measured(self, predicted: float) -> tuple[float, float]:
        """The reading; of a bound, what its slope and bend there stand for (Newton's step on a normal probability)."""
        sd = max(LEAST_SD, self.sd)
        if not self.at_most:
            return self.w, sd
        off, spread = _one_sided((self.w - predicted) / sd)
        return predicted - sd * off, sd * spread

    def log_chance(self, predicted: float) -> float:
        """Normal; of a bound, the chance to lie below it."""
        x = (self.w - predicted) / max(LEAST_SD, self.sd)
        if self.at_most:
            return math.log(max(1e-300, 0.5 * math.erfc(-x / math.sqrt(2))))
        return -x * x / 2


@dataclass(frozen=True, slots=True)
class Between:
    """A strength between two mass fractions, as steps say it; high 1 where that end is open."""

    vessels: tuple[int, ...]
    low: float
    high: float
    noted: str = ""
    entry_id: str = ""

    @property
    def inputs(self) -> tuple[Input, ...]:
        """None."""
        return ()

    def run(self, world: World, z: Sequence[float]) -> None:
        """The strength there."""
        world.seen.append(_there(world, self.vessels, self.noted))

    def measured(self, predicted: float) -> tuple[float, float]:
        """Its middle, evenly spread; of an open end, what its bound stands for there."""
        if self.high < 1:
            return (self.low + self.high) / 2, (self.high - self.low) / math.sqrt(12)
        off, spread = _one_sided((predicted - self.low) / OPEN_END_SD)
        return predicted + OPEN_END_SD * off, OPEN_END_SD * spread

    def log_chance(self, predicted: float) -> float:
        """In it, or not; an open end is blurred."""
        if self.high < 1:
            return 0.0 if self.low <= predicted <= self.high else -50.0
        return math.log(max(1e-300, 0.5 * math.erfc((self.low - predicted) / OPEN_END_SD / math.sqrt(2))))


@dataclass(frozen=True, slots=True)
class AtMark:
    """The level is at the cold mark: what is missing up to it [share of the capacity] is air, and how the mark is read."""

    air: float
    sd: float

    @property
    def inputs(self) -> tuple[Input, ...]:
        """None."""
        return ()

    def run(self, world: World, z: Sequence[float]) -> None:
        """Empty space up to the mark."""
        whole = sum(world.volumes)
        world.seen.append((whole - sum(world.all_litres())) / whole)

    def measured(self, predicted: float) -> tuple[float, float]:
        """The air that is usual."""
        return self.air, self.sd

    def log_chance(self, predicted: float) -> float:
        """Normal."""
        return -(((predicted - self.air) / self.sd) ** 2) / 2
