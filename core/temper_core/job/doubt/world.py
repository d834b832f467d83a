"""One possible world of a loop: how large its vessels really are, and what is in each of them.

A ledger is walked through it act by act, as the fold walks it, but with the inputs off by what this world has them off.
Kilograms are conserved. Small and flat, since a state asks for a hundred of them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

LEAST_L = 1e-9
Curve = tuple[float, float, float, float, float, float]
Then = tuple[list[float], list[float], list[float], tuple[int, ...]]  # glycol, water [kg], old [l]; vessels of one fluid
EMPTY: Curve = (1.0, 0.0, 0.0, 0.0, 0.0, 0.0)  # until the first act says which glycol it is


@dataclass(slots=True)
class World:
    """Vessels in the layout's order: volumes [l], glycol and water [kg], old coolant as found [l].

    curve: specific volume [l/kg] of the glycol as a polynomial of its mass fraction, lowest power first. noted: quantities
    kept on the way. impossible_l: litres that had to come out of nothing, or went in beyond what fits nowhere; 0 in a world
    that can be.
    """

    volumes: list[float]
    curve: Curve
    glycol: list[float] = field(default_factory=list)
    water: list[float] = field(default_factory=list)
    old: list[float] = field(default_factory=list)
    noted: dict[str, Then] = field(default_factory=dict)
    seen: list[float] = field(default_factory=list)
    impossible_l: float = 0.0

    def per_kg(self, w: float) -> float:
        """Litres at 20 degC of one kilogram."""
        a, b, c, d, e, f = self.curve
        return a + w * (b + w * (c + w * (d + w * (e + w * f))))

    def litres(self, i: int) -> float:
        """Litres at 20 degC in a vessel."""
        kg = self.glycol[i] + self.water[i]
        return kg * self.per_kg(self.glycol[i] / kg) if kg > 0 else 0.0

    def all_litres(self) -> list[float]:
        """Litres at 20 degC in each vessel."""
        a, b, c, d, e, f = self.curve
        litres = []
        for glycol, water in zip(self.glycol, self.water):  # noqa: B905
            kg = glycol + water
            if kg > 0:
                w = glycol / kg
                litres.append(kg * (a + w * (b + w * (c + w * (d + w * (e + w * f))))))
            else:
                litres.append(0.0)
        return litres

    def fill_with(self, w: float) -> None:
        """Every vessel full to the cold mark, of one fluid, all of it old coolant."""
        kg_l = 1 / self.per_kg(w)
        self.glycol = [v * kg_l * w for v in self.volumes]
        self.water = [v * kg_l * (1 - w) for v in self.volumes]
        self.old = list(self.volumes)

    def keep(self, i: int, share: float) -> None:
        """Only this share (0-1) of a vessel's fluid stays."""
        self.glycol[i] *= share
        self.water[i] *= share
        self.old[i] *= share

    def take(self, out: Sequence[float]) -> None:
        """Litres out of each vessel; what one does not hold comes out of the others."""
        held, missing = self.all_litres(), 0.0
        glycol, water, old = self.glycol, self.water, self.old
        for i, litres in enumerate(out):
            if litres <= 0:
                continue
            kept = 1 - litres / held[i] if litres < held[i] else 0.0
            if kept == 0.0:
                missing += litres - held[i]
            glycol[i] *= kept
            water[i] *= kept
            old[i] *= kept
            held[i] *= kept
        if missing > LEAST_L:
            left = sum(held)
            share = min(1.0, missing / left) if left > LEAST_L else 1.0
            for i in range(len(held)):
                self.keep(i, 1 - share)
            self.impossible_l += max(0.0, missing - left)

    def pour(self, glycol_kg: float, water_kg: float) -> None:
        """Into the empty room of each vessel, mixing only with what stands there."""
        held = self.all_litres()
        room = [max(0.0, v - litres) for v, litres in zip(self.volumes, held, strict=True)]
        whole = sum(room)
        weights = room if whole > LEAST_L else self.volumes
        whole = whole if whole > LEAST_L else sum(self.volumes)
        for i, weight in enumerate(weights):
            self.glycol[i] += glycol_kg * weight / whole
            self.water[i] += water_kg * weight / whole

    def mix(self, group: Sequence[int], litres: Sequence[float]) -> None:
        """These vessels hold one fluid, each as many litres as before."""
        glycol, water, old = self.glycol, self.water, self.old
        whole = all_glycol = all_water = all_old = 0.0
        for i in group:
            whole += litres[i]
            all_glycol += glycol[i]
            all_water += water[i]
            all_old += old[i]
        if whole <= LEAST_L:
            return
        for i in group:
            part = litres[i] / whole
            glycol[i], water[i], old[i] = all_glycol * part, all_water * part, all_old * part

    def note(self, name: str, vessels: tuple[int, ...]) -> None:
        """Keep what is inside now."""
        self.noted[name] = (self.glycol[:], self.water[:], self.old[:], vessels)

    def then(self, name: str) -> World:
        """The world as it was when it was noted; KeyError where it was not."""
        glycol, water, old, _ = self.noted[name]
        return World(self.volumes, self.curve, glycol, water, old)

    def old_then(self, name: str) -> float:
        """Old coolant then in the vessels that were one fluid [% of their litres]."""
        return self.then(name).old_share(self.noted[name][3])

    def w_then(self, name: str) -> float:
        """Mass fraction of glycol in the vessels that were one fluid then."""
        glycol, water, _, vessels = self.noted[name]
        poured = sum(glycol[i] for i in vessels)
        kg = poured + sum(water[i] for i in vessels)
        return poured / kg if kg > 0 else 0.0

    def w_of(self, vessels: Sequence[int]) -> float:
        """Mass fraction of glycol in these vessels together; 0 where they are empty."""
        glycol = kg = 0.0
        for i in vessels:
            glycol += self.glycol[i]
            kg += self.glycol[i] + self.water[i]
        return glycol / kg if kg > 0 else 0.0

    def old_share(self, vessels: Sequence[int]) -> float:
        """Old coolant in these vessels [% of their litres]; 0 where they are empty."""
        held = self.all_litres()
        litres = old = 0.0
        for i in vessels:
            litres += held[i]
            old += self.old[i]
        return 100 * old / litres if litres > LEAST_L else 0.0
