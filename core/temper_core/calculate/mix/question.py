"""What a mix is asked about: what is inside, what is poured, how sure both are; and the refusals they share."""

from __future__ import annotations

from dataclasses import dataclass, field

from temper_core.basis.errors import CoreError, called, check_between, under
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.calculate.mix.masses import Masses, litres_of, masses_of
from temper_core.calculate.mix.spread import Spread, check_spread
from temper_core.science import (
    DEFAULT_CONCENTRATE,
    Glycol,
    boil_c,
    density_20c,
    freeze_point,
    mass_fraction_at_freeze,
    mass_fraction_of,
    strength_of,
)

LARGEST_LOOP_L = 5000.0  # a railcar holds some hundreds; above this a figure was mistyped
WEAKEST_CONCENTRATE_W = 0.30
MOST_POURS = 50
_SHARE_TODO = "Percent is meant, not a fraction."


@dataclass(frozen=True, slots=True)
class Pour:
    """Litres already poured on top of what was inside, and their strength by volume of the default concentrate."""

    volume_l: float
    strength_percent: VolumePercent = VolumePercent(0.0)

    def __post_init__(self) -> None:
        check_between("volume_l", self.volume_l, 0, LARGEST_LOOP_L, "L", "Litres in cannot be negative.")
        check_between("strength_percent", self.strength_percent, 0, 100, "% by volume", _SHARE_TODO)


@dataclass(frozen=True, slots=True)
class Inside:
    """What the loop holds: litres left after draining with their strength, and what was poured on them since.

    other_base_l: of the litres left, how many are a remainder of the other glycol; they count as water.
    """

    volume_l: float
    strength_percent: VolumePercent = VolumePercent(0.0)
    poured: tuple[Pour, ...] = ()
    other_base_l: float = 0.0

    def __post_init__(self) -> None:
        if len(self.poured) > MOST_POURS:
            raise CoreError(
                "poured", f"{len(self.poured)} pours: at most {MOST_POURS} are allowed. Add them up.", "too_many"
            )
        if self.other_base_l:
            todo = "It is a part of what is inside."
            check_between("other_base_l", self.other_base_l, 0, self.volume_l, "L", todo)


def left_masses(glycol: Glycol, inside: Inside) -> Masses:
    """Kilograms of glycol and water in what was left after draining; a remainder of the other base counts as water."""
    w = mass_fraction_of(glycol, inside.strength_percent)
    known = masses_of(glycol, inside.volume_l - inside.other_base_l, w)
    return known.plus(Masses(0.0, inside.other_base_l * WATER_DENSITY_20C / 1000)) if inside.other_base_l else known


def poured_masses(glycol: Glycol, inside: Inside) -> Masses:
    """Kilograms of glycol and water poured since."""
    total = Masses()
    for pour in inside.poured:
        total = total.plus(masses_of(glycol, pour.volume_l, mass_fraction_of(glycol, pour.strength_percent)))
    return total


def inside_masses(glycol: Glycol, inside: Inside) -> Masses:
    """Kilograms of glycol and water inside now: what was left, and what was poured on it."""
    return left_masses(glycol, inside).plus(poured_masses(glycol, inside))


@dataclass(frozen=True, slots=True)
class MixQuestion:
    """A loop filled to its cold mark with concentrate and water so that it freezes at target_freeze_c.

    be_sure: plan so that the warm end of the interval, the curve's own doubt in it, meets the target. as_it_is: the product
    alone, up to the cold mark: a ready-mix that nobody chose to dilute.
    """

    glycol: Glycol
    loop_volume_l: float
    inside: Inside
    target_freeze_c: float
    concentrate: MassFraction = DEFAULT_CONCENTRATE
    spread: Spread | None = None
    be_sure: bool = False
    as_it_is: bool = False
    have: Masses = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        check_loop(self.glycol, self.loop_volume_l, self.inside)
        check_concentrate(self.concentrate)
        if self.be_sure and self.as_it_is:
            raise CoreError(
                "be_sure", "An undiluted ready-mix cannot be planned to be sure. Choose one of the two.", "not_both"
            )
        with called("target_freeze_c"):
            mass_fraction_at_freeze(self.glycol, self.target_freeze_c)
        if self.spread:
            check_spread(self.spread, self.loop_volume_l)
        object.__setattr__(self, "have", inside_masses(self.glycol, self.inside))


