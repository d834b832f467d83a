"""A filling is a mixture of ages: shares by mass balance, the due date by its oldest part over the limit."""

from datetime import date

import pytest
from dateutil.relativedelta import relativedelta
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.policy import Policy
from temper_core.job.life.age import AgePart, more_out_l, oldest_over, refilled
from temper_core.job.life.due import add_months

OLD, NOW = AgePart(1.0, date(2022, 3, 14)), AgePart(1.0, date(2026, 11, 23))


@given(st.lists(st.floats(0.0, 1.0), min_size=1, max_size=8))
def test_what_stayed_of_the_first_filling_is_the_product_of_what_stayed_each_time(kept):
    """Mass balance, worked independently: c_n = c_0 * product of the parts that stayed."""
    parts, left = (OLD,), 1.0
    for year, part in enumerate(kept):
        parts = refilled(parts, part, AgePart(1.0, date(2023 + year, 1, 1)))
        left *= part
    assert sum(part.share for part in parts) == pytest.approx(1.0)
    old = sum(part.share for part in parts if part.on == OLD.on)
    assert old == pytest.approx(left, abs=len(kept) * 2e-4)


def test_a_part_of_unknown_age_is_the_oldest():
    parts = refilled((AgePart(1.0),), 0.5, NOW)
    oldest = oldest_over(parts, Policy())
    assert oldest.part.on is None
    assert oldest.percent == pytest.approx(50)


def test_a_trace_of_the_old_does_not_set_the_date():
    oldest = oldest_over(refilled((OLD,), 0.005, NOW), Policy())
    assert oldest.part.on == NOW.on


@given(st.floats(0.02, 1.0), st.floats(1.0, 100.0))
def test_swapping_so_much_more_brings_the_old_to_its_limit(kept, capacity_l):
    """Worked back: after swapping the litres that are named, what is so old stands at the limit."""
    oldest = oldest_over(refilled((OLD,), kept, NOW), Policy())
    if oldest.part.on != OLD.on:
        return
    out = more_out_l(oldest, capacity_l)
    assert oldest.percent * (1 - out / capacity_l) == pytest.approx(min(oldest.percent, oldest.limit_percent), rel=1e-6)


@given(st.dates(date(2000, 1, 1), date(2060, 12, 31)), st.integers(0, 240))
def test_months_are_added_as_a_calendar_does(day, months):
    """Against python-dateutil's relativedelta."""
    assert add_months(day, months) == day + relativedelta(months=months)
