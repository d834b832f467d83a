"""How the record tells what is seen and corrected between services."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.verify.facts import LEVEL_NAMES


def level_seen(facts: LevelSeen) -> Message:
    return say("level_seen", "Level check: {level}", level=LEVEL_NAMES[facts.level])


def amended(facts: Amended) -> Message:
    return say("amended", "Correction: {text}", text=facts.text)
