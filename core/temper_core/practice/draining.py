"""Draining: what runs out of a drain point, or of a vessel that is emptied by itself, and what the scale says of it."""

from __future__ import annotations

from collections.abc import Mapping

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.machine.contents import Content, Contents
from temper_core.practice.acts import Act, Found
from temper_core.practice.bench import Bench, on_scale
from temper_core.practice.seeing import jar_of
from temper_core.practice.true_loop import PUSHES_KPA, SCALDS_C, TrueLoop

TARE_KG = 1.3
MARK_STEP_L = 0.1
HELD_BY_CAP = 0.35  # of what would run, while a cap that is left on holds it


def drain(bench: Bench, loop: TrueLoop, act: Act) -> Found:
    """A drain point opened until it drips, or a vessel emptied by itself: by scale and by marks. Raises CoreError."""
    if loop.running:
        raise CoreError("do", "The engine runs. Stop it first.", "runs")
    layout, held = loop.machine.layout, loop.machine.contents.all_litres()
    drain = next((one for one in layout.drains if one.letter == act.where), None)
    vessel = next((node for node in layout.nodes if node.id == act.where), None)
    if drain is None and vessel is None:
        marks = ", ".join([one.letter for one in layout.drains] + [node.id for node in layout.nodes])
        raise CoreError("where", f"'{act.where}' is no drain and no vessel: {marks} are.", "not_there")
    unsafe = []
    if loop.warmth.hot_c > SCALDS_C or loop.pressure_kpa >= PUSHES_KPA:
        words = "A drain was opened at {hot_c:0} and {over_kpa:0}: that scalds hands and arms."
        unsafe.append(say("hot_drain", words, hot_c=loop.warmth.hot_c, over_kpa=loop.pressure_kpa))
    if drain is not None:
        if act.where not in loop.drains_open:
            loop.drains_open.append(act.where)
        open_ = [one for one in layout.drains if one.letter in loop.drains_open]
        lean = 1 + bench.rng.gauss(0.0, 0.02)
        stays = {
            node.id: node.volume_l * max(0.0, 1 - min(1.0, sum(one.share.get(node.id, 0.0) for one in open_) * lean))
            for node in layout.nodes
        }
        part = 1.0 if loop.cap_open else HELD_BY_CAP
        out = {v: part * max(0.0, held[v] - stays[v]) for v in held}
    else:
        out = {act.where: 0.98 * held[act.where]}
    litres = sum(out.values())
    before, before_kg = loop.machine.contents, loop.machine.contents.total.kg
    loop.machine.contents = loop.machine.contents.drain(litres, out) if litres > 1e-6 else loop.machine.contents
    kg = before_kg - loop.machine.contents.total.kg
    loop.drained_l += litres
    if litres > 0.3 * layout.volume_l:
        loop.top_air_l = loop.heater_air_l = 0.0  # it is open to the air, and full of it
    gross, tare = (f"{on_scale(bench, one):.2f}" for one in (TARE_KG + kg, TARE_KG))
    marks_l = round(litres / loop.machine.truth.own_error("marks") / MARK_STEP_L) * MARK_STEP_L
    start = (
        "It ran thin and stopped early; the cap is closed."
        if drain is not None and not loop.cap_open
        else "It ran until it dripped."
    )
    words = start + " On the scale {gross} kg, empty {tare} kg; by its marks {marks_l}."
    said = say("weighed", words, gross=gross, tare=tare, marks_l=marks_l)
    jar = jar_of(loop, _came_out(before, out), litres) if litres > 0.05 else None
    return Found(said, jar=jar, unsafe=tuple(unsafe))


def _came_out(before: Contents, out: Mapping[str, float]) -> Content:
    """What stands in the container: a part of each vessel."""
    caught = Content()
    for vessel, litres in out.items():
        held = before.litres(vessel)
        if held > 0:
            caught = caught.plus(before.by_vessel[vessel].share(min(1.0, litres / held)))
    return caught


def shut_drains(_bench: Bench, loop: TrueLoop, _act: Act) -> Found:
    """Every drain shut; raises CoreError where none is open."""
    if not loop.drains_open:
        raise CoreError("do", "No drain is open.", "shut")
    marks = ", ".join(loop.drains_open)
    loop.drains_open.clear()
    return Found(say("drains_shut", "Shut: {marks}.", marks=marks))
