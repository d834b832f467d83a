"""A reading that the ledger did not expect: how far off beyond their doubts, and what that usually is."""

from __future__ import annotations

import math
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.science import Glycol, freeze_point


@dataclass(frozen=True, slots=True)
class Doubted:
    """A strength [% by mass] and its standard deviation."""

    percent: float
    sd: float


def contradiction(read: Doubted, expected: Doubted, glycol: Glycol, policy: Policy) -> Message | None:
    """What to say where they differ by more than chance; None where they agree.

    >>> said = contradiction(Doubted(38, 0.6), Doubted(47, 0.8), Glycol.ETHYLENE, Policy())
    >>> said.code
    'weaker_than_ledger'
    """
    apart = read.percent - expected.percent
    if abs(apart) <= policy["agreement_sds"] * math.hypot(read.sd, expected.sd):
        return None
    read_c, expected_c = (freeze_point(glycol, MassFraction(x.percent / 100)).at_most_c for x in (read, expected))
    values = {"read_c": read_c, "expected_c": expected_c}
    if apart < 0:
        words = (
            "Reads {read_c}, the litres predict {expected_c}: water may have been added without a record, or "
            "the instrument is off."
        )
        return say("weaker_than_ledger", words, **values)
    words = (
        "Reads {read_c}, the litres predict {expected_c}: concentrate may have been added without a record, "
        "or the instrument is off."
    )
    return say("stronger_than_ledger", words, **values)
