"""What lies on the bench: scale, glasses, samples in jars; and what is found with them."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from random import Random

from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message, say
from temper_core.practice.acts import Act, Found
from temper_core.practice.seeing import jar_of, through_the_glass
from temper_core.practice.shelf import STRIPS
from temper_core.practice.true_loop import TrueLoop
from temper_core.products.chemistry import BASE_NAMES, Base
from temper_core.science import Glycol
from temper_core.simulate.truth import Tool

SCALE_STEP_KG = 0.05
WATER_PH = 7.0
STRIP_SD = 0.015  # as a share: how far a colour is off
ENGINE_US_CM = 2800.0  # of a coolant for engines


@dataclass(slots=True)
class Sample:
    """What was taken: its mass fraction of glycol, how warm it was and when; looks as in the jar."""

    w: float
    taken_c: float
    taken_min: float
    propylene: bool
    other_share: float
    old_share: float

    def now_c(self, at_min: float, ambient_c: float) -> float:
        """A jar on the bench cools: half of what it is too warm in five minutes."""
        return ambient_c + (self.taken_c - ambient_c) * math.pow(0.5, (at_min - self.taken_min) / 5.0)


@dataclass(slots=True)
class Bench:
    """The loops, the tools on the bench and the samples that stand there. scale: what the scale shows over what is so.

    runs: by loop, minutes with the thermostat open and whether the heater was full. first_off_k: of the first glass.
    """

    loops: list[TrueLoop]
    tools: dict[str, Tool]
    scale: float
    rng: Random
    ambient_c: float
    at_min: float = 0.0
    samples: dict[int, Sample] = field(default_factory=dict)
    zeroed: set[str] = field(default_factory=set)
    runs: dict[int, list[tuple[float, bool]]] = field(default_factory=dict)
    first_off_k: float = 0.0

    def tool(self, name: str) -> Tool:
        """An instrument by its name; "": the first. Raises CoreError."""
        found = self.tools.get(name or next(iter(self.tools)))
        if found is None:
            raise CoreError("glass", f"'{name}' is not on the bench: {', '.join(self.tools)} are.", "not_there")
        return found


def sample(bench: Bench, loop: TrueLoop, act: Act) -> Found:
    """A sample from the neck into a jar; raises CoreError while the cap is closed."""
    contents = loop.machine.contents
    place = loop.machine.layout.fill_points[0].node if loop.machine.layout.fill_points else None
    neck = place if place is not None and contents.litres(place) > 0.05 else None
    if neck is None:
        neck = max(contents.by_vessel, key=contents.litres)
    if not loop.cap_open:
        raise CoreError("do", "The cap is closed. Open it to reach the coolant.", "shut")
    if contents.litres(neck) < 0.02:
        raise CoreError("do", "There is nothing inside to take a sample of.", "empty")
    what = contents.by_vessel[neck]
    litres = contents.litres(neck)
    propylene = contents.glycol is Glycol.PROPYLENE
    shares = (min(1.0, what.other_l / litres), min(1.0, what.old_l / litres))
    bench.samples[act.loop] = Sample(what.glycol_w, loop.warmth.hot_c, bench.at_min, propylene, *shares)
    warm = (
        say("sample_hot", "The sample is in the jar, still hot.") if loop.hot else say("sampled", "A sample is in the jar.")
    )
    return Found(warm, jar=jar_of(loop, what, litres))


def look_water(bench: Bench, _loop: TrueLoop, act: Act) -> Found:
    """The refractometer with demineralised water on its prism."""
    tool = bench.tool(act.glass)
    bench.zeroed.add(tool.instrument.name)
    return Found(_in_glass(tool), glass=through_the_glass(tool, None, bench.ambient_c, bench.rng))


def look_sample(bench: Bench, _loop: TrueLoop, act: Act) -> Found:
    """The refractometer with the sample; raises CoreError without one."""
    tool, sample = bench.tool(act.glass), bench.samples.get(act.loop)
    if sample is None:
        raise CoreError("do", "There is no sample. Take one first.", "no_sample")
    return Found(
        _in_glass(tool), glass=through_the_glass(tool, sample, sample.now_c(bench.at_min, bench.ambient_c), bench.rng)
    )


def _in_glass(tool: Tool) -> Message:
    return say("in_glass", "{name}: read the boundary between light and dark.", name=tool.instrument.name)


def set_zero(bench: Bench, _loop: TrueLoop, act: Act) -> Found:
    """Its screw turned until water reads as water; raises CoreError unless water lies on it."""
    tool = bench.tool(act.glass)
    if tool.instrument.name not in bench.zeroed:
        raise CoreError("do", "Look at water first: the screw is turned while water lies on the prism.", "no_water")
    bench.tools[tool.instrument.name] = replace(tool, off_zero_k=bench.rng.gauss(0.0, 0.05))
    return Found(say("zero_set", "The screw is turned until water reads as water."))


def pen(bench: Bench, loop: TrueLoop, act: Act) -> Found:
    """What a conductivity pen shows in the sample; raises CoreError without one."""
    if act.loop not in bench.samples:
        raise CoreError("do", "There is no sample. Take one first.", "no_sample")
    shown = loop.conducts_us_cm * (1 + bench.rng.gauss(0.0, 0.02))
    if not loop.of.low_conductivity:
        shown = ENGINE_US_CM * (1 + bench.rng.gauss(0.0, 0.05))
    return Found(say("pen", "The pen shows {shown} µS/cm at 25 °C.", shown=f"{shown:.0f}"))


def strips(bench: Bench, loop: TrueLoop, act: Act) -> Found:
    """Matched to the nearest colour of the card: of old coolant as it was, thinned by whatever went in since."""
    taken = bench.samples.get(act.loop)
    if taken is None:
        raise CoreError("do", "There is no sample. Take one first.", "no_sample")
    true = {
        "ph": WATER_PH + (loop.of.ph - WATER_PH) * min(1.0, taken.w / 0.3),
        "nitrite_mg_l": loop.of.nitrite_mg_l * taken.old_share,
    }
    seen = {key: _matched(true[key] * bench.rng.gauss(1.0, STRIP_SD), card) for key, card in STRIPS.items()}
    words = "By the card: pH {ph}, nitrite {nitrite} mg/l."
    return Found(say("strips", words, ph=f"{seen['ph']:g}", nitrite=f"{seen['nitrite_mg_l']:g}"))


def _matched(value: float, card: tuple[float, ...]) -> float:
    return min(card, key=lambda band: abs(band - value))


def known_weight(bench: Bench, _loop: TrueLoop, _act: Act) -> Found:
    """The bench scale with a weight that is known."""
    return Found(
        say("known_weight", "The weight of 10 kg: the scale shows {shown} kg.", shown=f"{on_scale(bench, 10.0):.2f}")
    )


def on_scale(bench: Bench, kg: float) -> float:
    """What the scale shows of so many kilograms, to its division."""
    return round(kg * bench.scale / SCALE_STEP_KG) * SCALE_STEP_KG


def label(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    """What stands on the can it came out of."""
    base = BASE_NAMES[loop.of.base]
    if loop.of.other_percent:
        other = BASE_NAMES[Base.ETHYLENE if loop.of.base is Base.PROPYLENE else Base.PROPYLENE]
        said = say("two_cans", "Two empty cans lie beside it: one {base}, one {other}.", base=base, other=other)
        return Found(said)
    return Found(say("one_can", "On the can it came out of: {base}.", base=base))
