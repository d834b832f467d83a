"""How the record tells a reading: as it was seen on its instrument."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.instruments import FACTS, Scale
from temper_core.job.read.facts import Listed, Place, Read

PLACE_WORDS = {Place.AS_FOUND: "As found", Place.RINSE: "Rinse read", Place.FINISHED: "Read"}
_UNNAMED = {Scale.REFRACTIVE_INDEX: " nD", Scale.SPECIFIC_GRAVITY: " sg", Scale.BRIX: " Brix"}


def reading(facts: Read) -> Message:
    by = say("by", "on {name}", name=facts.instrument.name) if facts.instrument else None
    seen = join("read", [say("place", "{place}", place=PLACE_WORDS[facts.place]), _seen(facts)], " ")
    return join("read", [seen, by], " ") if by else join("read", [seen, say("reported", "reported")])


def listed(facts: Listed) -> Message:
    name = facts.read.instrument.name if facts.read.instrument else ""
    return join("listed", [say("from", "From a list:"), _seen(facts.read), say("by", "on {name}", name=name)], " ")


def _seen(facts: Read) -> Message:
    """Degrees in the reader's unit, any other scale as it is engraved."""
    if facts.instrument is None:
        return say("seen", "{seen_c}", seen_c=facts.value)
    if facts.instrument.steps:
        return say("steps", "{count} steps", count=f"{facts.value:g}")
    scale = facts.instrument.scale
    if FACTS[scale].unit == "°C":
        return say("seen", "{seen_c}", seen_c=facts.value)
    return say("seen", "{value}{unit}", value=f"{facts.value:g}", unit=_UNNAMED.get(scale, " %"))
