"""How the record tells the safe-to-open check, what stands ready, and a run."""

from __future__ import annotations

from temper_core.basis.message import Message, capitalised, join, say
from temper_core.job.open.facts import RAN_NAMES, EngineRun, GateObserved, ReadyConfirmed
from temper_core.job.open.rules import READY_NAMES


def gate_observed(facts: GateObserved) -> Message:
    parts = []
    if facts.temperature_c is not None:
        parts.append(say("warmth", "{warm_c:0}", warm_c=facts.temperature_c))
    else:
        parts.append(say("warmth", "{felt}", felt="can be held" if facts.held else "too hot to hold"))
    if facts.gauge_kpa is not None:
        parts.append(say("pressure", "gauge {gauge_kpa:0}", gauge_kpa=facts.gauge_kpa))
    else:
        parts.append(say("pressure", "hose {felt}", felt="soft" if facts.soft else "hard"))
    if facts.isolated_by:
        parts.append(say("isolated", "high voltage isolated by {who}", who=facts.isolated_by))
    return join("gate_observed", [say("check", "Safe-to-open check:"), join("signs", parts)], " ")


def ready_confirmed(facts: ReadyConfirmed) -> Message:
    ready = "; ".join(READY_NAMES[row][:1].lower() + READY_NAMES[row][1:] for row in facts.ready)
    return say("ready_confirmed", "Ready: {ready}", ready=ready)


def engine_run(facts: EngineRun) -> Message:
    ran = say("ran", "{what} ran", what=capitalised(RAN_NAMES[facts.by]))
    if facts.minutes:
        ran = join("ran", [ran, say("long", "{minutes:0} min", minutes=facts.minutes)], " ")
    if facts.opened is None:
        return ran
    return join("engine_run", [ran, say("opened", "thermostat opened" if facts.opened else "thermostat stayed shut")])
