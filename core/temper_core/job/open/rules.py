"""The scald gate: may this loop be opened now? Two observations, never the clock; source: common practice, no source."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from datetime import datetime, timedelta

from temper_core.basis.message import Message, capitalised, say
from temper_core.basis.policy import Policy
from temper_core.job.open.facts import GateObserved, Pressure, Ran, Ready, Warmth
from temper_core.job.open.state import HANDED_ON, LEFT, LONG_AGO, OTHER_DAY, RAN_SINCE, Asked, Gate, Observation
from temper_core.machine.equipment import Equipment

READY_NAMES = {
    Ready.SUPPORTED: "On supports, wheels chocked",
    Ready.VENTILATED: "Exhaust ventilated",
    Ready.TRAY: "Tray underneath, container with lid and label ready",
    Ready.GLASSES: "Glasses and gloves on",
    Ready.PREHEATER_OFF: "Preheater off and locked",
    Ready.ISOLATED: "High voltage isolated, and checked",
}
FOR_DRAIN = (Ready.SUPPORTED, Ready.TRAY)
FOR_RUN = (Ready.VENTILATED,)


def asked_ready(equipment: Equipment, high_voltage: bool = False) -> tuple[Asked, ...]:
    """What has to stand ready before a cap is touched: preheater and isolation only where there is one to see to."""
    rows = [Ready.GLASSES]
    rows += [Ready.PREHEATER_OFF] if equipment.preheater else []
    rows += [Ready.ISOLATED] if high_voltage else []
    return tuple(Asked(row, READY_NAMES[row]) for row in rows)


def judge_gate(
    seen: Observation | None,
    equipment: Equipment,
    policy: Policy,
    now: datetime | None = None,
    high_voltage: bool = False,
    ready: Mapping[Ready, datetime] | None = None,
) -> Gate:
    """The gate as it stands; never raises. now: the depot's clock, by whose calendar another day begins.

    ready: what else was confirmed to stand ready, and when.
    """
    asked = asked_ready(equipment, high_voltage)
    drain, run = (_still(rows, ready or {}, now) for rows in (FOR_DRAIN, FOR_RUN))
    if seen is None:
        said = say(
            "not_observed", "Check it is safe to open first: cold in the hand, and no pressure. Elapsed time is not enough."
        )
        return Gate(False, (said,), asked, False, None, "", "", asked_drain=drain, asked_run=run)
    signs = (*_signs(seen.facts, policy), *_unready(seen.facts, asked))
    shut = (*_lapsed(seen, policy, now), *signs)
    both = say("signs", "{warm}, {loose}.", warm=capitalised(warm_words(seen.facts)), loose=loose_words(seen.facts))
    free = not signs and seen.neck_open and not seen.handed_on and not seen.left
    ran_shut = seen.ran is not None and not free
    return Gate(not shut, shut or (both,), asked, True, seen.at, seen.by, seen.by_id, free, ran_shut, drain, run)


def _still(rows: tuple[Ready, ...], ready: Mapping[Ready, datetime], now: datetime | None) -> tuple[Asked, ...]:
    """Of these, what nobody has confirmed today."""
    missing = [row for row in rows if row not in ready or (now is not None and _day(ready[row], now) != now.date())]
    return tuple(Asked(row, READY_NAMES[row]) for row in missing)


def _day(at: datetime, now: datetime) -> object:
    return at.astimezone(now.tzinfo).date()


def warm_words(facts: GateObserved) -> str:
    """The first sign in a few words."""
    if facts.warmth is Warmth.HAND:
        return "can be held"
    return say("warm", "{warm_c:0}", warm_c=facts.temperature_c or 0.0).sentence


def loose_words(facts: GateObserved) -> str:
    """The second sign in a few words."""
    return "hose soft" if facts.pressure is Pressure.HOSE else "gauge at zero"


def _lapsed(seen: Observation, policy: Policy, now: datetime | None) -> Iterator[Message]:
    if seen.left:
        yield say(LEFT, "The machine left since the check. Check again.")
    if seen.ran is not None:
        what = "preheater" if seen.ran.by is Ran.PREHEATER else "engine"
        yield say(RAN_SINCE, "The {what} ran since the check. Let it cool, then check again.", what=what)
    if seen.handed_on:
        yield say(HANDED_ON, "The job was handed over since the check. Check again yourself.")
    if now is not None and _day(seen.at, now) != now.date():
        yield say(OTHER_DAY, "The check was made on another day. Check again.")
    minutes = policy["gate_between_min"]
    if now is not None and seen.between and now - seen.at > timedelta(minutes=minutes):
        words = "The check is over {minutes} minutes old and engine runs are not recorded without a job. Check again."
        yield say(LONG_AGO, words, minutes=f"{minutes:g}")


def _signs(facts: GateObserved, policy: Policy) -> Iterator[Message]:
    if facts.warmth is Warmth.HAND and not facts.held:
        seconds = f"{policy['gate_hold_s']:g}"
        yield say("too_hot_to_hold", "Too hot to hold for {seconds} s: wait, then check again.", seconds=seconds)
    if facts.temperature_c is not None and facts.warmth is not Warmth.HAND and facts.temperature_c >= policy["gate_probe_c"]:
        words = "{now_c:0} is not below {limit_c:0}: wait, then measure again."
        yield say("too_warm", words, now_c=facts.temperature_c, limit_c=policy["gate_probe_c"])
    if facts.pressure is Pressure.HOSE and not facts.soft:
        yield say("hose_hard", "The upper hose is hard: the loop is under pressure. Do not open the cap.")
    if facts.pressure is Pressure.GAUGE and (facts.gauge_kpa or 0.0) > policy["gate_gauge_kpa"]:
        yield say("gauge_up", "The gauge shows {gauge_kpa:0}: do not open the cap.", gauge_kpa=facts.gauge_kpa or 0.0)


def _unready(facts: GateObserved, asked: tuple[Asked, ...]) -> Iterator[Message]:
    missing = [row.name for row in asked if row.ready not in facts.ready]
    if missing:
        yield say("not_ready", "Not yet: {missing}.", missing="; ".join(missing).lower())
