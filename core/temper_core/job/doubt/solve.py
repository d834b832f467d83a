"""The inputs as everything seen has them, and what follows for any quantity: where it lies, how sure, and from what.

Everything is taken at the most likely world: a Gauss-Newton step on the inputs and what was seen (the same as a Kalman
filter that is iterated), then a walk of the ledger one and a half to two standard deviations either way along the
direction in which a quantity changes most. That keeps the bend of a share, which is a product, and the edges that litres
have. Sources: the GUM (JCGM 100:2008), 5.2 and annex H for correlated inputs; Bell, Cathey (1993) for the iterated step;
both from memory. Measured against weighted worlds in docs/decisions.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from temper_core.basis.linear import cholesky, solved
from temper_core.basis.uncertainty import Z95, Interval
from temper_core.job.doubt.inputs import Source
from temper_core.job.doubt.program import STEP, Program
from temper_core.job.doubt.seen import Seen
from temper_core.job.doubt.world import LEAST_L, World

ROUNDS = 6  # at most, of the Gauss-Newton step
CLOSE = 0.15  # standard deviations: near enough
CUT_OFF = 0.7  # of the way that a straight line would go: less, and an edge stands in it


Quantity = Callable[[World], float]


@dataclass(frozen=True, slots=True)
class Part:
    """What one source adds: its share of the variance [%], and the standard deviation it would leave alone."""

    source: Source
    share_percent: float
    sd: float


@dataclass(frozen=True, slots=True)
class Sure:
    """A quantity with its standard deviation and its 95 % interval, in its own unit; parts: largest first."""

    value: float
    sd: float
    interval: Interval
    parts: tuple[Part, ...]


class Solved:
    """The most likely world of a program, and how far the inputs may lie from it. near: where to begin."""

    def __init__(self, program: Program, near: Solved | None = None) -> None:
        self.program = program
        begun = near.by_key() if near is not None else {}
        self.z = [begun.get(one.key, 0.0) for one in program.inputs]
        self._sures: dict[Quantity, Sure] = {}
        self._noted: dict[tuple[str, Quantity], Sure] = {}
        self._rows: list[list[float]] = []  # of what was seen: change per standard deviation of each input
        self._root: list[list[float]] = []
        self._look()
        if program.sights:
            self._settle(program.sights)

    def by_key(self) -> dict[str, float]:
        """The inputs by their keys [standard deviations off]."""
        return {one.key: z for one, z in zip(self.program.inputs, self.z, strict=True)}

    def _look(self) -> None:
        """The world here, and those one small step away."""
        snapshots = self.program.snapshots(self.z)
        self.world = self._middle = snapshots[-1]
        self._near = self.program.neighbours(self.z, snapshots)

    def _settle(self, sights: Sequence[Seen]) -> None:
        for _ in range(ROUNDS):
            here = self.world.seen
            self._rows = [[(near.seen[k] - here[k]) / STEP for near in self._near] for k in range(len(sights))]
            told = [sight.measured(here[k]) for k, sight in enumerate(sights)]
            self._root = cholesky(_plus(self._rows, [sd for _, sd in told]))
            off = [told[k][0] - here[k] + _dot(self._rows[k], self.z) for k in range(len(sights))]
            weights = solved(self._root, off)
            z = [sum(w * row[i] for w, row in zip(weights, self._rows, strict=True)) for i in range(len(self.z))]
            moved = max((abs(a - b) for a, b in zip(z, self.z, strict=True)), default=0.0)
            self.z = z
            if moved < CLOSE:  # the slopes of a place that near are those of here
                self.world = self.program.run(z)
                return
            self._look()

    def value(self, of: Quantity) -> float:
        """A quantity in the most likely world."""
        return of(self.world)

    def near(self) -> Near:
        """Litres and old coolant of every vessel in the worlds one small step away."""
        return Near(self)

    def slopes(self, of: Quantity) -> list[float]:
        """How a quantity changes with each input, per standard deviation of it as believed before anything was seen."""
        here = of(self._middle)
        return [(of(near) - here) / STEP for near in self._near]

    def _after(self, a: Sequence[float], rows: Sequence[Sequence[float]], root: Sequence[Sequence[float]]) -> list[float]:
        """Covariance of the inputs times a: what is left of it once everything was seen."""
        if not rows:
            return list(a)
        weights = solved(root, [_dot(row, a) for row in rows])
        return [a[i] - sum(w * row[i] for w, row in zip(weights, rows, strict=True)) for i in range(len(a))]

    def sd_of(self, slopes: Sequence[float]) -> float:
        """Standard deviation of a quantity that has these slopes."""
        return math.sqrt(max(0.0, _dot(slopes, self._after(slopes, self._rows, self._root))))

    def spread(self, of: Quantity) -> tuple[float, list[float], list[float]]:
        """Standard deviation of a quantity, its slopes, and the direction in which it changes most."""
        a = self.slopes(of)
        d = self._after(a, self._rows, self._root)
        return math.sqrt(max(0.0, _dot(a, d))), a, d

    def covariance(self, one: Quantity, other: Quantity) -> float:
        """Of two quantities."""
        return _dot(self.slopes(one), self._after(self.slopes(other), self._rows, self._root))

    def sure(self, of: Quantity) -> Sure:
        """A quantity with its interval, walked along the direction in which it changes most; of: a function with a name."""
        if of not in self._sures:
            self._sures[of] = self._sure(of)
        return self._sures[of]

    def noted(self, name: str, of: Quantity) -> Sure:
        """The same of the world as it was noted under a name; KeyError where it was not."""
        if (name, of) not in self._noted:
            self._noted[name, of] = self._sure(lambda world: of(world.then(name)))
        return self._noted[name, of]

    def sd_without(self, of: Quantity, kind: type[Seen]) -> float:
        """Standard deviation of a quantity, had nothing of this kind been seen."""
        a, sights = self.slopes(of), self.program.sights
        kept = [k for k, sight in enumerate(sights) if not isinstance(sight, kind)]
        rows = [self._rows[k] for k in kept]
        root = cholesky(_plus(rows, [sights[k].measured(self.world.seen[k])[1] for k in kept])) if kept else []
        return math.sqrt(max(0.0, _dot(a, self._after(a, rows, root))))

    def _sure(self, of: Quantity) -> Sure:
        sd, a, d = self.spread(of)
        here = self.value(of)
        if sd <= 0:
            return Sure(here, 0.0, Interval(here, here), ())
        ends = [self._end(of, d, sd, side) for side in (-1, 1)]
        if any(abs(end - here) < CUT_OFF * Z95 * sd for end in ends):
            ends = self._past_an_edge(of, here, a, d, ends)
        return Sure(here, sd, Interval(min(here, *ends), max(here, *ends)), self._parts(a, d, sd))

    def _end(self, of: Quantity, d: Sequence[float], sd: float, side: int) -> float:
        """The quantity in the world at this end of the walk along a direction."""
        return of(self.program.run([z + side * Z95 * x / sd for z, x in zip(self.z, d, strict=True)]))

    def _past_an_edge(
        self, of: Quantity, here: float, a: Sequence[float], d: Sequence[float], ends: Sequence[float]
    ) -> list[float]:
        """Ends of an interval whose walk ran into an edge: coolant weaker than water is none, whatever else is off.

        The input that adds most is the one at its edge; all others, walked alone, reach at least as far as they can.
        """
        most = max(range(len(a)), key=lambda i: a[i] * d[i])
        rest = [0.0 if i == most else x for i, x in enumerate(a)]
        along = self._after(rest, self._rows, self._root)
        sd = math.sqrt(max(0.0, _dot(rest, along)))
        if sd <= 0:
            return list(ends)
        alone = [self._end(of, along, sd, side) for side in (-1, 1)]
        return [one if abs(one - here) > abs(end - here) else end for one, end in zip(alone, ends, strict=True)]

    def _parts(self, a: Sequence[float], d: Sequence[float], sd: float) -> tuple[Part, ...]:
        """Each source's part of the variance; two that work against each other are held to what is left of both."""
        sums: dict[Source, float] = {}
        for one, x, y in zip(self.program.inputs, a, d, strict=True):
            sums[one.source] = sums.get(one.source, 0.0) + x * y
        whole = sum(max(0.0, part) for part in sums.values())
        if whole <= 0:
            return ()
        kept = ((source, max(0.0, part) / whole) for source, part in sums.items())
        rows = [Part(source, 100 * share, sd * math.sqrt(share)) for source, share in kept if share > 0.005]
        return tuple(sorted(rows, key=lambda row: -row.share_percent))

    def sd_with_one_more(self, of: Quantity, sight: Seen) -> float:
        """Standard deviation of a quantity, were it seen once more as it was last, by a look of its own at another line."""
        a, last = self.slopes(of), self._rows[-1]
        lines = [one.source is Source.LINE for one in self.program.inputs]
        own = sum(x * x for x, line in zip(last, lines, strict=True) if line)
        row = [0.0 if line else x for x, line in zip(last, lines, strict=True)]
        rows = [*self._rows, row]
        sds = [one.measured(self.world.seen[k])[1] for k, one in enumerate(self.program.sights)]
        matrix = _plus(rows, [*sds, math.hypot(sight.measured(self.world.seen[-1])[1], math.sqrt(own))])
        return math.sqrt(max(0.0, _dot(a, self._after(a, rows, cholesky(matrix)))))

    def sd_if(self, of: Quantity, source: Source) -> float | None:
        """Standard deviation of a quantity, had this source been measured as well as can be; None: nothing better known."""
        times = [one.better if one.source is source and one.better is not None else 1.0 for one in self.program.inputs]
        if all(one == 1.0 for one in times):
            return None
        a = [x * t for x, t in zip(self.slopes(of), times, strict=True)]
        if not self._rows:
            return math.sqrt(_dot(a, a))
        rows = [[x * t for x, t in zip(row, times, strict=True)] for row in self._rows]
        matrix = _plus(rows, [sight.measured(self.world.seen[k])[1] for k, sight in enumerate(self.program.sights)])
        return math.sqrt(max(0.0, _dot(a, self._after(a, rows, cholesky(matrix)))))


