"""What frost asks of a loop that is not protected against it: drain it, change it, or keep it in; source: practice."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from temper_core.basis.dates import day_words
from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy


class Season(StrEnum):
    """Where the year stands against the depot's frost dates."""

    FREE = "free"
    AHEAD = "ahead"
    FROST = "frost"


@dataclass(frozen=True, slots=True)
class FrostDates:
    """The coming or present frost: from and until [days of the depot], and where today stands."""

    season: Season
    starts_on: date
    ends_on: date


@dataclass(frozen=True, slots=True)
class SeasonPlan:
    """What to do with one loop before frost, or during it. loud: frost is here and it is not protected."""

    act: Message
    why: Message
    loud: bool


def _week(year: int, week: float) -> date:
    """Monday of a week of the year; a year without week 53 ends with 52."""
    try:
        return date.fromisocalendar(year, int(week), 1)
    except ValueError:
        return date.fromisocalendar(year, 52, 1)


def frost_dates(today: date, policy: Policy) -> FrostDates:
    """Today against the frost weeks of policy; raises CoreError.

    >>> frost_dates(date(2026, 11, 26), Policy()).season.value
    'frost'
    >>> frost_dates(date(2026, 7, 1), Policy()).season.value
    'free'
    """
    first, last = policy["frost_from_week"], policy["frost_until_week"]
    if first == last:
        raise CoreError("frost_until_week", "Frost begins and ends in the same week. Enter two weeks.", "same_week")
    for year in (today.year - 1, today.year, today.year + 1):
        starts = _week(year, first)
        ends = _week(year if last > first else year + 1, last) + timedelta(days=6)
        if today <= ends:
            ahead = starts - timedelta(weeks=policy["frost_ahead_weeks"])
            season = Season.FROST if starts <= today else Season.AHEAD if ahead <= today else Season.FREE
            return FrostDates(season, starts, ends)
    raise AssertionError("a year has a frost ahead")  # pragma: no cover


def season_plan(freeze_c: float | None, coldest_c: float, glycol_free: bool, dates: FrostDates) -> SeasonPlan | None:
    """What this loop needs; None while no frost is near, or where it is protected down to the coldest expected.

    freeze_c: how far it protects [degC], its warm end; None: not known.
    """
    if dates.season is Season.FREE:
        return None
    if not glycol_free and freeze_c is not None and freeze_c <= coldest_c:
        return None
    frost = dates.season is Season.FROST
    when = f"until {day_words(dates.ends_on)}" if frost else f"before {day_words(dates.starts_on)}"
    if glycol_free:
        act = say("season_drain", "Drain for storage, or keep indoors, {when}.", when=when)
        if not frost:
            act = say("season_drain", "Drain for storage, or fill glycol where the series allows it, {when}.", when=when)
        why = say("season_no_glycol", "No glycol: freezes at 0 °C; coldest here {coldest_c:0}.", coldest_c=coldest_c)
        return SeasonPlan(act, why, frost)
    if freeze_c is None:
        act = say("season_read", "Read the strength {when}.", when="now" if frost else when)
        return SeasonPlan(act, say("season_unknown", "Protection unknown."), frost)
    act = say("season_correct", "Adjust the strength {when}.", when="now, or keep indoors" if frost else when)
    why = say("season_mild", "Protects to {safe_c:0}; coldest here {coldest_c:0}.", safe_c=freeze_c, coldest_c=coldest_c)
    return SeasonPlan(act, why, frost)
