"""How the record tells a dose."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.dose.facts import Dosed
from temper_core.products.shelf import cans_of


def dosed(facts: Dosed) -> Message:
    said = say("dosed", "Dosed {ml} ml {agent}", ml=f"{facts.dose_ml:g}", agent=facts.agent.name)
    if not facts.taken:
        return said
    return join("dosed", [said, say("cans", "out of {cans}", cans=cans_of(facts.taken))])
