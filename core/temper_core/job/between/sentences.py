"""How the record tells what is seen and corrected between services."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.between.facts import LOST_WHEN_NAMES, Amended, LevelSeen, Spilled
from temper_core.job.verify.facts import LEVEL_NAMES


def level_seen(facts: LevelSeen) -> Message:
    parts = [say("level_seen", "Level check: {level}", level=LEVEL_NAMES[facts.level])]
    if facts.missing_l is not None:
        parts.append(say("missing", "{missing_l} missing", missing_l=facts.missing_l))
    if facts.missing_mm is not None:
        parts.append(say("below", "{mm} mm below it", mm=f"{facts.missing_mm:g}"))
    if facts.lost_when is not None:
        parts.append(say("lost_when", "it goes: {when}", when=LOST_WHEN_NAMES[facts.lost_when]))
    return join("level_seen", parts)


def spilled(facts: Spilled) -> Message:
    return say("spilled", "Taken out or spilled: {spilled_l}", spilled_l=facts.spilled_l)


def amended(facts: Amended) -> Message:
    return say("amended", "Correction: {text}", text=facts.text)
