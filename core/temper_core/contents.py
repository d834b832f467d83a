"""What is in each vessel: kilograms of glycol and water, and litres of the old coolant as found.

Kilograms are conserved through every drain, pour and mixing; litres follow from the density.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from temper_core.circuit import Layout, spread_over
from temper_core.glycol import Glycol, freeze_point, mass_fraction_of, strength_of, volume_l
from temper_core.glycol.density import density_20c
from temper_core.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent


@dataclass(frozen=True, slots=True)
class Content:
    """One vessel's fluid; kilograms, and litres at 20 degC of the fluid as found."""

    glycol_kg: float = 0.0
    water_kg: float = 0.0
    old_l: float = 0.0

    @property
    def kg(self) -> float:
        """All of it [kg]."""
        return self.glycol_kg + self.water_kg

    @property
    def glycol_w(self) -> MassFraction:
        """Mass fraction of glycol; 0 when empty."""
        return MassFraction(self.glycol_kg / self.kg) if self.kg > 0 else MassFraction(0.0)

    def plus(self, other: Content) -> Content:
        """Both together."""
        return Content(self.glycol_kg + other.glycol_kg, self.water_kg + other.water_kg, self.old_l + other.old_l)

    def share(self, part: float) -> Content:
        """A part (0-1) of it, all alike."""
        return Content(self.glycol_kg * part, self.water_kg * part, self.old_l * part)


@dataclass(frozen=True, slots=True)
class Contents:
    """The vessels of one loop and what is in them; every method gives a new one."""

    layout: Layout
    glycol: Glycol
    by_vessel: Mapping[str, Content]

    @classmethod
    def full(cls, layout: Layout, glycol: Glycol, strength: VolumePercent) -> Contents:
        """All vessels full to the cold mark with one fluid, all of it old coolant."""
        w = mass_fraction_of(glycol, strength)
        rho = density_20c(glycol, w) / 1000
        filled = {
            node.id: Content(node.volume_l * rho * w, node.volume_l * rho * (1 - w), node.volume_l) for node in layout.nodes
        }
        return cls(layout, glycol, filled)

    def litres(self, vessel: str) -> float:
        """Litres at 20 degC in a vessel."""
        content = self.by_vessel[vessel]
        return volume_l(self.glycol, content.glycol_kg, content.water_kg)

    def all_litres(self) -> dict[str, float]:
        """Litres per vessel."""
        return {vessel: self.litres(vessel) for vessel in self.by_vessel}

    @property
    def total(self) -> Content:
        """Everything inside, as if poured together."""
        total = Content()
        for content in self.by_vessel.values():
            total = total.plus(content)
        return total

    @property
    def total_l(self) -> float:
        """Litres inside."""
        return sum(self.all_litres().values())

    @property
    def strength(self) -> VolumePercent:
        """Strength of everything inside, mixed [% by volume of the default concentrate]."""
        return strength_of(self.glycol, self.total.glycol_w)

    def drain(self, out_l: float, by_vessel: Mapping[str, float] | None = None) -> Contents:
        """Take litres out, per vessel if known, else where the layout's drains reach; never below empty."""
        held = self.all_litres()
        leaving = dict(by_vessel) if by_vessel else spread_over(out_l, self._reach(held), held)
        left = {}
        for vessel, content in self.by_vessel.items():
            part = min(1.0, leaving.get(vessel, 0.0) / held[vessel]) if held[vessel] > 0 else 0.0
            left[vessel] = content.share(1 - part)
        return replace(self, by_vessel=left)

    def lose(self, lost_l: float) -> Contents:
        """Litres lost by a leak over time, of the mixed fluid, from every vessel alike; never below empty."""
        part = min(1.0, lost_l / self.total_l) if self.total_l > 0 else 0.0
        return replace(self, by_vessel={vessel: content.share(1 - part) for vessel, content in self.by_vessel.items()})

    def _reach(self, held: Mapping[str, float]) -> dict[str, float]:
        reach = self.layout.reachable_l()
        return {vessel: min(litres, held[vessel]) for vessel, litres in reach.items()}

    def pour(self, glycol_kg: float, water_kg: float) -> Contents:
        """Pour in a fluid: shared by the empty room of each vessel, mixing only with what stands there."""
        held = self.all_litres()
        room = {node.id: max(0.0, node.volume_l - held[node.id]) for node in self.layout.nodes}
        weights = room if sum(room.values()) > 1e-9 else {node.id: node.volume_l for node in self.layout.nodes}
        whole = sum(weights.values())
        fluid = Content(glycol_kg, water_kg)
        poured = {v: c.plus(fluid.share(weights[v] / whole)) for v, c in self.by_vessel.items()}
        return replace(self, by_vessel=poured)

    def fill_with_water(self) -> Contents:
        """Water up to the cold mark."""
        room = max(0.0, self.layout.volume_l - self.total_l)
        return self.pour(0.0, room * WATER_DENSITY_20C / 1000)

    def circulate(self) -> Contents:
        """Everything mixed: every vessel holds the same fluid."""
        total, held = self.total, self.all_litres()
        whole = sum(held.values())
        if whole <= 0:
            return self
        return replace(self, by_vessel={vessel: total.share(litres / whole) for vessel, litres in held.items()})

    def as_found(self, strength: VolumePercent) -> Contents:
        """The same litres, all of another strength: a reading of the fluid as found."""
        return Contents.full(self.layout, self.glycol, strength)

    def read_as(self, strength: VolumePercent) -> Contents:
        """Full and mixed, as strong as it read; how much of it is old coolant stays as the litres say."""
        full, old = Contents.full(self.layout, self.glycol, strength), self.total.old_l / self.layout.volume_l
        litres = {node.id: node.volume_l for node in self.layout.nodes}
        return replace(full, by_vessel={v: replace(c, old_l=old * litres[v]) for v, c in full.by_vessel.items()})

    def with_base(self, glycol: Glycol) -> Contents:
        """Change over to the other glycol: a remainder of the first counts as water."""
        if glycol is self.glycol:
            return self
        litres = self.all_litres()
        counted = {
            vessel: Content(0.0, litres[vessel] * WATER_DENSITY_20C / 1000, content.old_l)
            for vessel, content in self.by_vessel.items()
        }
        return Contents(self.layout, glycol, counted)

    def weakest(self) -> tuple[str, float] | None:
        """The vessel that freezes first, and its freeze point [degC]; None when all are empty."""
        held = self.all_litres()
        points = [
            (freeze_point(self.glycol, content.glycol_w).at_most_c, vessel)
            for vessel, content in self.by_vessel.items()
            if held[vessel] > 0.005 * max(self.layout.volume_l, 1.0)
        ]
        if not points:
            return None
        freeze_c, vessel = max(points)
        return vessel, freeze_c
