"""The conductivity account of an electronics loop: how fast it rises since its last fill, and when it meets its limit.

Ions leave seals, pipes and inhibitor and stay; the line is a straight one through readings at 25 degC [derived, stated as a
model].
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from temper_core.basis.dates import DAYS_IN_MONTH, day_words
from temper_core.basis.message import Message, say
from temper_core.basis.uncertainty import Z95, fitted, squares, t95
from temper_core.products.conductivity import ConductivityLimit

LEAST_POINTS, LEAST_DAYS, MOST_MONTHS = 3, 7, 120
METER_SD = 0.03  # of what a pen shows; common practice, no source


@dataclass(frozen=True, slots=True)
class Conducted:
    """A conductivity read then [uS/cm at 25 degC]."""

    at: datetime
    us_cm: float


@dataclass(frozen=True, slots=True)
class Conducting:
    """The account: readings since the last fill, the limit, the rise a month with its 95 % half-width, and where it leads.

    reaches_on, earliest_on: the day on which the line meets the limit, by its slope and by the steep end of its doubt; None:
    not within ten years, not certain to rise, or no limit known.
    """

    points: tuple[Conducted, ...]
    limit_us_cm: float | None
    per_month: float | None
    half_width: float | None
    reaches_on: date | None
    earliest_on: date | None
    said: Message


def conducting_of(points: Sequence[Conducted], limit: ConductivityLimit | None) -> Conducting | None:
    """The account of readings in order of time; None without any."""
    if not points:
        return None
    last, ends = points[-1], None if limit is None else limit.us_cm
    shown = {"value": f"{last.us_cm:.3g}", "day": day_words(last.at.date()), "limit": "" if ends is None else f"{ends:g}"}
    slope, half = _slope(points)
    plain = "Conductivity {value} µS/cm at 25 °C on {day}"
    if slope is None or half is None:
        words = plain + (", limit {limit}. Three readings show how fast it rises." if ends is not None else ".")
        return Conducting(tuple(points), ends, None, None, None, None, _said("conducts_once", words, shown))
    rise = {"slope": f"{slope:.2g}", "half": f"{half:.2g}"}
    words = plain + ", {slope} ±{half} a month"
    if ends is None or slope - half <= 0:
        tail = ", limit {limit}: no rise that is certain." if ends is not None else "."
        return Conducting(tuple(points), ends, slope, half, None, None, _said("conducts_holds", words + tail, shown | rise))
    reaches, earliest = _meets(last, ends, slope), _meets(last, ends, slope + half)
    if reaches is None:
        said = _said("conducts_far", words + ", limit {limit}: far off.", shown | rise)
    elif last.us_cm >= ends:
        said = _said("conducts_past", words + ": past its limit of {limit}.", shown | rise)
    else:
        days = {"on": day_words(reaches), "first": day_words(earliest or reaches)}
        tail = ": reaches its limit of {limit} about {on}, at the earliest {first}."
        said = _said("conducts_to", words + tail, shown | rise | days)
    return Conducting(tuple(points), ends, slope, half, reaches, earliest, said)


def _said(code: str, words: str, values: dict[str, str]) -> Message:
    return say(code, words, **{key: value for key, value in values.items() if f"{{{key}}}" in words})


def _slope(points: Sequence[Conducted]) -> tuple[float | None, float | None]:
    """Rise a month and its half-width, never less than the meter leaves it; None with too few readings."""
    if len(points) < LEAST_POINTS or points[-1].at - points[0].at < timedelta(days=LEAST_DAYS):
        return None, None
    months = [(row.at - points[0].at).total_seconds() / 86400 / DAYS_IN_MONTH for row in points]
    slope, sd = fitted(months, [row.us_cm for row in points])
    own = METER_SD * max(row.us_cm for row in points)
    return slope, max(t95(len(points) - 2) * sd, Z95 * own / math.sqrt(squares(months)))


def _meets(last: Conducted, limit: float, slope: float) -> date | None:
    months = max(0.0, limit - last.us_cm) / slope
    return (last.at + timedelta(days=months * DAYS_IN_MONTH)).date() if months <= MOST_MONTHS else None
