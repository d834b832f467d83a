"""How the record tells what came out."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.drain.facts import MEASURED_NAMES, Caught, Drained


def drained(facts: Drained) -> Message:
    if facts.corrected_l is not None:
        out = say("out", "{out_l} out, corrected; as recorded:", out_l=facts.corrected_l)
        return join("drained_corrected", [out, _caught(facts)], " ")
    if facts.drained_l is not None and facts.measured is not None:
        return say("drained", "{out_l} out, {how}", out_l=facts.drained_l, how=MEASURED_NAMES[facts.measured])
    return join("drained_caught", [say("drained", "Drained:"), _caught(facts)], " ")


def _caught(facts: Drained) -> Message:
    return join("caught", [_container(row) for row in facts.caught])


def _container(row: Caught) -> Message:
    where = f"{row.where} " if row.where else ""
    if row.marks_l is not None:
        return say("marks", "{where}{out_l} by marks", where=where, out_l=row.marks_l)
    return say("weighed", "{where}{net_kg:2} kg", where=where, net_kg=(row.gross_kg or 0.0) - row.tare_kg)