def check_loop(glycol: Glycol, loop_volume_l: float, inside: Inside) -> None:
    """Refuse a loop or a residual that cannot be; raises CoreError with the field's path."""
    check_between("loop_volume_l", loop_volume_l, 0.1, LARGEST_LOOP_L, "L", "Check the capacity.")
    with under("inside"):
        todo = "That is more than the loop holds. Check the litres, or the capacity."
        check_between("volume_l", inside.volume_l, 0, loop_volume_l, "L", todo)
        check_between("strength_percent", inside.strength_percent, 0, 100, "% by volume", _SHARE_TODO)
        if inside.poured:
            together = litres_of(glycol, inside_masses(glycol, inside))
            check_between("poured", together, 0, loop_volume_l * (1 + 1e-9), "L", todo)


def check_concentrate(glycol_w: MassFraction) -> None:
    """Refuse a concentrate that is none, and a fraction typed for a percent."""
    low = WEAKEST_CONCENTRATE_W * 100
    todo = "Read the glycol content in percent by mass from the product's data sheet."
    check_between("concentrate.glycol_mass_percent", glycol_w * 100, low, 100, "% by mass", todo)


@dataclass(frozen=True, slots=True)
class Final:
    """A full loop, well mixed. freeze_c is None where nobody tabulates it, freeze_below_c then says below what."""

    volume_l: float
    strength_percent: float
    poured_percent: float
    glycol_mass_percent: float
    freeze_c: float | None
    freeze_below_c: float | None
    boil_c: float


def final_of(
    glycol: Glycol, volume_l: float, glycol_w: MassFraction, concentrate: MassFraction = DEFAULT_CONCENTRATE
) -> Final:
    """Describe a full loop of this mass fraction."""
    point = freeze_point(glycol, glycol_w)
    return Final(
        volume_l=volume_l,
        strength_percent=strength_of(glycol, glycol_w),
        poured_percent=strength_of(glycol, glycol_w, concentrate),
        glycol_mass_percent=glycol_w * 100,
        freeze_c=point.freeze_c,
        freeze_below_c=point.freeze_below_c,
        boil_c=boil_c(glycol, glycol_w),
    )


@dataclass(frozen=True, slots=True)
class Infeasible:
    """Why a target is out of reach, what would bring it into reach, and the best that can be had.

    misses_by_c: best less target [K], negative where the best is colder; None where nobody tabulates the best.
    said: the message with its figures as data, for other units.
    """

    code: str
    message: str
    drain_more_l: float | None = None
    best_freeze_c: float | None = None
    misses_by_c: float | None = None
    said: Message | None = None

    @classmethod
    def of(
        cls,
        said: Message,
        drain_more_l: float | None = None,
        best_freeze_c: float | None = None,
        misses: float | None = None,
    ) -> Infeasible:
        """Of a message: its code and sentence are the reason's."""
        return cls(said.code, said.sentence, drain_more_l, best_freeze_c, misses, said)


def parts_of(
    glycol: Glycol, loop_volume_l: float, have: Masses, first_w: float, second_w: float, glycol_w: float
) -> tuple[float, float]:
    """Litres of two liquids (mass fractions first_w and second_w) that bring a full loop to glycol_w.

    Solves the two mass balances, so either may come out negative: that liquid would have to be taken out.
    """
    total = loop_volume_l * density_20c(glycol, glycol_w) / 1000
    room = total - have.total
    first_kg = (total * glycol_w - have.glycol - room * second_w) / (first_w - second_w)
    second_kg = room - first_kg
    return first_kg / density_20c(glycol, first_w) * 1000, second_kg / density_20c(glycol, second_w) * 1000


def filled_with(glycol: Glycol, loop_volume_l: float, have: Masses, added_w: MassFraction) -> MassFraction:
    """Mass fraction of the loop when one liquid alone fills it to the cold mark on top of what is inside."""
    if have.total == 0:
        return added_w
    per_kg = Masses(added_w, 1 - added_w)
    low, high = 0.0, loop_volume_l * 1.2  # kg; nothing here is denser than 1.12 kg/l
    for _ in range(50):
        middle = (low + high) / 2
        fits = litres_of(glycol, have.plus(per_kg.times(middle))) < loop_volume_l
        low, high = (middle, high) if fits else (low, middle)
    return have.plus(per_kg.times(low)).glycol_w


def measured_spread(q: MixQuestion, policy: Policy) -> Spread:
    """What good measuring of each input reaches; a data sheet's content cannot be measured in the bay (0)."""
    drained = q.loop_volume_l - q.inside.volume_l
    return Spread(
        loop_volume_l=q.loop_volume_l * policy["capacity_sd_measured"] / 100,
        drained_l=drained * policy["drained_sd_weighed"] / 100,
        inside_strength_percent=policy["inside_sd_read"],
    )
