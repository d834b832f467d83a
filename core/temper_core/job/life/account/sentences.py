"""How the account says what a loop loses, and which test decides it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from temper_core.basis.dates import day_words
from temper_core.basis.message import Message, say
from temper_core.job.between.facts import LostWhen
from temper_core.job.inspect.facts import Check, Tested

_LOSES = "Leak suspected: {rate_l:2} a week ±{half_l:2}"
_WORDS = {
    "leaks": _LOSES + ", {added_l} since {day}, whatever it was topped up with. Look for it before topping up again.",
    "leaks_from": _LOSES + ", since about {turned}. Look for it before topping up again.",
    "at_once": "Leak suspected: {at_once_l} went at once, between {before} and {turned}. Look for it before it runs again.",
    "stopped": "Lost {rate_l:2} a week until about {turned}; has held since.",
    "stopped_at_once": "{at_once_l} went at once before {turned}; has held since.",
    "evaporates": "Loses {rate_l:2} a week ±{half_l:2}: what an open system evaporates. Top up with water of its kind.",
    "holds": "The level has held since {day}.",
    "little": "Topped up with {added_l} since {day}, {rate_l:2} a week ±{half_l:2}: too little for a leak. Go on looking.",
}


def loss_words(
    kind: str,
    rate_l: float,
    half_l: float,
    added_l: float,
    since: datetime,
    turned: datetime | None,
    before: datetime | None,
    at_once_l: float | None,
) -> Message:
    """What a loop loses, in a sentence or two; days as they are where the looks were made."""
    values: dict[str, float | str] = {
        "rate_l": max(0.0, rate_l),
        "half_l": half_l,
        "added_l": added_l,
        "day": day_words(since.date()),
        "turned": day_words(turned.date()) if turned else "",
        "before": day_words(before.date()) if before else "",
        "at_once_l": at_once_l or 0.0,
    }
    key = kind
    if kind == "leaks" and turned is not None:
        key = "leaks_from"
    if kind == "stopped" and at_once_l is not None:
        key = "stopped_at_once"
    words = _WORDS[key]
    return say(
        "losing" if kind in ("leaks", "at_once") else kind, words, **{k: v for k, v in values.items() if f"{{{k}" in words}
    )


def deciding_test(lost_when: LostWhen | None, tests: Sequence[Tested]) -> Message:
    """The test that decides where a loss goes; source: common practice, no source.

    tests: of the job in hand, so that what was done already is not asked for again.
    """
    done = {row.check: row for row in tests}
    smoke = Check.BUBBLES in done and done[Check.BUBBLES].outcome == "endless"
    if (smoke or lost_when is LostWhen.NO_TRACE) and Check.COMBUSTION_GAS not in done:
        return say("test_gas", "No trace outside: a combustion-gas test decides.")
    if lost_when is LostWhen.HOT:
        return say("test_hot", "It goes when hot: look at the cap and the joints; a pressure test held hot decides.")
    if Check.PRESSURE in done and Check.DYE not in done:
        return say("test_dye", "The pressure test did not show where: leak dye decides.")
    if lost_when is LostWhen.COLD:
        return say("test_cold", "It goes overnight: look at hoses and pump; a pressure test on the cold loop decides.")
    return say("test_pressure", "A pressure test on the cold loop decides.")
