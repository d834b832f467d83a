"""What each entry does to a world: the acts of a ledger, in order, with the inputs that each of them depends on.

The fold notes one act for each change it makes to what is inside; with every input at 0 the acts lead where the fold leads.
Models and shares: common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from temper_core.basis.quantity import WATER_DENSITY_20C
from temper_core.job.doubt.inputs import Input
from temper_core.job.doubt.world import LEAST_L, Curve, World

WATER_KG_L = WATER_DENSITY_20C / 1000
Errors = tuple[tuple[Input, float], ...]  # inputs with their standard deviation, as a share of the litres


class Act(Protocol):
    """One step of a ledger."""

    @property
    def inputs(self) -> tuple[Input, ...]:
        """The inputs it depends on."""
        ...

    def run(self, world: World, z: Sequence[float]) -> None:
        """Do it; z: each of its inputs in standard deviations."""
        ...


def _off(errors: Errors, z: Sequence[float]) -> float:
    """The factor on litres that these errors make."""
    return max(0.0, 1 + sum(sd * at for (_, sd), at in zip(errors, z, strict=False)))


@dataclass(frozen=True, slots=True)
class Out:
    """Litres out of each vessel. errors: of the litres in all. tilt: which of the vessels gave them.

    by_kg: the share of the litres that was weighed, at per_kg litres a kilogram: a world of other strength is as heavy.
    """

    litres: tuple[float, ...]
    errors: Errors
    tilt: Input
    tilt_sd: float
    by_kg: float = 0.0
    per_kg: float = 1.0

    @property
    def inputs(self) -> tuple[Input, ...]:
        """The errors, then the tilt."""
        return (*(one for one, _ in self.errors), self.tilt)

    def run(self, world: World, z: Sequence[float]) -> None:
        """Take them out."""
        off = _off(self.errors, z)
        if self.by_kg > 0:
            group = [i for i, litres in enumerate(self.litres) if litres > 0]
            off *= 1 - self.by_kg + self.by_kg * world.per_kg(world.w_of(group)) / self.per_kg
        out, whole = list(self.litres), sum(self.litres)
        lean = self.tilt_sd * z[-1]
        if lean and whole > 0:
            largest = max(range(len(out)), key=out.__getitem__)
            out = [litres * (math.exp(lean) if i == largest else 1.0) for i, litres in enumerate(out)]
            off *= whole / sum(out)
        world.take([litres * off for litres in out])


@dataclass(frozen=True, slots=True)
class Water:
    """Water into the empty room: up to the cold mark (litres None), or so many litres."""

    litres: float | None
    errors: Errors = ()

    @property
    def inputs(self) -> tuple[Input, ...]:
        """Its errors."""
        return tuple(one for one, _ in self.errors)

    def run(self, world: World, z: Sequence[float]) -> None:
        """Pour it."""
        if self.litres is not None:
            world.pour(0.0, self.litres * _off(self.errors, z) * WATER_KG_L)
            return
        for i, (volume, held) in enumerate(zip(world.volumes, world.all_litres(), strict=True)):
            world.water[i] += max(0.0, volume - held) * WATER_KG_L


@dataclass(frozen=True, slots=True)
class Ran:
    """These groups of vessels became one fluid each; to_mark: kept at the cold mark with water meanwhile."""

    groups: tuple[tuple[int, ...], ...]
    to_mark: bool = False

    @property
    def inputs(self) -> tuple[Input, ...]:
        """None."""
        return ()

    def run(self, world: World, z: Sequence[float]) -> None:
        """Mix them."""
        for _ in range(2 if self.to_mark else 1):
            litres = world.all_litres()
            for group in self.groups:
                world.mix(group, litres)
            if self.to_mark and not _:
                Water(None).run(world, ())


@dataclass(frozen=True, slots=True)
class Swept:
    """Water through one vessel while it runs out again; exchange: how well the water gets everywhere (on a log scale)."""

    vessel: int
    through_l: float
    exchange: Input
    exchange_sd: float

    @property
    def inputs(self) -> tuple[Input, ...]:
        """What the vessel exchanges."""
        return (self.exchange,)

    def run(self, world: World, z: Sequence[float]) -> None:
        """Thin it."""
        i, volume = self.vessel, world.volumes[self.vessel]
        kept = math.exp(-self.through_l * math.exp(self.exchange_sd * z[0]) / volume) if volume > 0 else 0.0
        litres = world.litres(i)
        world.keep(i, kept)
        world.water[i] += (1 - kept) * litres * WATER_KG_L


@dataclass(frozen=True, slots=True)
class Poured:
    """Product and water in, by the empty room. product_w: its glycol as a mass fraction, product_sd its doubt."""

    product_l: float
    water_l: float
    product_w: float
    product_sd: float
    product: Input
    errors: Errors

    @property
    def inputs(self) -> tuple[Input, ...]:
        """The errors of the litres, then the product's own glycol."""
        return (*(one for one, _ in self.errors), self.product)

    def run(self, world: World, z: Sequence[float]) -> None:
        """Pour it."""
        off = _off(self.errors, z)
        w = min(1.0, max(0.0, self.product_w + self.product_sd * z[-1])) if self.product_l > 0 else 0.0
        product_kg = self.product_l * off / world.per_kg(w)
        world.pour(product_kg * w, product_kg * (1 - w) + self.water_l * off * WATER_KG_L)


