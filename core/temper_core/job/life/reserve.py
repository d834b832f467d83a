"""How much inhibitor is left at best: it falls evenly over its life and mixes by share. A model, stated as one.

Derived: reserve = sum of share x (1 - age / life), never clamped: below 0 is overdue.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from temper_core.basis.dates import DAYS_IN_MONTH, day_words
from temper_core.basis.message import Message, say
from temper_core.job.life.age import AgePart


@dataclass(frozen=True, slots=True)
class Reserve:
    """Percent of a fresh filling's inhibitor, the day it reaches 0, and the filling's mean age in months."""

    percent: float
    until: date
    mean_months: float
    said: Message


def reserve_of(parts: Sequence[AgePart], months: float | None, today: date) -> Reserve | None:
    """The reserve of a filling of these parts; None where an age is not known or no months are stated.

    >>> round(reserve_of((AgePart(1.0, date(2024, 11, 30)),), 48.0, date(2026, 11, 30)).percent)
    50
    """
    known = [(part.share, part.on) for part in parts if part.on is not None]
    if months is None or not parts or len(known) < len(parts):
        return None
    mean = sum(share * (today - on).days for share, on in known) / DAYS_IN_MONTH
    percent = 100 * (1 - mean / months)
    until = today + timedelta(days=round((months - mean) * DAYS_IN_MONTH))
    words = (
        "At best by reserve: {percent} of a fresh filling's inhibitor is left, none after {until} "
        "(mean age {mean} of {months} months; it falls evenly, by share)."
    )
    if percent < 0:
        words = "At best by reserve: used up since {until} (mean age {mean} of {months} months; it falls evenly, by share)."
    shown = {"percent": f"{percent:.0f} %", "until": day_words(until), "mean": f"{mean:.0f}", "months": f"{months:g}"}
    return Reserve(
        round(percent, 6), until, mean, say("reserve", words, **{k: v for k, v in shown.items() if f"{{{k}}}" in words})
    )
