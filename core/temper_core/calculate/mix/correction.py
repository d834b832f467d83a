"""Correct a full loop without draining it: take some out, put concentrate or water insides place."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, called, check_between, under
from temper_core.basis.message import say
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.calculate.mix.question import LARGEST_LOOP_L, Final, Infeasible, check_concentrate, final_of
from temper_core.science import (
    DEFAULT_CONCENTRATE,
    Branch,
    Glycol,
    density_20c,
    freeze_point,
    mass_fraction_at_freeze,
    mass_fraction_of,
)


@dataclass(frozen=True, slots=True)
class Now:
    """How strong the loop is: a freeze point [degC] with its branch, or a strength [% by volume]; one of them."""

    freeze_c: float | None = None
    strength_percent: VolumePercent | None = None
    branch: Branch = Branch.LEAN

    def __post_init__(self) -> None:
        if (self.freeze_c is None) == (self.strength_percent is None):
            raise CoreError(
                "freeze_c", "Freeze point and strength are both given, or neither. Enter one of the two.", "one_of_them"
            )
        if self.strength_percent is not None:
            check_between("strength_percent", self.strength_percent, 0, 100, "% by volume")

    def glycol_w(self, glycol: Glycol) -> MassFraction:
        """As a mass fraction; raises CoreError for a freeze point or branch that does not exist."""
        if self.strength_percent is not None:
            return mass_fraction_of(glycol, self.strength_percent)
        return mass_fraction_at_freeze(glycol, self.freeze_c or 0.0, self.branch)


@dataclass(frozen=True, slots=True)
class CorrectionQuestion:
    """A well-mixed loop, full to its cold mark, brought to another freeze point."""

    glycol: Glycol
    loop_volume_l: float
    now: Now
    target_freeze_c: float
    concentrate: MassFraction = DEFAULT_CONCENTRATE

    def __post_init__(self) -> None:
        check_between("loop_volume_l", self.loop_volume_l, 0.1, LARGEST_LOOP_L, "L", "Check the capacity.")
        check_concentrate(self.concentrate)
        with under("now"):
            self.now.glycol_w(self.glycol)
        with called("target_freeze_c"):
            mass_fraction_at_freeze(self.glycol, self.target_freeze_c)


@dataclass(frozen=True, slots=True)
class CorrectionAnswer:
    """Take swap_out_l out of the mixed loop, then add back to the cold mark; add is "concentrate" or "water".

    add_l may exceed swap_out_l by the contraction. When feasible is false the whole loop is swapped and still misses.
    """

    feasible: bool
    swap_out_l: float
    add: str
    add_l: float
    final: Final
    reason: Infeasible | None = None


def correct(q: CorrectionQuestion) -> CorrectionAnswer:
    """Litres to swap; see CorrectionAnswer.

    >>> a = correct(CorrectionQuestion(Glycol.ETHYLENE, 10.0, Now(strength_percent=VolumePercent(50)), -20.0))
    >>> a.add, round(a.swap_out_l, 2), round(a.add_l, 2)
    ('water', 2.88, 2.89)
    """
    now_w = q.now.glycol_w(q.glycol)
    target_w = mass_fraction_at_freeze(q.glycol, q.target_freeze_c)
    add = "concentrate" if target_w > now_w else "water"
    add_w = q.concentrate if add == "concentrate" else MassFraction(0.0)
    if add == "concentrate" and add_w < target_w:
        best = final_of(q.glycol, q.loop_volume_l, add_w, q.concentrate)
        words = "This concentrate alone freezes at {alone_c}. Use a stronger one."
        said = say("concentrate_too_weak", words, alone_c=freeze_point(q.glycol, add_w).at_most_c)
        misses = best.freeze_c - q.target_freeze_c if best.freeze_c is not None else None
        reason = Infeasible.of(said, None, best.freeze_c, misses)
        return CorrectionAnswer(False, q.loop_volume_l, add, q.loop_volume_l, best, reason)
    total_kg = q.loop_volume_l * density_20c(q.glycol, target_w) / 1000
    left_kg = total_kg * (add_w - target_w) / (add_w - now_w) if now_w != target_w else total_kg
    left_l = left_kg / density_20c(q.glycol, now_w) * 1000
    add_l = (total_kg - left_kg) / density_20c(q.glycol, add_w) * 1000
    return CorrectionAnswer(
        feasible=True,
        swap_out_l=max(0.0, q.loop_volume_l - left_l),
        add=add,
        add_l=add_l,
        final=final_of(q.glycol, q.loop_volume_l, target_w, q.concentrate),
    )
