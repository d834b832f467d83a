"""Filling: how far a loop rises from cold to hot, and whether its tank has the room."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, called, check_between
from temper_core.basis.message import say
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.science import Glycol, density, density_20c, is_extrapolated, mass_fraction_of


@dataclass(frozen=True, slots=True)
class ExpansionQuestion:
    """volume_l at 20 degC warms from cold_c to hot_c; room_l: the air above the cold mark, if it is known."""

    glycol: Glycol
    strength_percent: VolumePercent
    volume_l: float
    cold_c: float
    hot_c: float
    room_l: float | None = None

    def __post_init__(self) -> None:
        check_between("strength_percent", self.strength_percent, 0, 100, "% by volume", "Percent is meant, not a fraction.")
        check_between("volume_l", self.volume_l, 0.01, LARGEST_LOOP_L, "L", "Litres at 20 °C.")
        if self.room_l is not None:
            check_between("room_l", self.room_l, 0, LARGEST_LOOP_L, "L", "The air above the cold mark.")
        glycol_w = mass_fraction_of(self.glycol, self.strength_percent)
        for name in ("cold_c", "hot_c"):
            with called(name):
                density(self.glycol, glycol_w, getattr(self, name))
        if self.hot_c <= self.cold_c:
            words = "{hot_c} is not warmer than {cold_c}. Swap the two."
            raise CoreError("hot_c", say("not_warmer", words, hot_c=self.hot_c, cold_c=self.cold_c))


@dataclass(frozen=True, slots=True)
class ExpansionAnswer:
    """How much the fluid grows [l]; fits: whether the room takes it (None: room unknown).

    extrapolated: part of the range is beyond what is tabulated.
    """

    rise_l: float
    fits: bool | None
    extrapolated: bool


def expansion(q: ExpansionQuestion) -> ExpansionAnswer:
    """Rise from cold to hot; see ExpansionAnswer. Vessels and hoses that give are left out.

    >>> round(expansion(ExpansionQuestion(Glycol.ETHYLENE, VolumePercent(50), 10, 10, 90)).rise_l, 2)
    0.5
    """
    w = mass_fraction_of(q.glycol, q.strength_percent)
    kg = q.volume_l * density_20c(q.glycol, w)
    rise = kg / density(q.glycol, w, q.hot_c) - kg / density(q.glycol, w, q.cold_c)
    extrapolated = any(is_extrapolated(q.glycol, w, t) for t in (q.cold_c, q.hot_c))
    return ExpansionAnswer(rise, None if q.room_l is None else rise <= q.room_l, extrapolated)
