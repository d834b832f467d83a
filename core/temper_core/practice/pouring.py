"""What goes in: by the jug, through the fill point; some of it stands above air that is caught below."""

from __future__ import annotations

from dataclasses import replace
from random import Random

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.basis.quantity import WATER_DENSITY_20C
from temper_core.machine.contents import Contents
from temper_core.practice.acts import Act, Found
from temper_core.practice.shelf import CLEANER, TAP, product_named
from temper_core.practice.true_loop import NO_TANK_ROOM, TrueLoop
from temper_core.products.chemistry import Base, Product
from temper_core.science import Glycol, density_20c

JUG_STEP_L = 0.05
TAP_US_CM, DEMINERALISED_US_CM = 450.0, 1.0
OTHER_US_CM = 2800.0  # of a coolant for engines


def pour(loop: TrueLoop, act: Act, rng: Random) -> Found:
    """So many litres, or up to the cold mark; yields what the jug says. Raises CoreError."""
    product = product_named(act.what)
    if (act.litres is None) != act.to_mark:
        raise CoreError("litres", "Enter litres, or fill to the cold mark, one of the two.", "one_of_them")
    if not loop.cap_open:
        raise CoreError("do", "The cap is closed. Open it to pour.", "shut")
    if loop.drains_open:
        raise CoreError("do", f"Drain {', '.join(loop.drains_open)} is open: it would run out again.", "drain_open")
    unsafe = []
    if loop.hot and loop.machine.inside_l < 0.6 * loop.machine.layout.volume_l:
        unsafe.append(say("cold_on_hot", "Cold coolant went into a block of {hot_c:0}: it cracks.", hot_c=loop.warmth.hot_c))
    jug = loop.machine.truth.own_error("jug")
    room = max(0.0, loop.seen_room_l)
    brim = room + (loop.machine.layout.room_l or NO_TANK_ROOM * loop.machine.layout.volume_l)
    wanted = room / (1 - loop.of.air_share) if act.to_mark else (act.litres or 0.0) * jug
    caught = min(loop.of.air_share * wanted, 0.08 * loop.machine.layout.volume_l) if wanted > 0.05 * brim else 0.0
    if act.to_mark:
        wanted = max(0.0, room - caught)
    if act.to_mark and wanted < 0.02:
        raise CoreError("to_mark", "The level is at the cold mark or above. No more is needed.", "at_mark")
    over = max(0.0, wanted + caught - brim)
    goes_in = wanted - over
    _in(loop, product, act.what, goes_in)
    loop.catch(caught)
    loop.poured[act.what] = loop.poured.get(act.what, 0.0) + goes_in
    shown = round(wanted / jug / JUG_STEP_L) * JUG_STEP_L
    words = (
        "Poured {shown_l:2} by the jug. The level is at the cold mark." if act.to_mark else "Poured {shown_l:2} by the jug."
    )
    if over > 0.05:
        words = "Poured {shown_l:2} by the jug; {over_l} ran over the brim."
    return Found(say("poured", words, shown_l=shown, over_l=over, what=act.what), unsafe=tuple(unsafe))


def _in(loop: TrueLoop, product: Product | None, what: str, litres: float) -> None:
    machine = loop.machine
    before_l = machine.inside_l
    if what == CLEANER.name:
        dose_l = CLEANER.container_ml / 1000 / CLEANER.treats_l
        machine.contents = machine.contents.pour(0.0, litres * WATER_DENSITY_20C / 1000, litres / dose_l)
        conducts = OTHER_US_CM
    elif product is None:
        machine.contents = machine.contents.pour(0.0, litres * WATER_DENSITY_20C / 1000)
        conducts = TAP_US_CM if what == TAP else DEMINERALISED_US_CM
    else:
        glycol = Glycol.PROPYLENE if product.base is Base.PROPYLENE else Glycol.ETHYLENE
        w = product.glycol_mass_percent / 100
        kg = litres * density_20c(glycol, w) / 1000
        if glycol is not machine.contents.glycol and litres > machine.contents.total.old_l:
            machine.contents = _mostly(machine.contents, glycol)  # it freezes as most of what is inside does
        other = litres if glycol is not machine.contents.glycol else 0.0
        machine.contents = machine.contents.pour(kg * w, kg * (1 - w), other_l=other)
        conducts = 2.0 if product.family.value == "low_conductivity" else OTHER_US_CM
    whole = before_l + litres
    loop.conducts_us_cm = (before_l * loop.conducts_us_cm + litres * conducts) / whole if whole > 0 else conducts


def _mostly(contents: Contents, glycol: Glycol) -> Contents:
    """The other base now makes up most of it: what came in is the other one from here on."""
    held = {v: replace(c, other_l=c.old_l) for v, c in contents.by_vessel.items()}
    return Contents(contents.layout, glycol, held)
