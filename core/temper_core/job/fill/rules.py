"""Do the top-ups of a bleed converge? Each must be smaller than the one before; source: common practice, no source."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy


class Convergence(StrEnum):
    """Verdicts on a row of top-ups."""

    SETTLED = "settled"
    CONVERGING = "converging"
    NOT_YET = "not_yet"
    WRONG = "wrong"


@dataclass(frozen=True, slots=True)
class TopUps:
    """Litres of each top-up, the verdict, and what to do."""

    litres: tuple[float, ...]
    verdict: Convergence
    said: Message


def judge_top_ups(litres: Sequence[float], capacity_l: float, policy: Policy) -> TopUps | None:
    """Verdict on top-ups in order; None before the first.

    >>> judge_top_ups([1.2, 0.4, 0.1], 32.0, Policy()).verdict.value
    'settled'
    >>> judge_top_ups([0.8, 0.9], 32.0, Policy()).verdict.value
    'wrong'
    """
    if not litres:
        return None
    last, settled = litres[-1], max(policy["top_up_settled_l"], capacity_l * policy["top_up_settled_percent"] / 100)
    values = {"last_l": last}
    if len(litres) > 1 and last > policy["top_up_stalls_percent"] / 100 * litres[-2] and last > settled:
        words = (
            "{last_l} after {before_l}: top-ups are not getting smaller. Stop and look for a leak: "
            "underneath, heater, bubbles."
        )
        said = say("top_ups_wrong", words, before_l=litres[-2], **values)
        return TopUps(tuple(litres), Convergence.WRONG, said)
    if last <= settled:
        said = say("top_ups_settled", "The last top-up was {last_l}: by the litres the air is out.", **values)
        return TopUps(tuple(litres), Convergence.SETTLED, said)
    if len(litres) > 1 and last <= policy["top_up_shrinks_percent"] / 100 * litres[-2]:
        said = say(
            "top_ups_converging", "{last_l} after {before_l}: getting smaller. Once more.", before_l=litres[-2], **values
        )
        return TopUps(tuple(litres), Convergence.CONVERGING, said)
    said = say(
        "top_ups_not_yet", "{last_l} topped up: air came out. Keep bleeding; the next top-up must be much smaller.", **values
    )
    return TopUps(tuple(litres), Convergence.NOT_YET, said)
