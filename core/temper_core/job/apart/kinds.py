"""The kind of entry of what was recorded apart and set aside."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.apart.facts import SetAside
from temper_core.job.entry_kind import EntryKind, nothing


def set_aside(facts: SetAside) -> Message:
    """How the record tells it."""
    if facts.reason:
        return say("set_aside", "Set aside, does not count: {said} ({reason})", said=facts.said, reason=facts.reason)
    return say("set_aside", "Set aside, does not count: {said}", said=facts.said)


KINDS = (EntryKind("set_aside", SetAside, nothing, set_aside, any_time=True, did="set an entry aside", quiet=True),)
