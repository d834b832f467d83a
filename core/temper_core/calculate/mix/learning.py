"""What a whole ledger and its readings say of a loop's real capacity, beside what was believed of it."""

from __future__ import annotations

from dataclasses import dataclass, field

from temper_core.basis.uncertainty import Z95, half_width

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
class LearnedCapacity:
    """Capacity by the readings alone and together with what was believed [l, standard deviations]."""

    by_reading: Believed
    combined: Believed
    believed: Believed


def learn_capacity(believed: Believed, before: Believed, after: Believed, drained_l: float) -> LearnedCapacity | None:
    """What the readings of the finished loop teach: the capacity as the ledger has it before and after them.

    What they say alone is what brings one to the other by inverse variance. None where it would not help: the spread would
    not shrink by a fifth, less would fit than came out, or more than the upper end of what was believed.

    >>> learned = learn_capacity(Believed(32, 3.2), Believed(32, 3.2), Believed(30.4, 0.8), 24.5)
    >>> round(learned.by_reading.value, 1), round(learned.by_reading.sd, 2)
    (30.3, 0.83)
    """
    if not 0 < after.sd < before.sd or after.sd > (1 - SHARPER_BY) * believed.sd:
        return None
    weight = 1 / after.sd**2 - 1 / before.sd**2
    alone = Believed((after.value / after.sd**2 - before.value / before.sd**2) / weight, weight**-0.5)
    if alone.value < drained_l or alone.value > believed.value + Z95 * believed.sd:
        return None
    return LearnedCapacity(alone, after, believed)
