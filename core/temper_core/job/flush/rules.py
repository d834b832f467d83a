"""Is the flush enough? Two parts, both asked: the jar looks clear, and the finished full loop holds little enough.

Source: common practice, no source; the limits are policy, the cleaner's is its label's.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.job.inspect.facts import LOOK_ROWS, Look

CLEAR = frozenset({Look.CRYSTAL_CLEAR, Look.CLEAN_BRIGHT})


@dataclass(frozen=True, slots=True)
class Flushed:
    """What is known when the question is asked. Shares and residue are of the finished full loop.

    old_high_percent: the upper end of its 95 % interval. looks None: no jar was looked at. limits None: none applies.
    solids_mg_l: of what tap water left inside. circulated: the last round went through every vessel, so that its jar speaks
    for all of them.
    """

    looks: tuple[Look, ...] | None
    sediment_mm: float | None
    old_percent: float
    old_high_percent: float
    old_limit_percent: float | None
    cleaner_percent: float
    cleaner_limit_percent: float | None
    solids_mg_l: float
    circulated: bool


@dataclass(frozen=True, slots=True)
class Enough:
    """enough: both parts hold. short: what is missing, one reason each. notes: what it holds by, or only just."""

    enough: bool
    short: tuple[Message, ...]
    notes: tuple[Message, ...]


def judge_enough(flushed: Flushed, policy: Policy) -> Enough:
    """The two-part stop rule; never raises."""
    short = (*_looks(flushed, policy), *_circulated(flushed), *_old(flushed), *_cleaner(flushed), *_residue(flushed, policy))
    return Enough(not short, short, tuple(_notes(flushed)))


def _looks(f: Flushed, policy: Policy) -> Iterator[Message]:
    if f.looks is None:
        yield say("no_jar", "No sample looked at yet: it must be clear.")
        return
    dull = [look for look in f.looks if look not in CLEAR]
    if dull:
        words = " and ".join(LOOK_ROWS[look].name.lower() for look in dull)
        yield say("not_clear", "The jar is not clear: {looks}.", looks=words)
    if f.sediment_mm is not None and f.sediment_mm >= policy["sediment_mm"]:
        yield say("sediment", "{height} mm sediment in the jar.", height=f"{f.sediment_mm:g}")


def _circulated(f: Flushed) -> Iterator[Message]:
    if f.looks is not None and not f.circulated:
        yield say("not_circulated", "The last round did not reach every vessel, so its sample does not count for all.")


def _old(f: Flushed) -> Iterator[Message]:
    if f.old_limit_percent is not None and f.old_percent > f.old_limit_percent:
        words = "After refill it holds {old_percent} old coolant, over {limit_percent:0}."
        yield say("over_limit", words, old_percent=f.old_percent, limit_percent=f.old_limit_percent)


def _cleaner(f: Flushed) -> Iterator[Message]:
    if f.cleaner_limit_percent is not None and f.cleaner_percent > f.cleaner_limit_percent:
        words = "{cleaner_percent} of the cleaner is left, over {limit_percent}: keep rinsing. Colourless is not clean."
        yield say("cleaner_left", words, cleaner_percent=f.cleaner_percent, limit_percent=f.cleaner_limit_percent)


def _residue(f: Flushed, policy: Policy) -> Iterator[Message]:
    most = policy["water_solids_mg_l"] * policy["tap_residue_part"] / 100
    if f.solids_mg_l > most:
        words = "Tap water would leave {now} mg/l after refill, over {most}: use demineralised water for the last round."
        yield say("tap_residue", words, now=f"{f.solids_mg_l:.0f}", most=f"{most:.0f}")


def _notes(f: Flushed) -> Iterator[Message]:
    limit = f.old_limit_percent
    if limit is None:
        return
    if f.old_percent <= limit < f.old_high_percent:
        worst = f.old_high_percent
        yield say(
            "only_just",
            "Below the limit, but possibly {worst_percent}: read the rinse, or run one more.",
            worst_percent=worst,
        )
