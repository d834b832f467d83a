"""The clock that everything is recorded by. In practice it runs forward; nowhere else is it anything but the time."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import datetime, timedelta

from django.utils import timezone

_ahead: ContextVar[timedelta] = ContextVar("ahead", default=timedelta(0))


def now() -> datetime:
    """The time, aware, in UTC; within `ahead_by` so much later."""
    return timezone.now() + _ahead.get()


@contextmanager
def ahead_by(shift: timedelta) -> Iterator[None]:
    """Until it is left, now() is so much later: practice alone."""
    before = _ahead.set(shift)
    try:
        yield
    finally:
        _ahead.reset(before)
