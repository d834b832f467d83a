"""What stands in the vessels while a loop is flushed: litres, and what is dissolved in them.

Volumes at 20 degC add up here: a rinse is nearly water, and its contraction is far below what anybody measures.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say

SLACK_L = 1e-9  # rounding of sums, not of measurements

Groups = Sequence[Sequence[str]]


@dataclass(frozen=True, slots=True)
class Stand:
    """One vessel: what it holds to the cold mark, litres in it now, and litres of each solute (old coolant, cleaner)."""

    volume_l: float
    litres: float
    solutes: Mapping[str, float]

    def share(self, solute: str) -> float:
        """Volume share (0-1) of a solute; 0 when empty."""
        return self.solutes.get(solute, 0.0) / self.litres if self.litres > 0 else 0.0

    def part(self, kept: float) -> Stand:
        """A part (0-1) of it stays, all alike."""
        return replace(self, litres=self.litres * kept, solutes={name: kept * v for name, v in self.solutes.items()})


@dataclass(frozen=True, slots=True)
class Standing:
    """All vessels of a loop by name; every method gives a new one and raises CoreError for what cannot be."""

    vessels: Mapping[str, Stand]

    @property
    def volume_l(self) -> float:
        """The whole loop, to the cold mark."""
        return sum(vessel.volume_l for vessel in self.vessels.values())

    @property
    def litres(self) -> float:
        """What is inside [l]."""
        return sum(vessel.litres for vessel in self.vessels.values())

    @property
    def room_l(self) -> float:
        """Empty space, up to the cold mark."""
        return sum(max(0.0, vessel.volume_l - vessel.litres) for vessel in self.vessels.values())

    def total(self, solute: str) -> float:
        """Litres of a solute in all vessels [l]."""
        return sum(vessel.solutes.get(solute, 0.0) for vessel in self.vessels.values())

    def finished_percent(self, solute: str) -> float:
        """What the finished full loop would hold of a solute [% of the loop's volume]."""
        return 100 * self.total(solute) / self.volume_l

    def fill(self, fill_l: float | None = None, solutes: Mapping[str, float] | None = None) -> Standing:
        """Pour in fluid, shared by the empty space; None: to the cold mark.

        solutes: shares (0-1) in what is poured. Raises CoreError.
        """
        room = self.room_l
        if fill_l is not None and fill_l > room + SLACK_L:
            words = "{fill_l} is more than the {room_l} of room. Pour less, or drain first."
            raise CoreError("fill_l", say("more_than_room", words, fill_l=fill_l, room_l=room))
        poured = room if fill_l is None else fill_l
        if poured <= 0 or room <= 0:  # a rounding of litres, poured into a full loop
            return self
        filled = {}
        for name, vessel in self.vessels.items():
            got = poured * max(0.0, vessel.volume_l - vessel.litres) / room
            now = dict(vessel.solutes)
            for solute, share in (solutes or {}).items():
                now[solute] = now.get(solute, 0.0) + share * got
            filled[name] = replace(vessel, litres=vessel.litres + got, solutes=now)
        return Standing(filled)

    def mix(self, groups: Groups | None = None) -> Standing:
        """Run it: every group becomes uniform (None: all vessels together); a vessel in no group keeps to itself."""
        mixed = dict(self.vessels)
        for names in [list(self.vessels)] if groups is None else groups:
            litres = sum(self.vessels[name].litres for name in names)
            if litres <= 0:
                continue
            kinds = {solute for name in names for solute in self.vessels[name].solutes}
            shares = {kind: sum(self.vessels[name].solutes.get(kind, 0.0) for name in names) / litres for kind in kinds}
            for name in names:
                here = self.vessels[name]
                mixed[name] = replace(here, solutes={kind: share * here.litres for kind, share in shares.items()})
        return Standing(mixed)

    def drain(self, out_l: Mapping[str, float]) -> Standing:
        """Take litres out of vessels by name; more than is in one raises."""
        left = dict(self.vessels)
        for name, litres in out_l.items():
            here = self.vessels[name]
            if litres > here.litres + SLACK_L:
                words = "{out_l} is more than the {inside_l:2} inside. Check the litres."
                raise CoreError(name, say("more_than_inside", words, out_l=litres, inside_l=here.litres))
            left[name] = here.part(max(0.0, 1 - litres / here.litres)) if here.litres > 0 else here
        return Standing(left)

    def rinse(self, name: str, through_l: float) -> Standing:
        """Sweep one vessel with water while its drain is open: every share in it falls by exp(-Q/V)."""
        here = self.vessels[name]
        kept = math.exp(-through_l / here.volume_l)
        swept = replace(here, solutes={solute: kept * litres for solute, litres in here.solutes.items()})
        return Standing({**self.vessels, name: swept})
