"""When a loop is looked at again after it left: soon for the level, some days later with a reading; source: practice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.job.between.state import Recheck, RecheckWhy


@dataclass(frozen=True, slots=True)
class SeenAgain:
    """A look after it left: when, and whether it was read."""

    at: datetime
    read: bool


def rechecks(
    signed_on: date | None,
    diluted_on: date | None,
    seen: Sequence[SeenAgain],
    today: date,
    glycol: bool = True,
    policy: Policy | None = None,
    losing: tuple[date, Message] | None = None,
) -> tuple[Recheck, ...]:
    """The checks due on a loop that left on a day, or was topped up without being read since; days of the depot.

    losing: the day of its last look at the level, and what it loses, where a leak is suspected.

    A look counts from the day it opens: the first at once, the second a day ahead of its date. One look may do for several.
    """
    policy = policy or Policy()
    rows = []
    if signed_on is not None:
        first, second = (timedelta(days=policy[f"recheck_{n}_days"]) for n in ("first", "second"))
        words = "Cold level after the first drive or next morning."
        rows.append((RecheckWhy.FIRST, say("recheck_first", words), signed_on, signed_on + first, False))
        words = "Level check and a second reading." if glycol else "Level check."
        opens = max(signed_on, signed_on + second - timedelta(days=1))
        rows.append((RecheckWhy.SECOND, say("recheck_second", words), opens, signed_on + second, glycol))
    if diluted_on is not None:
        due = diluted_on + timedelta(days=policy["recheck_diluted_days"])
        words = "Topped up since: look for a leak, and take a reading."
        rows.append((RecheckWhy.DILUTED, say("recheck_diluted", words), diluted_on, due, glycol))
    if losing is not None:
        looked_on, said = losing
        again = looked_on + timedelta(days=policy["recheck_leak_days"])
        rows.append((RecheckWhy.LEAK, said, looked_on + timedelta(days=1), again, False))
    return tuple(_row(*row, seen, today) for row in rows)


def _row(
    why: RecheckWhy, said: Message, opens: date, due: date, reading: bool, seen: Sequence[SeenAgain], today: date
) -> Recheck:
    done = next((row.at for row in seen if row.at.date() >= opens and (row.read or not reading)), None)
    return Recheck(why, said, opens, due, reading, done, done is None and due < today)
