"""When a filling is due: earliest of months, distance, hours; calendar arithmetic against dateutil."""

from datetime import date, timedelta

import pytest
from dateutil.relativedelta import relativedelta
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.job.life.due import Life, Meter, add_months, life_of, service_due
from temper_core.machine.equipment import ServiceInterval
from temper_core.products.chemistry import Family

TODAY = date(2026, 11, 25)
ANY = say("x", "x")


@given(st.dates(date(1950, 1, 1), date(2150, 1, 1)), st.integers(0, 480))
def test_months_are_added_as_dateutil_adds_them(day, months):
    """Reference: dateutil.relativedelta."""
    assert add_months(day, months) == day + relativedelta(months=months)


@given(st.dates(date(2000, 1, 1), date(2100, 1, 1)), st.floats(0, 240))
def test_parts_of_months_are_days_and_never_more_than_a_month(day, months):
    whole = day + relativedelta(months=int(months))
    assert whole <= add_months(day, months) <= whole + timedelta(days=31)


@pytest.mark.parametrize(
    ("families", "months", "km", "hours"),
    [
        ((Family.IAT,), 24, 50_000, None),  # common practice, no source
        ((Family.OAT,), 60, 250_000, None),  # common practice, no source
        ((Family.SI_HOAT,), 60, None, None),  # common practice, no source
        ((Family.P_HOAT,), 60, None, None),  # common practice, no source
        ((Family.NOAT,), 36, None, 6000),  # from memory
        ((Family.OAT, Family.IAT), 24, 50_000, None),  # a mixture keeps the shortest life of its parts
        ((), None, None, None),
    ],
)
def test_how_long_a_family_lasts(families, months, km, hours):
    life = life_of(families, ServiceInterval(), Policy())
    assert (life.months, life.distance_km, life.hours) == (months, km, hours)


def test_the_maker_outranks_the_family_but_not_a_mixture():
    maker = ServiceInterval(months=84)
    assert life_of((Family.OAT,), maker, Policy()).months == 84
    assert life_of((Family.OAT,), maker, Policy()).distance_km == 250_000
    assert life_of((Family.OAT, Family.IAT), maker, Policy()).months == 24
    assert life_of((Family.OAT,), ServiceInterval(), Policy({"life_oat_months": 48})).months == 48


def due(changed=date(2024, 11, 25), since=None, last=None, today=TODAY, **life):
    """Due of a filling with this life."""
    given_ = {"months": None, "distance_km": None, "hours": None}
    return service_due(changed, since, last, Life(**(given_ | life), by=ANY), today)


@pytest.mark.parametrize(
    ("today", "overdue", "soon"),
    [
        (date(2026, 10, 10), False, False),  # 46 days ahead
        (date(2026, 10, 11), False, True),  # 45
        (date(2026, 11, 25), False, True),  # on the day it is due, not over
        (date(2026, 11, 26), True, False),
    ],
)
def test_a_date_comes_near_arrives_and_passes(today, overdue, soon):
    answer = due(months=24, today=today)
    assert answer.on == date(2026, 11, 25)
    assert (answer.overdue, answer.soon, answer.projected) == (overdue, soon, False)


def test_distance_is_projected_from_how_fast_it_ran_and_the_earliest_wins():
    start, now = Meter(date(2025, 11, 25), 100_000), Meter(TODAY, 136_500)  # 100 km a day
    answer = due(start.on, start, now, months=60, distance_km=50_000)
    assert answer.left_km == pytest.approx(13_500)
    assert (answer.by, answer.projected) == ("distance", True)
    assert answer.on == TODAY + timedelta(days=135)
    assert "about" in answer.said.sentence
    assert due(start.on, start, now, months=13, distance_km=50_000).by == "months"


def test_hours_past_their_limit_are_over_whatever_the_calendar_says():
    answer = due(date(2026, 6, 1), Meter(date(2026, 6, 1), None, 1000), Meter(TODAY, None, 3700), months=60, hours=2500)
    assert answer.overdue
    assert answer.by == "hours"
    assert answer.left_hours == pytest.approx(-200)
    assert answer.said.code == "past_limit"


def test_nothing_is_projected_from_a_few_days_or_from_a_meter_that_stands():
    start = Meter(TODAY - timedelta(days=13), 1000)
    assert due(start.on, start, Meter(TODAY, 5000), distance_km=50_000).on is None
    start = Meter(TODAY - timedelta(days=300), 1000)
    assert due(start.on, start, Meter(TODAY, 1000), distance_km=50_000).on is None


def test_an_unknown_day_and_an_unknown_interval_are_said():
    assert due(None, months=24).said.code == "changed_unknown"
    assert due().said.code == "no_interval"
    assert not due().overdue


@pytest.mark.parametrize(("name", "value"), [("months", 0), ("distance_km", -5), ("hours", 1e6), ("months", float("nan"))])
def test_an_interval_that_cannot_be(name, value):
    with pytest.raises(CoreError) as refused:
        ServiceInterval(**{name: value})
    assert refused.value.field == name
