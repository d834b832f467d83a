"""The lines of a job sheet that count litres."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from temper_core.basis.message import Message, capitalised, say
from temper_core.job.loop_state import LoopState
from temper_core.machine.bleeding import SIGN_NAMES


@dataclass(frozen=True, slots=True)
class SheetLine:
    """One line: what it is about, and what is said."""

    name: str
    said: Message


def lines_out(state: LoopState) -> Iterator[SheetLine]:
    """What came out, line by line [l]."""
    flush = state.flush
    if flush is None or not flush.rounds:
        return
    first = flush.rounds[0]
    if first.out_l is not None:
        yield SheetLine("Drained", say("out", "{out_l}", out_l=first.out_l))
    rounds = len(flush.rounds) - 1
    if rounds:
        water = ", ".join(f"{kind.value}" for kind, litres in flush.water_l.items() if litres > 0)
        words = "{rounds}, with {water} water"
        count = f"{rounds} {'round' if rounds == 1 else 'rounds'}"
        yield SheetLine("Rinsed", say("rinsed", words, rounds=count, water=water or "no"))
    words = "{old_percent} of the full loop ±{sd_percent}"
    left = say("left", words, old_percent=flush.finished_old_percent, sd_percent=2 * flush.finished_sd_percent)
    yield SheetLine("Old coolant left", left)
    if flush.early:
        yield SheetLine("Finished early", say("early", "{why}", why=flush.early))
    for row in flush.waste:
        words = "{kept_l} of {out_l} in {count}, closed and labelled"
        if not row.containers:
            yield SheetLine(
                capitalised(row.kind.value.replace("_", " ")),
                say("waste_open", "{out_l}, no container recorded", out_l=row.out_l),
            )
            continue
        count = f"{row.containers} {'container' if row.containers == 1 else 'containers'}"
        name = capitalised(row.kind.value.replace("_", " "))
        yield SheetLine(name, say("waste", words, kept_l=row.kept_l, out_l=row.out_l, count=count))


def lines_in(state: LoopState) -> Iterator[SheetLine]:
    """What went in, line by line [l]."""
    plan, poured, fill = state.plan, state.poured, state.fill
    if plan is not None and plan.concentrate_l is not None:
        words = (
            "{product_l} + {water_l} water for {target_c:0}"
            if plan.target_freeze_c is not None
            else "{product_l} + {water_l}"
        )
        values = {"product_l": plan.concentrate_l, "water_l": plan.water_l or 0.0, "target_c": plan.target_freeze_c or 0.0}
        yield SheetLine("Planned", say("planned", words, **values))
    if poured.product_l + poured.water_l > 0:
        words = "{product_l} product + {water_l} water"
        yield SheetLine("Poured", say("poured", words, product_l=poured.product_l, water_l=poured.water_l))
    if fill is None:
        return
    if fill.vacuum is not None:
        tight = {True: "held", False: "did not hold", None: "not held long enough"}[fill.vacuum.answer.tight]
        words = "{below_kpa:0} below ambient, {tight}"
        yield SheetLine("Vacuum", say("vacuum", words, below_kpa=fill.vacuum.facts.vacuum_kpa, tight=tight))
    if fill.air is not None:
        yield SheetLine("Air", fill.air.said)
    if fill.bleed.signs:
        signs = ", ".join(SIGN_NAMES[sign].lower() for sign in fill.bleed.signs)
        yield SheetLine("Bled", say("bled", "by two signs: {signs}", signs=signs))
