"""What each act does to a true loop, and what is found. Sizes: common practice, no source."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.machine.circuit import NodeKind
from temper_core.practice.acts import Act, Do, Found
from temper_core.practice.bench import Bench, known_weight, label, look_sample, look_water, pen, sample, set_zero, strips
from temper_core.practice.draining import drain, shut_drains
from temper_core.practice.pouring import pour
from temper_core.practice.seeing import level_said
from temper_core.practice.true_loop import PUSHES_KPA, SCALDS_C, TrueLoop
from temper_core.simulate import thermal

AIR_LOCK_L = 0.15
BLED_BY_SCREW = 0.7  # of what is caught near it
DRY_SHARE = 0.5  # with less inside an engine runs dry


def _feel(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    upper, lower = (("too hot to hold" if c > SCALDS_C else "warm" if c > 32 else "cold") for c in _sides(loop))
    hard = loop.pressure_kpa >= PUSHES_KPA
    words = "Upper hose {upper}, {gives}; lower hose {lower}. A probe on it shows {surface_c:0}."
    gives = "hard when squeezed" if hard else "gives when squeezed"
    return Found(say("felt", words, upper=upper, lower=lower, gives=gives, surface_c=loop.warmth.surface_c))


def _sides(loop: TrueLoop) -> tuple[float, float]:
    return loop.warmth.hot_c, loop.warmth.cold_c


def _level(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    return Found(level_said(loop))


def _heater(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    if not loop.has_heater:
        return Found(say("no_heater", "This loop has no heater."))
    if not loop.running:
        return Found(say("heater_still", "The engine is off: the fan blows cold air."))
    blocked = loop.heater_air_l > AIR_LOCK_L
    if loop.heater_full and loop.warmth.hot_c > 55 and not blocked:
        return Found(say("heater_warm", "Hot air from the heater."))
    if blocked and loop.warmth.hot_c > 55:
        return Found(say("heater_blocked", "The engine is hot, the heater blows cold, it gurgles behind the dash."))
    return Found(say("heater_cold", "The heater blows cold or lukewarm air."))


def _engine_on(_bench: Bench, loop: TrueLoop, act: Act) -> Found:
    if loop.running:
        raise CoreError("do", "The engine is already running.", "runs")
    unsafe = []
    if loop.drains_open:
        raise CoreError("do", "A drain is open. Close it before the engine runs.", "drain_open")
    if loop.machine.inside_l < DRY_SHARE * loop.machine.layout.volume_l:
        unsafe.append(say("ran_dry", "Started with {inside_l} inside: an engine without coolant seizes.",
                          inside_l=loop.machine.inside_l))  # fmt: skip
    loop.running, loop.heater_full, loop.ran_open_min, loop.ran_min = True, act.heater_full, 0.0, 0.0
    how = "heater full hot" if act.heater_full else "heater shut"
    return Found(say("runs", "The engine idles, {how}.", how=how), unsafe=tuple(unsafe))


def _engine_off(bench: Bench, loop: TrueLoop, act: Act) -> Found:
    if not loop.running:
        raise CoreError("do", "The engine is already off.", "stands")
    loop.running = False
    bench.runs.setdefault(act.loop, []).append((loop.ran_open_min, loop.heater_full))
    words = "The engine ran {minutes} minutes and is off. Upper hose {upper}, lower hose {lower}."
    upper, lower = (("too hot to hold" if c > SCALDS_C else "warm" if c > 32 else "cold") for c in _sides(loop))
    return Found(say("stopped", words, minutes=f"{loop.ran_min:.0f}", upper=upper, lower=lower))


def _open_cap(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    if loop.cap_open:
        raise CoreError("do", "The cap is open already.", "open")
    kpa, hot_c, unsafe, lost = loop.pressure_kpa, loop.warmth.hot_c, [], 0.0
    if kpa >= PUSHES_KPA and hot_c > SCALDS_C:
        lost = min(0.1 * loop.machine.inside_l, kpa / 100 * 0.06 * loop.machine.inside_l)
        loop.machine.contents = loop.machine.contents.lose(lost)
        words = "The cap was opened at {hot_c:0} and {over_kpa:0}: {lost_l} boiled out over hands and face."
        unsafe.append(say("scalded", words, hot_c=hot_c, over_kpa=kpa, lost_l=lost))
    loop.cap_open = True
    loop.warmth = replace(loop.warmth, gas=thermal.cold(loop.body).gas)
    said = say("cap_hisses", "It hisses, then it is open.") if kpa >= PUSHES_KPA else say("cap_off", "The cap is open.")
    return Found(said, unsafe=tuple(unsafe))


def _close_cap(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    if not loop.cap_open:
        raise CoreError("do", "The cap is closed already.", "shut")
    loop.cap_open = False
    return Found(say("cap_on", "The cap is closed."))


def _pour(bench: Bench, loop: TrueLoop, act: Act) -> Found:
    return pour(loop, act, bench.rng)


def _bleed(_bench: Bench, loop: TrueLoop, act: Act) -> Found:
    marks = [str(one.number) for one in loop.machine.layout.bleeders]
    if act.where not in marks:
        there = f"{', '.join(marks)} are" if marks else "this loop has none"
        raise CoreError("where", f"Bleeder '{act.where}' is not there: {there}.", "not_there")
    unsafe = []
    if loop.pressure_kpa >= PUSHES_KPA and loop.hot:
        unsafe.append(say("hot_bleeder", "A bleeder was opened at {hot_c:0} under pressure.", hot_c=loop.warmth.hot_c))
    node = next(one.node for one in loop.machine.layout.bleeders if str(one.number) == act.where)
    heater = any(one.id == node and one.kind is NodeKind.HEATER for one in loop.machine.layout.nodes)
    came = BLED_BY_SCREW * (loop.top_air_l + (loop.heater_air_l if heater else 0.0))
    loop.top_air_l *= 1 - BLED_BY_SCREW
    loop.heater_air_l *= 1 - BLED_BY_SCREW if heater else 1.0
    said = (
        say("air_came", "Air and froth, then a steady stream.")
        if came > 0.05
        else say("no_air", "A steady stream at once, no bubbles.")
    )
    return Found(said, unsafe=tuple(unsafe))


HANDS: dict[Do, Callable[[Bench, TrueLoop, Act], Found]] = {
    Do.FEEL: _feel,
    Do.LEVEL: _level,
    Do.HEATER: _heater,
    Do.ENGINE_ON: _engine_on,
    Do.ENGINE_OFF: _engine_off,
    Do.OPEN_CAP: _open_cap,
    Do.CLOSE_CAP: _close_cap,
    Do.DRAIN: drain,
    Do.SHUT_DRAINS: shut_drains,
    Do.POUR: _pour,
    Do.BLEED: _bleed,
    Do.SAMPLE: sample,
    Do.LOOK_WATER: look_water,
    Do.LOOK_SAMPLE: look_sample,
    Do.SET_ZERO: set_zero,
    Do.PEN: pen,
    Do.STRIPS: strips,
    Do.KNOWN_WEIGHT: known_weight,
    Do.LABEL: label,
}
