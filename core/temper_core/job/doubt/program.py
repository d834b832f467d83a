"""A ledger's acts and sights with their inputs numbered: the world that any values of the inputs lead to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.job.doubt.acts import Act
from temper_core.job.doubt.inputs import Input
from temper_core.job.doubt.seen import AtMark, Between, ReadW, Seen
from temper_core.job.doubt.world import EMPTY, World

STEP = 0.1  # standard deviations, of the differences
SEEN = (ReadW, Between, AtMark)
Step = Act | Seen


@dataclass(frozen=True, slots=True)
class Program:
    """A ledger's acts with their inputs numbered."""

    steps: tuple[Step, ...]
    inputs: tuple[Input, ...]
    places: tuple[tuple[int, ...], ...]
    first: tuple[int, ...]  # for each input: the first step that depends on it

    @classmethod
    def of(cls, steps: Sequence[Step]) -> Program:
        """Number them."""
        at: dict[str, int] = {}
        inputs: list[Input] = []
        places, first = [], []
        for k, step in enumerate(steps):
            for one in step.inputs:
                if one.key not in at:
                    at[one.key] = len(inputs)
                    inputs.append(one)
                    first.append(k)
            places.append(tuple(at[one.key] for one in step.inputs))
        return cls(tuple(steps), tuple(inputs), tuple(places), tuple(first))

    @property
    def sights(self) -> tuple[Seen, ...]:
        """What was seen, in order."""
        return tuple(step for step in self.steps if isinstance(step, SEEN))

    def run(self, z: Sequence[float]) -> World:
        """The world in which the inputs are this far off [standard deviations]."""
        return self._go(World([], EMPTY), 0, z)

    def _go(self, world: World, start: int, z: Sequence[float]) -> World:
        for k in range(start, len(self.steps)):
            self.steps[k].run(world, [z[i] for i in self.places[k]])
        return world

    def snapshots(self, z: Sequence[float]) -> list[World]:
        """The world before each step, and the last one."""
        world, kept = World([], EMPTY), []
        for k, step in enumerate(self.steps):
            kept.append(_copy(world))
            step.run(world, [z[i] for i in self.places[k]])
        return [*kept, world]

    def neighbours(self, z: Sequence[float], snapshots: Sequence[World]) -> list[World]:
        """For each input, the world with it one small step further."""
        worlds = []
        for i in range(len(self.inputs)):
            near = [*z[:i], z[i] + STEP, *z[i + 1 :]]
            worlds.append(self._go(_copy(snapshots[self.first[i]]), self.first[i], near))
        return worlds


def _copy(w: World) -> World:
    return World(w.volumes, w.curve, w.glycol[:], w.water[:], w.old[:], dict(w.noted), w.seen[:], w.impossible_l)
