"""How the record tells what was shut, poured, pulled, bled and swapped."""

from __future__ import annotations

from collections.abc import Sequence

from temper_core.basis.message import Message, join, say
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    LookedUnder,
    Poured,
    StrengthAdjusted,
    VacuumPulled,
)
from temper_core.machine.bleeding import OUTCOME_NAMES, SIGN_NAMES
from temper_core.products.shelf import Taken, cans_of


def closed(facts: Closed) -> Message:
    return say("closed", "Closed and tight: {points}", points=", ".join(point.split(":", 1)[-1] for point in facts.points))


def looked_under(facts: LookedUnder) -> Message:
    if facts.dry:
        return say("dry", "Dry underneath")
    return say("drips", "Drips at {where}", where=facts.where)


def vacuum_pulled(facts: VacuumPulled) -> Message:
    pulled = say("pulled", "Vacuum {vacuum_kpa} below ambient", vacuum_kpa=facts.vacuum_kpa)
    if facts.held is None:
        return pulled
    words = "{lost_kpa} lost in {minutes} min"
    held = say("held", words, lost_kpa=facts.held.drop_kpa, minutes=f"{facts.held.minutes:g}")
    return join("vacuum_pulled", [pulled, held])


def poured(facts: Poured) -> Message:
    verb = "Topped up" if facts.bleeding else "Poured"
    water = f"{facts.source}," if facts.source else facts.water
    parts = _went_in(facts.product.name if facts.product else "", facts.product_l, facts.water_l, water)
    said = join("poured", [say("verb", "{verb}", verb=verb), join("in", parts, " + ")], " ")
    if facts.mistake:
        said = join("poured", [said, say("mistake", "by mistake")])
    if facts.at_mark and not facts.bleeding:
        said = join("poured", [said, say("mark", "at the mark")])
    return _out_of(said, facts.taken)


def _out_of(said: Message, taken: Sequence[Taken]) -> Message:
    """What went in, with the containers it came out of."""
    if not taken:
        return said
    return join("poured", [said, say("cans", "out of {cans}", cans=cans_of(taken))])


def _went_in(product: str, product_l: float, water_l: float, water: str | None = None) -> list[Message]:
    parts = [say("product", "{in_l} {product}", in_l=product_l, product=product)] if product_l > 0 else []
    kind = f"{water} " if water else ""
    return parts + ([say("water", "{in_l} {kind}water", in_l=water_l, kind=kind)] if water_l > 0 else [])


def corrected(facts: StrengthAdjusted) -> Message:
    parts = _went_in(facts.product.name if facts.product else "", facts.product_l, facts.water_l)
    said = join("corrected", [say("out", "Swapped {out_l} for", out_l=facts.out_l), join("in", parts, " + ")], " ")
    return _out_of(said, facts.taken)


def bleed_started(facts: BleedStarted) -> Message:
    name = facts.recipe.name
    return say("bleed_started", "Bleed: {recipe}", recipe=name[:1].lower() + name[1:])


def bleed_stepped(facts: BleedStepped) -> Message:
    return say("bleed_stepped", "Bleed, step {number}", number=str(facts.step + 1))


def bleed_held(facts: BleedHeld) -> Message:
    return say("bleed_held", "Bleed paused")


def bleed_goes_on(facts: BleedGoesOn) -> Message:
    return say("bleed_goes_on", "Bleed resumed")


def bleed_ended(facts: BleedEnded) -> Message:
    if not facts.signs:
        return say("bleed_ended", "Bleed {outcome}", outcome=OUTCOME_NAMES[facts.outcome])
    signs = ", ".join(SIGN_NAMES[sign][:1].lower() + SIGN_NAMES[sign][1:] for sign in facts.signs)
    return say("bleed_ended", "Bleed {outcome}: {signs}", outcome=OUTCOME_NAMES[facts.outcome], signs=signs)
