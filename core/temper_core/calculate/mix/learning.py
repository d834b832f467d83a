"""What a proven reading says about the loop's real capacity: the mass balance solved for the volume."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from temper_core.basis.quantity import VolumePercent
from temper_core.basis.uncertainty import Z95, half_width, propagate
from temper_core.science import Glycol, density_20c, mass_fraction_of

SHARPER_BY = 0.2  # offered only when the spread shrinks by a fifth


@dataclass(frozen=True, slots=True)
class Believed:
    """A quantity with its standard deviation. half: of the 95 % interval."""

    value: float
    sd: float
    half: float = field(init=False, default=0.0)

    def __post_init__(self) -> None:
        object.__setattr__(self, "half", half_width(self.sd))


@dataclass(frozen=True, slots=True)
class CapacityQuestion:
    """A loop drained, filled to its cold mark, run and read.

    capacity, drained [l]; inside_percent: strength of what was left inside [% by volume]; poured_glycol_kg: glycol in what
    was poured; read_w: corrected reading as a mass fraction.
    """

    glycol: Glycol
    capacity: Believed
    drained: Believed
    inside_percent: Believed
    poured_glycol_kg: Believed
    read_w: Believed


@dataclass(frozen=True, slots=True)
class LearnedCapacity:
    """Capacity by the reading alone and combined with what was believed [l, standard deviations]."""

    by_reading: Believed
    combined: Believed
    believed: Believed


def learn_capacity(q: CapacityQuestion) -> LearnedCapacity | None:
    """The capacity that reading and litres agree on, combined with the belief by inverse variance.

    None where it would not help: the reading is no stronger than what was inside, the spread would not shrink by a fifth,
    or more would have to fit than was drained plus what could be inside (the upper end of the belief).
    """

    def balance(x: Sequence[float]) -> float:
        drained, inside, poured, w = x
        inside_w = mass_fraction_of(q.glycol, VolumePercent(inside))
        h_inside = inside_w * density_20c(q.glycol, inside_w) / 1000
        return (poured - h_inside * drained) / (w * density_20c(q.glycol, w) / 1000 - h_inside)

    inside_w = mass_fraction_of(q.glycol, VolumePercent(q.inside_percent.value))
    if q.read_w.value <= inside_w + 0.02:
        return None
    terms = (q.drained, q.inside_percent, q.poured_glycol_kg, q.read_w)
    at = [term.value for term in terms]
    bounds = ((0.0, math.inf), (0.0, 100.0), (0.0, math.inf), (inside_w + 0.01, 1.0))
    sd = propagate(balance, at, [term.sd for term in terms], bounds)
    by_reading = Believed(balance(at), sd)
    if sd <= 0 or q.capacity.sd <= 0:
        return None
    weight, before = 1 / sd**2, 1 / q.capacity.sd**2
    value = (by_reading.value * weight + q.capacity.value * before) / (weight + before)
    combined = Believed(value, (weight + before) ** -0.5)
    largest_inside = max(0.0, q.capacity.value + Z95 * q.capacity.sd - q.drained.value)
    too_large = by_reading.value > q.drained.value + largest_inside or by_reading.value < q.drained.value
    if too_large or combined.sd > (1 - SHARPER_BY) * q.capacity.sd:
        return None
    return LearnedCapacity(by_reading, combined, q.capacity)
