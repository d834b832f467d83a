"""How the record says where a machine was parked."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.parking.facts import PARKING_NAMES, Parked


def parked(facts: Parked) -> Message:
    return say("parked", "Parked {where}", where=PARKING_NAMES[facts.where])
