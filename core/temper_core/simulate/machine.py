"""The machine that answers: litres out by the scale, what fits up to the mark, what an eyepiece shows.

Its vessels are the loop's own, in their true size; kilograms are conserved by `Contents`.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.instruments.axis import axis_of
from temper_core.instruments.question import ReadingQuestion
from temper_core.instruments.scales import FACTS, Scale, mark
from temper_core.job.drain.facts import Caught
from temper_core.machine.circuit import Layout, circulating
from temper_core.machine.contents import Contents
from temper_core.machine.drain_points import still_vessels
from temper_core.machine.level import less
from temper_core.science import Glycol, density_20c, freeze_point, mass_fraction_of
from temper_core.science.freezing import curve_doubt_k
from temper_core.simulate.truth import Tool, Truth, zero_in_axis


class TrueMachine:
    """One loop as it really is; every act changes it and yields what a person would write down."""

    def __init__(self, truth: Truth) -> None:
        self.truth = truth
        times = truth.capacity_l / truth.loop.layout.volume_l
        nodes = tuple(replace(node, volume_l=node.volume_l * times) for node in truth.loop.layout.nodes)
        self.layout: Layout = replace(truth.loop.layout, nodes=nodes)
        full = Contents.full(self.layout, truth.glycol, VolumePercent(truth.found_percent))
        self.contents = less(full, truth.missing_l) if truth.missing_l > 0 else full.lose(0.0)
        if truth.missing_l < 0:
            w = mass_fraction_of(truth.glycol, VolumePercent(truth.found_percent))
            kg = -truth.missing_l * density_20c(truth.glycol, w) / 1000
            over = self.contents.pour(kg * w, kg * (1 - w))
            old = -truth.missing_l / len(over.by_vessel)
            held = {v: replace(c, old_l=c.old_l + old) for v, c in over.by_vessel.items()}
            self.contents = replace(over, by_vessel=held)

    # ---- what is true ---------------------------------------------------------------------------------------------

    @property
    def inside_l(self) -> float:
        """Litres inside."""
        return self.contents.total_l

    @property
    def moving(self) -> list[str]:
        """Vessels whose fluid moves in a run: a sample of a rinse is of these, not of a bottle beside the loop."""
        still = still_vessels(self.layout, self.truth.loop.equipment)
        return [vessel for vessel in self.contents.by_vessel if vessel not in still]

    @property
    def old_percent(self) -> float:
        """Old coolant that the finished full loop would hold [%]."""
        return 100 * self.contents.total.old_l / self.layout.volume_l

    @property
    def w(self) -> MassFraction:
        """Mass fraction of glycol of everything, mixed."""
        return self.contents.total.glycol_w

    @property
    def freeze_c(self) -> float:
        """Freeze point of everything, mixed, by the first table [degC]."""
        return freeze_point(self.truth.glycol, self.w).at_most_c

    @property
    def freezes_c(self) -> float:
        """The same with where this truth lies between the two tables."""
        return self.freeze_c + self.truth.table * curve_doubt_k(self.truth.glycol, self.w)

    # ---- acts -----------------------------------------------------------------------------------------------------

    def drain(self, share: float = 1.0, way: str = "weighed") -> tuple[Caught | None, float]:
        """All drains opened: what one container caught, or the litres by this way.

        share: of what usually comes. Where it comes from varies by the layout's own shares. A bottle that no drain reaches
        stays as it is: whoever lifts it out records it as a place of its own.
        """
        rng, policy = self.truth.rng, self.truth.policy
        reach = self.layout.reachable_l()
        held = self.contents.all_litres()
        largest = max(reach, key=lambda v: reach[v])
        lean = rng.gauss(0.0, policy["tilt_sd_percent"] / 100)
        times = {v: math.exp(lean) if v == largest else 1.0 for v in reach}
        whole = sum(reach.values()) / sum(reach[v] * times[v] for v in reach)
        part = share * rng.uniform(0.9, 1.0)
        out = {v: min(held[v], part * litres * times[v] * whole) for v, litres in reach.items()}
        before = self.contents
        self.contents = before.drain(sum(out.values()), out)
        kg, litres = before.total.kg - self.contents.total.kg, sum(out.values())
        if way == "weighed":
            return Caught(gross_kg=1.3 + kg / self.truth.own_error(way), tare_kg=1.3), litres
        return None, litres / self.truth.own_error(way)

    def water_to_mark(self) -> None:
        """Rinse water up to the cold mark."""
        self.contents = self.contents.fill_with_water()

    def run(self, topped: bool = False) -> None:
        """Hot, thermostat open, heater on: what circulates is one fluid."""
        groups = circulating(self.layout, True, True, still_vessels(self.layout, self.truth.loop.equipment))
        self.contents = self.contents.circulate(groups)
        if topped:
            self.contents = self.contents.fill_with_water().circulate(groups)

    def mix_all(self) -> None:
        """Stirred into one fluid, a bottle too."""
        self.contents = self.contents.circulate()

    def sweep(self, litres: Mapping[str, float]) -> None:
        """Water through vessels that run out meanwhile."""
        for vessel, through in litres.items():
            self.contents = self.contents.sweep(vessel, through * self.truth.exchange[vessel])

    def pour(self, product_l: float, water_l: float) -> None:
        """These litres by the jug."""
        off = self.truth.own_error("jug")
        self._pour(product_l * off, water_l * off)

    def _pour(self, product_l: float, water_l: float) -> None:
        glycol, w = self.truth.glycol, self.truth.product_w
        kg = product_l * density_20c(glycol, w) / 1000
        self.contents = self.contents.pour(kg * w, kg * (1 - w) + water_l * WATER_DENSITY_20C / 1000)

    def pour_to_mark(self, product_share: float) -> tuple[float, float]:
        """Product and water in this blend until the level stands at the mark, a little air left; litres by the jug."""
        rng = self.truth.rng
        air = self.layout.volume_l * abs(rng.gauss(AIR_SHARE, AIR_SD))
        room = max(0.0, self.layout.volume_l - self.contents.total_l - air)
        low, high = 0.0, room * 1.2
        start = self.contents
        for _ in range(40):  # a mix is smaller than its parts
            middle = (low + high) / 2
            self.contents = start
            self._pour(middle * product_share, middle * (1 - product_share))
            if self.contents.total_l < self.layout.volume_l - air:
                low = middle
            else:
                high = middle
        off = self.truth.own_error("jug")
        return low * product_share / off, low * (1 - product_share) / off

    def freezes_if(self, product_l: float) -> float:
        """Freeze point [degC], were exactly this much product poured now, and water to the mark, and all of it mixed."""
        before = self.contents
        self._pour(product_l, 0.0)
        self.contents = self.contents.circulate().fill_with_water().circulate().fill_with_water()
        freeze_c = self.freeze_c
        self.contents = before
        return freeze_c

    def swap(self, out_l: float, product_l: float, water_l: float) -> None:
        """Some of the mixed loop out by weight, something else in."""
        self.mix_all()
        self.contents = self.contents.lose(out_l * self.truth.own_error("weighed"))
        self.pour(product_l, water_l)

    # ---- instruments ----------------------------------------------------------------------------------------------

    def read(self, tool: Tool, vessels: Sequence[str] | None = None, zeroed: bool = True) -> tuple[float, float | None]:
        """What the instrument shows of a sample of these vessels (None: of all), and of water; to its division."""
        kept = self.contents.by_vessel if vessels is None else {v: self.contents.by_vessel[v] for v in vessels}
        glycol_kg = sum(c.glycol_kg for c in kept.values())
        kg = glycol_kg + sum(c.water_kg for c in kept.values())
        w = glycol_kg / kg if kg > 0 else 0.0
        return show(tool, self.truth.glycol, w, self.truth.rng), (
            show(tool, self.truth.glycol, 0.0, self.truth.rng) if zeroed else None
        )


AIR_SHARE, AIR_SD = 0.007, 0.007  # of the capacity, level at the mark, before it is bled


def show(tool: Tool, glycol: Glycol, w: float, rng: object) -> float:
    """The division that a sample of this mass fraction is read at."""
    scale, instrument = tool.instrument.scale, tool.instrument
    axis = axis_of(ReadingQuestion(glycol, scale, FACTS[scale].water, resolution=instrument.resolution))
    per_w = (axis.at(0.01) - axis.at(0.0)) / 0.01
    there = axis.at(w) + zero_in_axis(scale, glycol, tool.off_zero_k, per_w)
    facts = FACTS[scale]
    strong = facts.last if mark(scale, facts.last) > mark(scale, facts.first) else facts.first
    if there > mark(scale, strong):  # the line stands past the end of what is engraved
        return strong + math.copysign(instrument.resolution, strong)
    near = _value(scale, there)
    one = abs(mark(scale, _within(scale, near + instrument.resolution)) - mark(scale, _within(scale, near)))
    eye = rng.gauss(0.0, tool.eye_divisions)  # type: ignore[attr-defined]
    seen = _value(scale, there + one * (tool.bias_divisions * min(1.0, w / 0.10) + eye))
    return round(seen / instrument.resolution) * instrument.resolution


def _within(scale: Scale, value: float) -> float:
    return min(max(value, FACTS[scale].first), FACTS[scale].last)


def _value(scale: Scale, at: float) -> float:
    """The mark that stands there on the axis, kept on the scale."""
    low, high = FACTS[scale].first, FACTS[scale].last
    rising = mark(scale, high) > mark(scale, low)
    for _ in range(50):
        middle = (low + high) / 2
        if (mark(scale, middle) < at) == rising:
            low = middle
        else:
            high = middle
    return (low + high) / 2
