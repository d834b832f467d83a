"""A loop as it comes in: how large it is, how full, how strong."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.job.doubt.inputs import Input
from temper_core.job.doubt.world import LEAST_L, Curve, World


@dataclass(frozen=True, slots=True)
class Full:
    """Full to the cold mark less what is missing, one fluid. curve: its specific volume; volumes [l]; mass fractions.

    weaker, stronger: mass fractions one standard deviation off. top: vessels that a low level is missing from, tank first.
    """

    curve: Curve
    volumes: tuple[float, ...]
    w: float
    weaker: float
    stronger: float
    capacity: Input
    capacity_sd: float  # share
    found: Input
    level: Input
    missing_l: float
    level_sd_l: float
    top: int

    @property
    def inputs(self) -> tuple[Input, ...]:
        """Capacity, strength found, level at arrival."""
        return (self.capacity, self.found, self.level)

    def run(self, world: World, z: Sequence[float]) -> None:
        """Fill it."""
        size, found, level = z
        world.curve = self.curve
        times = max(0.05, 1 + self.capacity_sd * size)
        world.volumes = [v * times for v in self.volumes]
        per = self.stronger - self.w if found > 0 else self.w - self.weaker
        world.fill_with(min(1.0, max(0.0, self.w + found * per)))
        missing = self.missing_l + self.level_sd_l * level
        if missing > 0:
            out = [0.0] * len(world.volumes)
            out[self.top] = missing
            world.take(out)
        elif missing < 0:  # over the mark
            world.keep(self.top, 1 - missing / max(LEAST_L, world.volumes[self.top]))
