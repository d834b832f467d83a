"""When a filling is due: the earliest of months, distance and hours; a mixture keeps the shortest life of its parts."""

from __future__ import annotations

import calendar
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta

from temper_core.basis.dates import DAYS_IN_MONTH, day_words
from temper_core.basis.message import Message, say
from temper_core.basis.policy import RULES, Policy
from temper_core.job.life.age import AgePart, more_out_l, oldest_over
from temper_core.machine.equipment import ServiceInterval
from temper_core.products.chemistry import FAMILY_NAMES, Family

LEAST_DAYS_FOR_A_RATE = 14


@dataclass(frozen=True, slots=True)
class Life:
    """How long a filling lasts; None: that measure does not limit it. by: whose figures, in one sentence.

    whose: of each measure that limits it, "maker" or "policy".
    """

    months: float | None
    distance_km: float | None
    hours: float | None
    by: Message
    whose: Mapping[str, str] = field(default_factory=dict)


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
    where neither is known. left_km, left_hours: until the limit, negative past it. parts: of how many ages the filling is;
    oldest_percent: how much of it is at least as old as what sets the date; more_out_l: litres of the mixed loop that would
    have to be swapped until that falls to its limit, None where the newest sets it.
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
    said: Message
    parts: tuple[AgePart, ...] = ()
    oldest_percent: float = 100.0
    more_out_l: float | None = None


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

    whose: dict[str, str] = {}

    def shortest(measure: str, suffix: str) -> float | None:
        keys = [f"life_{family.value}_{suffix}" for family in families]
        found = [(policy[key], "policy") for key in keys if key in RULES]
        own: float | None = getattr(stated, measure)
        if own is not None:
            found = [(own, "maker")] if len(families) < 2 else [(own, "maker"), *found]
        if not found:
            return None
        life, whose[measure] = min(found)
        return life

    months, km, hours = shortest("months", "months"), shortest("distance_km", "km"), shortest("hours", "hours")
    names = " and ".join(FAMILY_NAMES[family] for family in families) or "an unknown coolant"
    if len(families) > 1:
        by = say("shortest", "A mixture of {names} keeps the shorter life.", names=names)
    elif set(whose.values()) == {"maker"}:
        by = say("maker", "The maker's interval.")
    elif "maker" in whose.values():
        words = "The maker's interval by {maker}, this depot's rule by {policy}."
        named = {who: " and ".join(_MEASURE[key] for key, by in whose.items() if by == who) for who in ("maker", "policy")}
        by = say("maker_and_policy", words, **named)
    else:
        by = say("policy", "This depot's rule for {names}.", names=names)
    return Life(months, km, hours, by, whose)


_MEASURE = {"months": "age", "distance_km": "distance", "hours": "hours"}


def _project(since: Meter, last: Meter, measure: str, left: float) -> date | None:
    """The day a meter reaches its limit, from how fast it ran since the service; None where nobody can tell."""
    start, now = getattr(since, measure), getattr(last, measure)
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
    for measure in left:
        limit = getattr(life, measure)
        start = getattr(since, measure) if since else None
        now = getattr(last, measure) if last else start
        if limit is None or start is None or now is None or since is None:
            continue
        left[measure] = start + limit - now
        day = _project(since, last or since, measure, left[measure] or 0.0)
        if day:
            dates.append((day, "distance" if measure == "distance_km" else "hours", True))
    on, by, projected = min(dates, key=lambda row: row[0]) if dates else (None, "", False)
    past = [name for name, value in left.items() if value is not None and value <= 0]
    if past:
        by = "distance" if past[0] == "distance_km" else "hours"
    days = (on - today).days if on else None
    overdue = bool(past) or (on is not None and is_over(on, today))
    soon = not overdue and days is not None and days <= policy["due_soon_days"]
    said = _say(changed, on, by, projected, days, bool(past), life)
    return Due(on, by, projected, days, left["distance_km"], left["hours"], overdue, soon, life, said)


def due_of_parts(
    parts: Sequence[AgePart], capacity_l: float, last: Meter | None, life: Life, today: date, policy: Policy
) -> Due:
    """When a filling of several ages is due: by the oldest part over the limit, in months, distance and hours alike."""
    oldest = oldest_over(parts, policy)
    part = oldest.part
    metered = part.on is not None and (part.distance_km is not None or part.hours is not None)
    since = Meter(part.on, part.distance_km, part.hours) if metered and part.on is not None else None
    due = service_due(part.on, since, last, life, today, policy)
    if not oldest.mixed:
        return replace(due, parts=tuple(parts))
    when = f"is from {day_words(part.on)}" if part.on is not None else "is of unknown age"
    words = "{due} {old_percent} of it {when}."
    said = say(due.said.code, words, due=due.said.sentence, old_percent=oldest.percent, when=when)
    more_l = more_out_l(oldest, capacity_l)
    return replace(due, said=said, parts=tuple(parts), oldest_percent=oldest.percent, more_out_l=more_l)


_BY = {"months": "by age", "distance": "by distance", "hours": "by hours", "": ""}


_KEY = {"months": "months", "distance": "distance_km", "hours": "hours"}
_WHOSE = {"maker": "maker's interval", "policy": "depot's rule"}


def _say(
    changed: date | None, on: date | None, by: str, projected: bool, days: int | None, past: bool, life: Life
) -> Message:
    if changed is None and not past:
        return say("changed_unknown", "Change date unknown: treat as due.")
    whose = _WHOSE.get(life.whose.get(_KEY.get(by, ""), ""), "")
    named = f"{_BY[by]} ({whose})" if whose else _BY[by]
    if past:
        return say("past_limit", "Overdue {by}.", by=named)
    if on is None or days is None:
        return say("no_interval", "No interval known: follow the maker, or test with strips.")
    about = "about " if projected else ""
    if days < 0:
        return say("overdue", "Due since {about}{day}, {by}.", about=about, day=day_words(on), by=named)
    return say("due_on", "Due {about}{day}, {by}.", about=about, day=day_words(on), by=named)