@dataclass(frozen=True, slots=True)
class Thickened:
    """More old coolant in these vessels than any walk explains, as a reading says: by a factor, on a log scale sd off."""

    vessels: tuple[int, ...]
    factor: float
    apart: Input
    sd: float

    @property
    def inputs(self) -> tuple[Input, ...]:
        """How far the reading is off."""
        return (self.apart,)

    def run(self, world: World, z: Sequence[float]) -> None:
        """As many litres, more of them old coolant."""
        times = self.factor * math.exp(self.sd * z[0])
        for i in self.vessels:
            litres = world.litres(i)
            if litres <= LEAST_L:
                continue
            world.old[i] = min(litres, world.old[i] * times)
            glycol, kg = world.glycol[i] * times, world.glycol[i] + world.water[i]
            for _ in range(3):  # the litres stay, so the kilograms follow the strength
                glycol = min(glycol, kg)
                kg = litres / world.per_kg(glycol / kg)
            world.glycol[i], world.water[i] = glycol, max(0.0, kg - glycol)


@dataclass(frozen=True, slots=True)
class Lost:
    """Litres gone from every vessel alike, of the mixed fluid."""

    litres: float
    errors: Errors = ()

    @property
    def inputs(self) -> tuple[Input, ...]:
        """Its errors."""
        return tuple(one for one, _ in self.errors)

    def run(self, world: World, z: Sequence[float]) -> None:
        """Lose it."""
        held = world.all_litres()
        whole, gone = sum(held), self.litres * _off(self.errors, z)
        share = min(1.0, gone / whole) if whole > LEAST_L else 0.0
        for i in range(len(held)):
            world.keep(i, 1 - share)


@dataclass(frozen=True, slots=True)
class Rebased:
    """The other glycol goes in: what is left of the first counts as water."""

    curve: Curve

    @property
    def inputs(self) -> tuple[Input, ...]:
        """None."""
        return ()

    def run(self, world: World, z: Sequence[float]) -> None:
        """Count it as water."""
        litres = world.all_litres()
        world.curve = self.curve
        world.glycol = [0.0] * len(litres)
        world.water = [one * WATER_KG_L for one in litres]


@dataclass(frozen=True, slots=True)
class Noted:
    """Keep what is inside now under a name, and which vessels are one fluid."""

    name: str
    vessels: tuple[int, ...]

    @property
    def inputs(self) -> tuple[Input, ...]:
        """None."""
        return ()

    def run(self, world: World, z: Sequence[float]) -> None:
        """Note it."""
        world.note(self.name, self.vessels)
