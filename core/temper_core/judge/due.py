"""When a filling is due: the earliest of months, distance and hours; a mixture keeps the shortest life of its parts."""

from __future__ import annotations

import calendar
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from temper_core.chemistry import FAMILY_NAMES, Family
from temper_core.equipment import ServiceInterval
from temper_core.policy import RULES, Policy
from temper_core.saying import Saying, say

DAYS_IN_MONTH = 30.4375
LEAST_DAYS_FOR_A_RATE = 14


@dataclass(frozen=True, slots=True)
class Life:
    """How long a filling lasts; None: that measure does not limit it. by: whose figures, in one sentence."""

    months: float | None
    distance_km: float | None
    hours: float | None
    by: Saying


@dataclass(frozen=True, slots=True)
class Meter:
    """What the machine showed on a day."""

    on: date
    distance_km: float | None = None
    hours: float | None = None


@dataclass(frozen=True, slots=True)
class Due:
    """Due date, by which measure, and how it stands today; distances in km.

    on: the earliest of the date by months and of the dates projected from the meters (projected True: an estimate). None
    where neither is known. left_km, left_hours: until the limit, negative past it.
    """

    on: date | None
    by: str
    projected: bool
    left_days: int | None
    left_km: float | None
    left_hours: float | None
    overdue: bool
    soon: bool
    life: Life
    said: Saying


def is_over(on: date, today: date) -> bool:
    """A due date is kept through its own day."""
    return on < today


def add_months(day: date, months: float) -> date:
    """The same day so many months on, the last of the month where that day does not exist; parts of months in days.

    >>> add_months(date(2024, 1, 31), 1)
    datetime.date(2024, 2, 29)
    """
    whole = int(months)
    years, month = divmod(day.month - 1 + whole, 12)
    year, month = day.year + years, month + 1
    there = date(year, month, min(day.day, calendar.monthrange(year, month)[1]))
    return there + timedelta(days=round((months - whole) * DAYS_IN_MONTH))


def life_of(families: Sequence[Family], stated: ServiceInterval, policy: Policy) -> Life:
    """Life of a filling of these families: the maker's figures where stated, else policy's, of a mixture the shortest."""

    def shortest(field: str, suffix: str) -> float | None:
        keys = [f"life_{family.value}_{suffix}" for family in families]
        found = [policy[key] for key in keys if key in RULES]
        own: float | None = getattr(stated, field)
        if own is not None:
            found = [own] if len(families) < 2 else [own, *found]
        return min(found) if found else None

    months, km, hours = shortest("months", "months"), shortest("distance_km", "km"), shortest("hours", "hours")
    names = " and ".join(FAMILY_NAMES[family] for family in families) or "an unknown coolant"
    if len(families) > 1:
        by = say("shortest", "A mixture of {names} keeps the shorter life.", names=names)
    elif stated != ServiceInterval():
        by = say("maker", "The maker's own interval.")
    else:
        by = say("policy", "This depot's figure for {names}.", names=names)
    return Life(months, km, hours, by)


def _project(since: Meter, last: Meter, field: str, left: float) -> date | None:
    """The day a meter reaches its limit, from how fast it ran since the service; None where nobody can tell."""
    start, now = getattr(since, field), getattr(last, field)
    days = (last.on - since.on).days
    if start is None or now is None or days < LEAST_DAYS_FOR_A_RATE or now <= start:
        return None
    ahead = left / ((now - start) / days)
    return last.on + timedelta(days=round(max(-days, min(ahead, 36_500))))


def service_due(
    changed: date | None, since: Meter | None, last: Meter | None, life: Life, today: date, policy: Policy | None = None
) -> Due:
    """How the filling stands today; see Due.

    changed: the day it went in; since: the meters that day; last: the meters as last seen. Never raises.
    """
    policy = policy or Policy()
    dates: list[tuple[date, str, bool]] = []
    if changed and life.months is not None:
        dates.append((add_months(changed, life.months), "months", False))
    left: dict[str, float | None] = {"distance_km": None, "hours": None}
    for field in left:
        limit = getattr(life, field)
        start = getattr(since, field) if since else None
        now = getattr(last, field) if last else start
        if limit is None or start is None or now is None or since is None:
            continue
        left[field] = start + limit - now
        day = _project(since, last or since, field, left[field] or 0.0)
        if day:
            dates.append((day, "distance" if field == "distance_km" else "hours", True))
    on, by, projected = min(dates, key=lambda row: row[0]) if dates else (None, "", False)
    past = [name for name, value in left.items() if value is not None and value <= 0]
    if past:
        by = "distance" if past[0] == "distance_km" else "hours"
    days = (on - today).days if on else None
    overdue = bool(past) or (on is not None and is_over(on, today))
    soon = not overdue and days is not None and days <= policy["due_soon_days"]
    said = _say(changed, on, by, projected, days, bool(past))
    return Due(on, by, projected, days, left["distance_km"], left["hours"], overdue, soon, life, said)


_MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def day_words(day: date) -> str:
    """A day as people write it, whatever the machine's locale.

    >>> day_words(date(2027, 3, 28))
    '28 Mar 2027'
    """
    return f"{day.day} {_MONTHS[day.month - 1]} {day.year}"


_BY = {"months": "by age", "distance": "by distance", "hours": "by hours", "": ""}


def _say(changed: date | None, on: date | None, by: str, projected: bool, days: int | None, past: bool) -> Saying:
    if changed is None:
        return say("changed_unknown", "Nobody knows when it went in: count it as due.")
    if past:
        return say("past_limit", "Over its limit {by}.", by=_BY[by])
    if on is None or days is None:
        return say("no_interval", "No interval is known for it: the maker's, or a strip, decides.")
    about = "about " if projected else ""
    if days < 0:
        return say("overdue", "Due since {about}{day}, {by}.", about=about, day=day_words(on), by=_BY[by])
    return say("due_on", "Due {about}{day}, {by}.", about=about, day=day_words(on), by=_BY[by])
