"""What is in each vessel: kilograms of glycol and water, litres of the old coolant as found, of cleaner, and tap residue.

Kilograms are conserved through every drain, pour and mixing; litres follow from the density.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.machine.circuit import Layout
from temper_core.machine.portions import spread_over
from temper_core.science import Glycol, freeze_point, mass_fraction_of, strength_of, volume_l
from temper_core.science.density import density_20c


@dataclass(frozen=True, slots=True)
class Content:
    """One vessel's fluid; kilograms, and litres at 20 degC of the fluid as found.

    cleaner_l: litres of cleaner at the strength its label doses; solids_mg: what tap water would leave behind; other_l: of
    the litres, how many are coolant of another base, or of one that not known.
    """

    glycol_kg: float = 0.0
    water_kg: float = 0.0
    old_l: float = 0.0
    cleaner_l: float = 0.0
    solids_mg: float = 0.0
    other_l: float = 0.0

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
        return Content(
            self.glycol_kg + other.glycol_kg,
            self.water_kg + other.water_kg,
            self.old_l + other.old_l,
            self.cleaner_l + other.cleaner_l,
            self.solids_mg + other.solids_mg,
            self.other_l + other.other_l,
        )

    def share(self, part: float) -> Content:
        """A part (0-1) of it, all alike."""
        return Content(
            self.glycol_kg * part,
            self.water_kg * part,
            self.old_l * part,
            self.cleaner_l * part,
            self.solids_mg * part,
            self.other_l * part,
        )


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
        held = self.by_vessel.values()
        return Content(
            sum(content.glycol_kg for content in held),
            sum(content.water_kg for content in held),
            sum(content.old_l for content in held),
            sum(content.cleaner_l for content in held),
            sum(content.solids_mg for content in held),
            sum(content.other_l for content in held),
        )

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

    def pour(
        self, glycol_kg: float, water_kg: float, cleaner_l: float = 0.0, solids_mg: float = 0.0, other_l: float = 0.0
    ) -> Contents:
        """Pour in a fluid: shared by the empty room of each vessel, mixing only with what stands there."""
        held = self.all_litres()
        room = {node.id: max(0.0, node.volume_l - held[node.id]) for node in self.layout.nodes}
        weights = room if sum(room.values()) > 1e-9 else {node.id: node.volume_l for node in self.layout.nodes}
        whole = sum(weights.values())
        fluid = Content(glycol_kg, water_kg, 0.0, cleaner_l, solids_mg, other_l)
        poured = {v: c.plus(fluid.share(weights[v] / whole)) for v, c in self.by_vessel.items()}
        return replace(self, by_vessel=poured)

    @property
    def room_l(self) -> float:
        """Empty space up to the cold mark."""
        return max(0.0, self.layout.volume_l - self.total_l)

    def fill_with_water(self, fill_l: float | None = None, cleaner_l: float = 0.0, solids_mg_l: float = 0.0) -> Contents:
        """Water, up to the cold mark or so many litres; solids_mg_l: what a litre of it would leave behind."""
        litres = self.room_l if fill_l is None else fill_l
        return self.pour(0.0, litres * WATER_DENSITY_20C / 1000, cleaner_l, litres * solids_mg_l)

    def circulate(self, groups: Sequence[Sequence[str]] | None = None) -> Contents:
        """Run it: each group of vessels then holds one fluid (None: all together); the others keep theirs."""
        held, mixed = self.all_litres(), dict(self.by_vessel)
        for names in [list(self.by_vessel)] if groups is None else groups:
            whole, together = sum(held[name] for name in names), Content()
            for name in names:
                together = together.plus(self.by_vessel[name])
            if whole > 0:
                mixed |= {name: together.share(held[name] / whole) for name in names}
        return replace(self, by_vessel=mixed)

    def sweep(self, vessel: str, through_l: float, solids_mg_l: float = 0.0) -> Contents:
        """Water through one vessel while it runs out again: what was in it falls by exp(-Q/V); its litres stay."""
        content, litres = self.by_vessel[vessel], self.litres(vessel)
        volume = next(node.volume_l for node in self.layout.nodes if node.id == vessel)
        kept = math.exp(-through_l / volume) if volume > 0 else 0.0
        fresh = (1 - kept) * litres
        swept = content.share(kept).plus(Content(0.0, fresh * WATER_DENSITY_20C / 1000, solids_mg=fresh * solids_mg_l))
        return replace(self, by_vessel={**self.by_vessel, vessel: swept})

    def thinned(self, vessels: Collection[str], factor: float) -> Contents:
        """Old coolant in these vessels times a factor, water insides place: what a reading of the rinse says of it."""
        corrected = {}
        for name, content in self.by_vessel.items():
            if name not in vessels or content.kg <= 0:
                corrected[name] = content
                continue
            litres, glycol_kg = self.litres(name), min(content.kg, content.glycol_kg * factor)
            now = replace(content, glycol_kg=glycol_kg, old_l=min(litres, content.old_l * factor))
            left_l = litres - volume_l(self.glycol, glycol_kg, 0.0) if glycol_kg else litres
            now = replace(now, water_kg=max(0.0, left_l) * WATER_DENSITY_20C / 1000)
            missing = litres - volume_l(self.glycol, now.glycol_kg, now.water_kg)  # a mix is smaller than its parts
            corrected[name] = replace(now, water_kg=max(0.0, now.water_kg + missing * WATER_DENSITY_20C / 1000))
        return replace(self, by_vessel=corrected)

    def as_found(self, strength: VolumePercent) -> Contents:
        """The same litres, all of another strength: a reading of the fluid as found."""
        return Contents.full(self.layout, self.glycol, strength).with_other(self.total.other_l / self.layout.volume_l)

    def with_other(self, share: float) -> Contents:
        """The same, so much of it (0-1) coolant of another base."""
        litres = self.all_litres()
        return replace(self, by_vessel={v: replace(c, other_l=share * litres[v]) for v, c in self.by_vessel.items()})

    def old_is_other(self) -> Contents:
        """The coolant as found is of another base than what goes in, or not known of which."""
        marked = {v: replace(c, other_l=max(c.other_l, c.old_l)) for v, c in self.by_vessel.items()}
        return replace(self, by_vessel=marked)

    def read_as(self, strength: VolumePercent) -> Contents:
        """Full and mixed, as strong as it read; how much of it is old coolant stays as the litres say."""
        full, old = self.as_found(strength), self.total.old_l / self.layout.volume_l
        litres = {node.id: node.volume_l for node in self.layout.nodes}
        return replace(full, by_vessel={v: replace(c, old_l=old * litres[v]) for v, c in full.by_vessel.items()})

    def with_base(self, glycol: Glycol, poured: bool = False) -> Contents:
        """Change over to the other glycol: a remainder of the first counts as water, and is coolant of another base.

        poured: new coolant of the first went in before, so that all of it is; else only the coolant as found.
        """
        if glycol is self.glycol:
            return self
        litres = self.all_litres()
        counted = {
            vessel: replace(
                content,
                glycol_kg=0.0,
                water_kg=litres[vessel] * WATER_DENSITY_20C / 1000,
                other_l=litres[vessel] if poured else max(content.other_l, content.old_l),
            )
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
        freeze_c, vessel = max(points, key=lambda one: (round(one[0], 6), one[1]))  # of two alike not the last digit decides
        return vessel, freeze_c
