"""Kilograms of glycol and of water, and litres."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.quantity import MassFraction
from temper_core.science import Glycol, density_20c
from temper_core.science.density import volume_l


@dataclass(frozen=True, slots=True)
class Masses:
    """Kilograms of glycol and water: what every mix conserves."""

    glycol: float = 0.0
    water: float = 0.0

    @property
    def total(self) -> float:
        """All of it [kg]."""
        return self.glycol + self.water

    @property
    def glycol_w(self) -> MassFraction:
        """Mass fraction of glycol; 0 of nothing."""
        return MassFraction(self.glycol / self.total) if self.total > 0 else MassFraction(0.0)

    def plus(self, other: Masses) -> Masses:
        """Both together."""
        return Masses(self.glycol + other.glycol, self.water + other.water)

    def times(self, part: float) -> Masses:
        """A part of it, well mixed."""
        return Masses(self.glycol * part, self.water * part)


def masses_of(glycol: Glycol, litres: float, glycol_w: MassFraction) -> Masses:
    """Kilograms in litres (at 20 degC) of a solution."""
    kg = litres * density_20c(glycol, glycol_w) / 1000
    return Masses(kg * glycol_w, kg * (1 - glycol_w))


def litres_of(glycol: Glycol, masses: Masses) -> float:
    """Litres at 20 degC, contraction included."""
    return volume_l(glycol, masses.glycol, masses.water)
