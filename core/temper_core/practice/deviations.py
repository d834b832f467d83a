"""Where a run went another way than its record says, each with the act it came from; what could have hurt somebody apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.job.drain.facts import Drained
from temper_core.job.entries import Entry, standing
from temper_core.job.fact import Fact
from temper_core.job.fill.facts import Poured, StrengthAdjusted
from temper_core.job.flush.facts import RoundFilled
from temper_core.job.open.facts import EngineRun
from temper_core.job.read.facts import Read
from temper_core.machine.drain_points import still_vessels
from temper_core.practice.acts import Do
from temper_core.practice.shelf import CLEANER, GLASSES, PRODUCTS, WATERS
from temper_core.practice.true_loop import MIXES_MIN, TrueLoop
from temper_core.practice.world import World

LITRES_OFF = 0.3  # recorded and true litres differ by more than a jug is off
SHARE_OFF = 0.06
AIR_LEFT_L = 0.15
GLASS_OFF_K = 0.8


@dataclass(frozen=True, slots=True)
class Deviation:
    """What was so, the loop, when; what to do instead."""

    at_min: float
    loop: int
    said: Message
    instead: str


INSTEAD = {
    "scalded": "Wait until the cap can be held and the upper hose gives, then turn the cap to its first stop.",
    "hot_drain": "Let it cool before a drain is opened.",
    "hot_bleeder": "Open a bleeder only when the loop is cold or the neck is open.",
    "cold_on_hot": "Let the block cool before anything cold goes in.",
    "ran_dry": "Fill to the cold mark before the engine starts.",
}


def deviations_of(world: World, records: Sequence[Sequence[Entry]]) -> tuple[tuple[Deviation, ...], tuple[Deviation, ...]]:
    """What was unsafe, and the rest; both in order of time."""
    unsafe = [Deviation(done.at_min, done.act.loop, said, INSTEAD[said.code]) for done, said in world.unsafe]
    found: list[Deviation] = []
    for number, loop in enumerate(world.loops):
        entries = records[number] if number < len(records) else ()
        facts = [entry.facts for entry in standing(list(entries))]
        found += [*_cleaner(world, number, loop), *_bottle(world, number, loop, facts), *_poured(world, number, loop, facts)]
        found += [*_drained(world, number, loop, facts), *_runs(world, number, facts), *_read(world, number, facts)]
        found += [*_left(world, number, loop)]
    over = [one for one in found if one.said.code == "cleaner_over"]
    rest = [one for one in found if one not in over]
    return (*sorted(unsafe + over, key=_when),), (*sorted(rest, key=_when),)


def _when(one: Deviation) -> float:
    return one.at_min


def _cleaner(world: World, number: int, loop: TrueLoop) -> list[Deviation]:
    limit = CLEANER.limit_min or 0.0
    rows = []
    if loop.cleaner_min > limit:
        words = "The cleaner ran {ran} minutes, its label allows {limit}: it attacks metal and seals."
        said = say("cleaner_over", words, ran=f"{loop.cleaner_min:.0f}", limit=f"{limit:.0f}")
        rows.append(Deviation(world.at_min, number, said, "Stop the cleaner by its label's limit and drain it at once."))
    left = 100 * loop.machine.contents.total.cleaner_l / max(0.01, loop.machine.inside_l)
    if left > (CLEANER.rinse_below_percent or 1.0):
        said = say("cleaner_left", "{left_percent} of the cleaner is still inside.", left_percent=left)
        rows.append(Deviation(world.at_min, number, said, "Rinse after a cleaner until less than its label allows is left."))
    return rows


def _bottle(world: World, number: int, loop: TrueLoop, facts: Sequence[Fact]) -> list[Deviation]:
    still = still_vessels(loop.machine.layout, loop.loop.equipment)
    if not any(isinstance(one, Drained) for one in facts) or not still:
        return []
    emptied = {done.act.where for done in world.did(Do.DRAIN, number)}
    old_l = sum(loop.machine.contents.by_vessel[v].old_l for v in still if v not in emptied)
    if old_l < 0.1:
        return []
    said = say("bottle_left", "Bottle not drained: {old_l} old coolant.", old_l=old_l)
    return [Deviation(world.at_min, number, said, "Lift out and empty the bottle that no drain reaches.")]


def _poured(world: World, number: int, loop: TrueLoop, facts: Sequence[Fact]) -> list[Deviation]:
    """Product and water that went in, beside what was recorded."""
    names = {one.name for one in PRODUCTS}
    true_product = sum(litres for what, litres in loop.poured.items() if what in names)
    said_product = sum(one.product_l for one in facts if isinstance(one, Poured | StrengthAdjusted))
    rows = []
    last = max((done.at_min for done in world.did(Do.POUR, number)), default=world.at_min)
    if abs(true_product - said_product) > max(LITRES_OFF, SHARE_OFF * true_product):
        words = "Recorded {recorded_l} of coolant, {true_l} went in."
        said = say("product_off", words, recorded_l=said_product, true_l=true_product)
        rows.append(Deviation(last, number, said, "Record each pour as the jug shows it, right after it."))
    filled = any(isinstance(one, RoundFilled) for one in facts)
    true_water = sum(loop.poured.get(what, 0.0) for what in WATERS)
    said_water = sum(one.water_l for one in facts if isinstance(one, Poured | StrengthAdjusted))
    if not filled and abs(true_water - said_water) > max(LITRES_OFF, SHARE_OFF * true_water):
        said = say(
            "water_off", "Recorded {recorded_l} of water, {true_l} went in.", recorded_l=said_water, true_l=true_water
        )
        rows.append(Deviation(last, number, said, "Record the water too, by the jug."))
    wrong = [one.name for one in PRODUCTS if one.name in loop.poured and one.base is not loop.of.base]
    other = 100 * loop.machine.contents.total.other_l / max(0.01, loop.machine.inside_l)
    if wrong and other > 5:
        words = "{product} was poured onto another base: {other_percent:0} is mixed, and no scale reads a mixture."
        said = say("bases_mixed", words, product=wrong[0], other_percent=other)
        rows.append(
            Deviation(last, number, said, "Find out the base before anything is added; change all of it if two are in.")
        )
    return rows


def _drained(world: World, number: int, loop: TrueLoop, facts: Sequence[Fact]) -> list[Deviation]:
    acts = world.did(Do.DRAIN, number)
    rows = []
    if abs(world.bench.scale - 1) > 0.01 and any(isinstance(one, Drained) for one in facts):
        off = 100 * (world.bench.scale - 1)
        words = "The scale shows {off_percent} too {side}: of {true_l} drained it says {shown_l}."
        said = say("scale_off", words, off_percent=abs(off), side="much" if off > 0 else "little", true_l=loop.drained_l,
                   shown_l=loop.drained_l * world.bench.scale)  # fmt: skip
        rows.append(Deviation(acts[-1].at_min if acts else 0.0, number, said, "Check the scale with a known weight."))
    letters = {drain.letter for drain in loop.machine.layout.drains}
    used = {done.act.where for done in acts}
    if used & letters and letters - used:
        missed = ", ".join(sorted(letters - used))
        said = say("drain_shut", "Drain {missed} stayed shut.", missed=missed)
        rows.append(Deviation(acts[0].at_min, number, said, "Open every drain point that the plan names."))
    held = [done for done in acts if done.act.where in letters and "stopped early" in done.found.said.template]
    if held:
        said = say("cap_held", "Drained with the cap closed: most of it stayed inside.")
        rows.append(Deviation(held[0].at_min, number, said, "Open the cap before a drain is opened."))
    return rows


def _runs(world: World, number: int, facts: Sequence[Fact]) -> list[Deviation]:
    """Runs that were recorded hot and mixed, and were not."""
    claimed = sum(1 for one in facts if isinstance(one, EngineRun) and one.opened)
    true = sum(1 for open_min, _ in world.bench.runs.get(number, []) if open_min >= MIXES_MIN)
    if claimed <= true:
        return []
    words = "{claimed} runs are recorded with the thermostat open, in {true} it was: the rest did not mix."
    said = say("not_mixed", words, claimed=str(claimed), true=str(true))
    return [Deviation(world.at_min, number, said, "Run it until both hoses are hot, and a few minutes longer.")]


def _read(world: World, number: int, facts: Sequence[Fact]) -> list[Deviation]:
    reads = [one for one in facts if isinstance(one, Read) and one.instrument is not None]
    rows = []
    if reads and not world.did(Do.LOOK_SAMPLE, number):
        said = say("not_looked", "A reading is recorded, nobody looked through a refractometer.")
        rows.append(Deviation(world.at_min, number, said, "Record only what you saw."))
    off = world.bench.first_off_k
    if abs(off) >= GLASS_OFF_K and reads and all(one.zero is None for one in reads) and not world.did(Do.SET_ZERO):
        words = "{name} reads water {off_k} too {side}: every reading was off by that or more."
        said = say("zero_off", words, name=GLASSES[0].name, off_k=abs(off), side="cold" if off > 0 else "warm")
        rows.append(Deviation(world.at_min, number, said, "Look at demineralised water before the sample, and enter it."))
    return rows


def _left(world: World, number: int, loop: TrueLoop) -> list[Deviation]:
    rows = []
    if loop.air_l > AIR_LEFT_L:
        where = " It is in the heater." if loop.heater_air_l > AIR_LEFT_L else ""
        said = say("air_left", "{air_l} of air is still trapped." + where, air_l=loop.air_l)
        rows.append(Deviation(world.at_min, number, said, "Run it hot with the heater full, bleed, and top up again."))
    if loop.spat_l > 0.05:
        said = say("spat", "{lost_l} ran out of the neck as it warmed: it was too full.", lost_l=loop.spat_l)
        rows.append(
            Deviation(world.at_min, number, said, "Leave the space above the cold mark: coolant expands as it warms.")
        )
    if loop.leaked_l > 0.1:
        said = say("leaked", "{lost_l} leaked out meanwhile.", lost_l=loop.leaked_l)
        rows.append(Deviation(world.at_min, number, said, "Find the leak before the strength is made right."))
    return rows
