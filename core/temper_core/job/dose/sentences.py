"""How the record tells a dose."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.dose.facts import Dosed


def dosed(facts: Dosed) -> Message:
    said = say("dosed", "Dosed {ml} ml {agent}", ml=f"{facts.dose_ml:g}", agent=facts.agent.name)
    if not facts.taken:
        return said
    cans = ", ".join(row.can.number + (f" (lot {row.can.lot})" if row.can.lot else "") for row in facts.taken)
    return join("dosed", [said, say("cans", "out of {cans}", cans=cans)])
