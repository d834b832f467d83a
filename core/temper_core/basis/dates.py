"""Days, months and how a day is written."""

from __future__ import annotations

from datetime import date

_MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
DAYS_IN_MONTH = 30.4375


def day_words(day: date) -> str:
    """A day as people write it, whatever the machine's locale.

    >>> day_words(date(2027, 3, 28))
    '28 Mar 2027'
    """
    return f"{day.day} {_MONTHS[day.month - 1]} {day.year}"
