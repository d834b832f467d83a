"""Ready-mixed coolant on top of what is inside: the result, by how much it misses, and the shot that mends it."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import called, check_between
from temper_core.basis.message import say
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.calculate.mix.masses import Masses, litres_of
from temper_core.calculate.mix.question import (
    Final,
    Infeasible,
    Inside,
    check_concentrate,
    check_loop,
    filled_with,
    final_of,
    inside_masses,
    parts_of,
)
from temper_core.science import DEFAULT_CONCENTRATE, Glycol, freeze_point, mass_fraction_at_freeze, mass_fraction_of

WEAKEST_READY_MIX_PERCENT = 5.0


@dataclass(frozen=True, slots=True)
class ReadyMixQuestion:
    """A loop filled to its cold mark with a ready-mix; with a target, the answer says by how much it misses."""

    glycol: Glycol
    loop_volume_l: float
    inside: Inside
    ready_mix_percent: VolumePercent
    target_freeze_c: float | None = None
    concentrate: MassFraction = DEFAULT_CONCENTRATE

    def __post_init__(self) -> None:
        check_loop(self.glycol, self.loop_volume_l, self.inside)
        check_concentrate(self.concentrate)
        todo = "Percent by volume is meant, not a fraction: read it on the can."
        strength = self.ready_mix_percent
        check_between("ready_mix.strength_percent", strength, WEAKEST_READY_MIX_PERCENT, 100, "% by volume", todo)
        if self.target_freeze_c is not None:
            with called("target_freeze_c"):
                mass_fraction_at_freeze(self.glycol, self.target_freeze_c)


@dataclass(frozen=True, slots=True)
class Boost:
    """Concentrate and ready-mix [l] that hit the target together."""

    concentrate_l: float
    ready_mix_l: float


@dataclass(frozen=True, slots=True)
class ReadyMixAnswer:
    """Litres of ready-mix to the cold mark and what the loop then is.

    misses_by_c: how much warmer than the target [K], None where it reaches it or none was set. boost: the concentrate
    that mends it; where there is none, boost_reason says why.
    """

    ready_mix_l: float
    final: Final
    misses_by_c: float | None = None
    boost: Boost | None = None
    boost_reason: Infeasible | None = None


def ready_mix(q: ReadyMixQuestion) -> ReadyMixAnswer:
    """The result of ready-mix alone; see ReadyMixAnswer.

    >>> q = ReadyMixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), VolumePercent(50), -45.0)
    >>> a = ready_mix(q)
    >>> round(a.final.freeze_c, 1), round(a.boost.concentrate_l, 1), round(a.boost.ready_mix_l, 1)
    (-22.6, 11.7, 13.0)
    """
    have = inside_masses(q.glycol, q.inside)
    mix_w = mass_fraction_of(q.glycol, q.ready_mix_percent)
    w = filled_with(q.glycol, q.loop_volume_l, have, mix_w)
    added_l = _added_l(q, have, w, mix_w)
    final = final_of(q.glycol, q.loop_volume_l, w, q.concentrate)
    if q.target_freeze_c is None:
        return ReadyMixAnswer(added_l, final)
    target_w = mass_fraction_at_freeze(q.glycol, q.target_freeze_c)
    if w >= target_w - 1e-9:
        return ReadyMixAnswer(added_l, final)
    misses = (final.freeze_c if final.freeze_c is not None else 0.0) - q.target_freeze_c
    return ReadyMixAnswer(added_l, final, misses, *_boost(q, have, mix_w, target_w))


def _added_l(q: ReadyMixQuestion, have: Masses, w: MassFraction, mix_w: MassFraction) -> float:
    if litres_of(q.glycol, have) >= q.loop_volume_l * (1 - 1e-12):
        return 0.0
    other = MassFraction(0.0)  # of nothing: the second liquid comes out as a rounding remainder
    return max(0.0, parts_of(q.glycol, q.loop_volume_l, have, mix_w, other, w)[0])


def _boost(
    q: ReadyMixQuestion, have: Masses, mix_w: MassFraction, target_w: MassFraction
) -> tuple[Boost | None, Infeasible | None]:
    if q.concentrate <= mix_w:
        message = "The concentrate is no stronger than the ready-mix. Use a stronger one."
        return None, Infeasible("concentrate_too_weak", message)
    concentrate_l, mix_l = parts_of(q.glycol, q.loop_volume_l, have, q.concentrate, mix_w, target_w)
    if mix_l >= 0:
        return Boost(concentrate_l, mix_l), None
    best = freeze_point(q.glycol, filled_with(q.glycol, q.loop_volume_l, have, q.concentrate)).freeze_c
    misses = best - q.target_freeze_c if best is not None and q.target_freeze_c is not None else None
    figures = {} if best is None else {"best_c": best}
    reaches = "falls short" if best is None else "reaches {best_c}"
    said = say("too_much_inside", f"Even concentrate alone {reaches}: drain more first.", **figures)
    return None, Infeasible.of(said, None, best, misses)
