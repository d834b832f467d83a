"""Inhibitor left at best, against dates by dateutil; the litre account as a picture shows it."""

from datetime import UTC, date, datetime, timedelta

import pytest
from dateutil.relativedelta import relativedelta
from hypothesis import given
from hypothesis import strategies as st

from temper_core.job.between.facts import LevelSeen
from temper_core.job.life.account.balance import balance
from temper_core.job.life.account.movement import Movement
from temper_core.job.life.age import AgePart
from temper_core.job.life.reserve import reserve_of
from temper_core.job.verify.facts import Level
from temper_core.views.history import history
from tests.core.test_coming_back import Away
from tests.core.test_ledger import NEW, pour

TODAY = date(2026, 11, 30)


@given(st.dates(date(2018, 1, 1), TODAY), st.integers(12, 96))
def test_of_one_age_it_ends_when_its_life_ends(went_in, months):
    """Against dateutil.relativedelta, within a day and a half: months are of different lengths."""
    reserve = reserve_of((AgePart(1.0, went_in),), months, TODAY)
    assert abs((reserve.until - (went_in + relativedelta(months=months))).days) <= 2
    assert (reserve.percent < 0) == (reserve.until < TODAY) or abs(reserve.percent) < 0.2


@given(st.floats(0.01, 0.99))
def test_two_ages_mix_by_share(old):
    parts = (AgePart(old, TODAY - timedelta(days=1461)), AgePart(1 - old, TODAY))
    assert reserve_of(parts, 48.0, TODAY).percent == pytest.approx(100 * (1 - old), abs=0.01)


def test_used_up_is_said_and_not_clamped():
    reserve = reserve_of((AgePart(1.0, date(2016, 11, 30)),), 60.0, TODAY)
    assert reserve.percent == pytest.approx(-100, abs=0.1)
    assert "used up since" in reserve.said.sentence


@pytest.mark.parametrize("parts", [(), (AgePart(0.5, None), AgePart(0.5, TODAY))])
def test_of_an_unknown_age_nothing_is_said(parts):
    assert reserve_of(parts, 48.0, TODAY) is None
    assert reserve_of((AgePart(1.0, TODAY),), None, TODAY) is None


def test_the_account_counts_what_went_missing_whatever_made_it_good():
    at = datetime(2026, 1, 5, tzinfo=UTC)
    week = timedelta(weeks=1)
    rows = [Movement(at, missing_l=0.0, sd_l=0.1), Movement(at + week, missing_l=0.4, sd_l=0.1)]
    rows += [Movement(at + 2 * week, 0.8, 0.0, 0.0, 0.1), Movement(at + 3 * week, out_l=0.5)]
    rows.append(Movement(at + 4 * week, 0.5, 0.0, 0.2, 0.1))
    assert [round(point.gone_l, 6) for point in balance(rows)] == [0.0, 0.4, 0.8, 1.0]
    assert [point.in_l for point in balance(rows)] == [0.0, 0.0, 0.8, 0.5]
    assert balance(rows)[-1].half_l > balance(rows)[0].half_l


def test_a_history_shows_levels_ages_and_reserve():
    away = Away()
    away.add(pour(NEW, 3.0, 3.0, at_mark=True), days=200)
    away.add(LevelSeen(Level.AT_MARK), days=7)
    shown = history(away.loop, away.entries, None, away.at)
    assert [round(point.gone_l, 1) for point in shown.levels] == [0.0, 6.0, 6.0]
    assert len(shown.ages[-1].parts) > len(shown.ages[-2].parts)  # what was poured is younger
    assert history(away.loop, away.entries).reserve is None  # no clock, no age
