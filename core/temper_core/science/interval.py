"""How sure a freeze point is: from the doubt of the strength, and from the two handbooks that differ."""

from __future__ import annotations

from functools import lru_cache

from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Z95, Interval, chance_below
from temper_core.science.freezing import UNTABULATED_BELOW_C, curve_doubt_k, freeze_point
from temper_core.science.record import Glycol

TAIL = 0.025  # a 95 % interval leaves this much on each side


def freeze_interval(glycol: Glycol, glycol_w: float, sd_w: float, with_curve: bool) -> Interval:
    """95 % interval of the freeze point [degC] of a normal mass fraction with standard deviation sd_w.

    Ends beyond the tabulated range are given as the bound. With the curve's doubt they are the 2.5 and 97.5 % points of
    the sum of both, the doubt uniform between the two published curves.
    """
    return _interval(glycol, glycol_w, sd_w, with_curve)


@lru_cache(maxsize=4096)  # a ledger is folded again with every entry, most of its intervals stay
def _interval(glycol: Glycol, glycol_w: float, sd_w: float, with_curve: bool) -> Interval:
    low_w, high_w = max(0.0, glycol_w - Z95 * sd_w), min(1.0, glycol_w + Z95 * sd_w)
    ends = [freeze_point(glycol, MassFraction(w)) for w in (low_w, glycol_w, high_w)]
    bounded = any(end.freeze_c is None for end in ends)  # it reaches where nobody tabulates: its cold end is open
    warm = max(end.at_most_c for end in ends)
    cold = UNTABULATED_BELOW_C if bounded else min(end.at_most_c for end in ends)
    doubt = curve_doubt_k(glycol, glycol_w)
    if not with_curve or doubt == 0:
        return Interval(cold, warm)
    centre = freeze_point(glycol, MassFraction(glycol_w)).at_most_c
    if not bounded:
        cold = _with_doubt(centre, (centre - cold) / Z95, doubt, 1 - TAIL)
    return Interval(cold, _with_doubt(centre, (warm - centre) / Z95, doubt, TAIL))


def _with_doubt(centre: float, sd_k: float, doubt: float, chance: float) -> float:
    """The temperature that centre + normal + uniform(0, doubt) passes with this chance."""
    steps = 16

    def chance_warmer(t: float) -> float:
        shares = (1 - chance_below(centre + doubt * (i + 0.5) / steps, sd_k, t) for i in range(steps))
        return sum(shares) / steps

    low, high = centre - 4 * sd_k - 1e-9, centre + doubt + 4 * sd_k + 1e-9
    for _ in range(20):  # to a millionth of the width
        middle = (low + high) / 2
        low, high = (middle, high) if chance_warmer(middle) > chance else (low, middle)
    return high