class Near:
    """Every vessel's litres and old share in the worlds one small step away, reckoned once for all of them."""

    def __init__(self, solved: Solved) -> None:
        self._solved = solved
        worlds = [solved._middle, *solved._near]
        self.litres = [world.all_litres() for world in worlds]
        self._old = [world.old for world in worlds]

    def old_shares(self, i: int) -> list[float]:
        """Old coolant in a vessel [% of its litres]."""
        return [
            100 * old[i] / litres[i] if litres[i] > LEAST_L else 0.0
            for old, litres in zip(self._old, self.litres, strict=True)
        ]

    def sd(self, values: Sequence[float]) -> float:
        """Standard deviation of what is this much in each of the worlds, the most likely one first."""
        return self._solved.sd_of([(value - values[0]) / STEP for value in values[1:]])


def _plus(rows: Sequence[Sequence[float]], sds: Sequence[float]) -> list[list[float]]:
    """Covariance of what is seen: what the inputs make of it, and its own doubt."""
    matrix = [[_dot(a, b) for b in rows] for a in rows]
    for k, sd in enumerate(sds):
        matrix[k][k] += sd * sd
    return matrix


def _dot(a: Sequence[float], b: Sequence[float]) -> float:
    return sum(x * y for x, y in zip(a, b, strict=True))
