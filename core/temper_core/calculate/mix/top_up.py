"""Topping up is a dilution event: what the loop is after some of it was lost and something else poured in."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import check_between
from temper_core.basis.quantity import VolumePercent
from temper_core.basis.uncertainty import Interval, propagate
from temper_core.calculate.mix.masses import litres_of, masses_of
from temper_core.calculate.mix.question import LARGEST_LOOP_L, Final, final_of
from temper_core.science import Glycol, freeze_interval, freeze_point, mass_fraction_of


@dataclass(frozen=True, slots=True)
class TopUpQuestion:
    """volume_l stood in the loop before; added_l of added_percent (0: water) went in. sd_: standard deviations."""

    glycol: Glycol
    volume_l: float
    strength_percent: VolumePercent
    added_l: float
    added_percent: VolumePercent = VolumePercent(0.0)
    sd_volume_l: float = 0.0
    sd_strength_percent: float = 0.0

    def __post_init__(self) -> None:
        check_between("volume_l", self.volume_l, 0.1, LARGEST_LOOP_L, "L", "Litres in the loop before topping up.")
        check_between("strength_percent", self.strength_percent, 0, 100, "% by volume")
        check_between("added_l", self.added_l, 0, LARGEST_LOOP_L, "L", "Litres poured in.")
        check_between("added_percent", self.added_percent, 0, 100, "% by volume")
        check_between("sd_volume_l", self.sd_volume_l, 0, self.volume_l, "L", "A spread must be positive.")
        check_between("sd_strength_percent", self.sd_strength_percent, 0, 50, "%", "A spread must be positive.")


@dataclass(frozen=True, slots=True)
class TopUpAnswer:
    """The loop once mixed; lost_k: how much warmer it freezes than before [K], negative when the top-up was stronger."""

    final: Final
    lost_k: float
    likely: Interval | None
    likely_with_curve: Interval | None


def split_mixture(mixture_l: float, product_share: float) -> tuple[float, float]:
    """Litres of product and of water in litres of a mixture [l]; product_share: of its volume, 0 to 1.

    Volumes as they were measured into the bucket. Raises CoreError. Source: arithmetic.
    """
    check_between("mixture_l", mixture_l, 0, LARGEST_LOOP_L, "L", "Litres poured in.")
    check_between("product_share", product_share, 0, 1, "of the litres", "0 is water alone, 1 the product alone.")
    product_l = mixture_l * product_share
    return product_l, mixture_l - product_l


def top_up(q: TopUpQuestion) -> TopUpAnswer:
    """What a top-up makes of the loop; see TopUpAnswer.

    >>> a = top_up(TopUpQuestion(Glycol.ETHYLENE, 8.0, VolumePercent(50), 2.0))
    >>> round(a.final.strength_percent, 1), round(a.final.freeze_c, 1)
    (40.1, -24.4)
    """
    before_w = mass_fraction_of(q.glycol, q.strength_percent)
    added_w = mass_fraction_of(q.glycol, q.added_percent)
    after = masses_of(q.glycol, q.volume_l, before_w).plus(masses_of(q.glycol, q.added_l, added_w))
    final = final_of(q.glycol, litres_of(q.glycol, after), after.glycol_w)
    lost = freeze_point(q.glycol, after.glycol_w).at_most_c - freeze_point(q.glycol, before_w).at_most_c
    if q.sd_volume_l <= 0 and q.sd_strength_percent <= 0:
        return TopUpAnswer(final, lost, None, None)
    added = masses_of(q.glycol, q.added_l, added_w)

    def strength_w(x: tuple[float, float]) -> float:
        volume, strength = x
        return masses_of(q.glycol, volume, mass_fraction_of(q.glycol, VolumePercent(strength))).plus(added).glycol_w

    bounds = ((1e-3, 2 * LARGEST_LOOP_L), (0.0, 100.0))
    sd_w = propagate(
        strength_w,  # type: ignore[arg-type]
        (q.volume_l, q.strength_percent),
        (q.sd_volume_l, q.sd_strength_percent),
        bounds,
    )
    plain, with_curve = (freeze_interval(q.glycol, after.glycol_w, sd_w, curve) for curve in (False, True))
    return TopUpAnswer(final, lost, plain, with_curve)
