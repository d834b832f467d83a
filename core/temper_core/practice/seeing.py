"""What eyes find: the level, a sample in a jar, the boundary in an eyepiece that is read by eye."""

from __future__ import annotations

import math
from random import Random
from typing import TYPE_CHECKING

from temper_core.basis.message import Message, say
from temper_core.instruments.axis import axis_of
from temper_core.instruments.eyepiece import eyepiece
from temper_core.instruments.question import ReadingQuestion
from temper_core.instruments.scales import FACTS
from temper_core.job.inspect.facts import Look
from temper_core.machine.contents import Content
from temper_core.practice.acts import Glass, JarSeen
from temper_core.practice.true_loop import TrueLoop
from temper_core.science import Glycol
from temper_core.simulate.truth import Tool, zero_in_axis

if TYPE_CHECKING:
    from temper_core.practice.bench import Sample

NEAR_SHARE = 0.008  # of the loop: nearer to the mark nobody sees a difference
CLEAR_PERCENT = 16.0  # less old coolant than this looks clear in a jar: why clear is not clean
TINT_PERCENT = 30.0
SHARP, SOFT = 0.006, 0.03
DRIFT_PER_K = 0.0007  # of the scale, for each kelvin a sample is warmer than its instrument compensates for
COMPENSATED_C = 30.0


def level_said(loop: TrueLoop) -> Message:
    """Where the level stands, as it is seen now: higher while it is warm."""
    layout = loop.machine.layout
    tank = next((node for node in layout.nodes if node.id == loop.tank()), None)
    gap_l = loop.seen_room_l
    per_mm = tank.volume_l / (tank.top_mm - tank.bottom_mm) if tank is not None and tank.volume_l > 0 else 0.02
    mm = gap_l / per_mm
    warm = " It is warm: read it again cold." if loop.mean_c > 40 else ""
    if abs(gap_l) <= NEAR_SHARE * layout.volume_l:
        return say("level_at_mark", "The level is at the cold mark." + warm)
    if gap_l < 0:
        return say("level_over", "The level is {over} mm over the cold mark." + warm, over=f"{round(-mm):d}")
    if tank is not None and gap_l > tank.volume_l or tank is None and mm > 60:
        return say("level_none", "No level visible: it is too low to see." + warm)
    return say("level_low", "The level is {low} mm below the cold mark." + warm, low=f"{round(mm):d}")


def jar_of(loop: TrueLoop, what: Content, litres: float) -> JarSeen:
    """A sample in words of the inspection: old coolant thinned far enough looks like water."""
    old = 100 * what.old_l / litres if litres > 0 else 0.0
    new = 100 * max(0.0, what.glycol_kg / max(1e-9, what.kg)) - 0.4 * old
    looks: list[Look] = []
    if loop.of.oil:
        looks.append(Look.OILY_FILM)
    if what.other_l > 0.05 * litres and old > TINT_PERCENT:
        looks.append(Look.SLIGHT_HAZE)
    if loop.of.dirt and old > CLEAR_PERCENT:
        looks.append(Look.BROWN_SWIRL)
    if not looks:
        if old > 60:
            looks.append(Look.FADED if loop.of.dirt else Look.CLEAN_BRIGHT)
        elif new > 15:
            looks.append(Look.CLEAN_BRIGHT)
        else:
            looks.append(Look.RESIDUAL_TINT if old > CLEAR_PERCENT else Look.CRYSTAL_CLEAR)
    return JarSeen(tuple(look.value for look in looks), 2.0 if loop.of.dirt and old > 40 else 0.0)


def through_the_glass(tool: Tool, sample: Sample | None, sample_c: float, rng: Random) -> Glass:
    """The boundary as it stands; sample None: water lies on the prism. sample_c: how warm it is by now.

    The eye's own error is the reader's.
    """
    scale = tool.instrument.scale
    marks = eyepiece(scale)
    low, high = marks[0].index, marks[-1].index
    engraved = scale.glycol or Glycol.ETHYLENE
    glycol = Glycol.PROPYLENE if sample is not None and sample.propylene else Glycol.ETHYLENE
    axis = axis_of(ReadingQuestion(glycol, scale, FACTS[scale].water, resolution=tool.instrument.resolution))
    w = sample.w if sample is not None else 0.0
    per_w = (axis.at(0.01) - axis.at(0.0)) / 0.01
    there = axis.at(w) + zero_in_axis(scale, engraved, tool.off_zero_k, per_w)
    one = (marks[2].index - marks[1].index) * tool.bias_divisions * min(1.0, w / 0.10)
    at = (there + one - low) / (high - low)
    warm = max(0.0, sample_c - COMPENSATED_C)
    at += rng.gauss(0.0, 0.001) - DRIFT_PER_K * warm
    blur = SHARP + (SOFT if sample is not None and (sample.other_share > 0.1 or warm > 15) else 0.0)
    off = at > 1.0
    return Glass(tool.instrument.name, scale.value, 1.02 if off else math.floor(at * 10000) / 10000, blur, off)
