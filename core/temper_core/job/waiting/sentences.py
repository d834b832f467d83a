"""How the record tells clocks, temperatures and pauses."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.parking.facts import PARKING_NAMES
from temper_core.job.waiting.facts import CLOCK_NAMES, ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged


def temperature_logged(facts: TemperatureLogged) -> Message:
    return say("temperature_logged", "Upper hose at {hose_c:0}", hose_c=facts.c)


def clock_started(facts: ClockStarted) -> Message:
    return say(
        "clock_started", "Clock: {clock}, {minutes} min", clock=CLOCK_NAMES[facts.clock], minutes=f"{facts.minutes:g}"
    )


def clock_stopped(facts: ClockStopped) -> Message:
    return say("clock_stopped", "Clock stopped")


def paused(facts: Paused) -> Message:
    parts = [say("paused", "Paused")]
    if facts.parked is not None:
        parts = [say("parked", "Paused, parked {where}", where=PARKING_NAMES[facts.parked])]
    if facts.note:
        parts.append(say("note", "{note}", note=facts.note))
    return join("paused", parts, ": ")


def resumed(facts: Resumed) -> Message:
    return say("resumed", "Resumed")
