"""How the record says what is reported of a filling, and the meters."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.identify.facts import TOPPED_UP_NAMES, Metered, ReportedContents
from temper_core.products.chemistry import BASE_NAMES, FAMILY_NAMES


def contents_reported(facts: ReportedContents) -> Message:
    family = FAMILY_NAMES[facts.family] if facts.family else "family unknown"
    base = BASE_NAMES[facts.base] if facts.base else "base unknown"
    parts = [
        say("contents", "Reported inside: {family}, {base}", family=family, base=base),
        say("topped_up", "topped up with {what}", what=TOPPED_UP_NAMES[facts.topped_up]),
    ]
    meters = _meters(facts.changed_km, facts.changed_hours)
    if meters:
        parts.append(join("changed", [say("at", "changed at"), join("meters", meters)], " "))
    return join("told", parts, "; ")


def metered(facts: Metered) -> Message:
    parts = _meters(facts.distance_km, facts.hours) + ([say("new", "meter replaced")] if facts.replaced else [])
    return join("metered", [say("meters", "Meters:"), join("figures", parts)], " ")


def _meters(km: float | None, hours: float | None) -> list[Message]:
    parts = [say("distance", "{at_km:0}", at_km=km)] if km is not None else []
    return parts + ([say("hours", "{hours:0} h", hours=hours)] if hours is not None else [])
