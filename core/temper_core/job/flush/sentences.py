"""How the record tells rounds, their end, and the waste."""

from __future__ import annotations

from temper_core.basis.message import Message, capitalised, join, say
from temper_core.job.flush.facts import METHOD_NAMES, WASTE_NAMES, FlushEnded, RoundFilled, VesselRinsed, WasteKept
from temper_core.products.shelf import cans_of
from temper_core.products.water import WATER_NAMES


def round_filled(facts: RoundFilled) -> Message:
    parts = [say("water", "Round filled: {water} water", water=WATER_NAMES[facts.water])]
    if facts.fill_l is not None:
        parts.append(say("litres", "{in_l}", in_l=facts.fill_l))
    else:
        parts[0] = say("water", "Round filled: {water} water to the mark", water=WATER_NAMES[facts.water])
    if facts.agent is not None:
        parts.append(say("agent", "{ml} ml {agent}", ml=f"{facts.agent_ml or 0:g}", agent=facts.agent.name))
    if facts.taken:
        parts.append(say("cans", "out of {cans}", cans=cans_of(facts.taken)))
    return join("round_filled", parts)


def vessels_rinsed(facts: VesselRinsed) -> Message:
    vessels = [say("vessel", "{vessel} {through_l}", vessel=name, through_l=litres) for name, litres in facts.litres.items()]
    method = say("method", "{method}:", method=capitalised(METHOD_NAMES[facts.method]))
    return join("vessels_rinsed", [method, join("vessels", vessels)], " ")


def flush_ended(facts: FlushEnded) -> Message:
    if facts.reason:
        return say("flush_ended_early", "Flush finished early: {why}", why=facts.reason)
    return say("flush_ended", "Flush finished: enough")


def waste_kept(facts: WasteKept) -> Message:
    words = "{kind}, {kept_l} in {count} {container}" + (", kept for reuse" if facts.reuse else "")
    container = "container" if facts.containers == 1 else "containers"
    kind = capitalised(WASTE_NAMES[facts.kind])
    return say("waste_kept", words, kind=kind, kept_l=facts.litres, count=str(facts.containers), container=container)
