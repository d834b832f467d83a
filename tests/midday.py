"""Where a depot stands while it is tested."""

from datetime import UTC, datetime


def where_it_is_midday() -> str:
    """A zone whose clock stands between 12:00 and 13:00, at any hour of a run: what the demo felt today is of today.

    A gate lapses on another day by the depot's calendar, so that a run around its midnight would find other gates.
    """
    east = 12 - datetime.now(UTC).hour
    return f"Etc/GMT{-east:+d}" if east else "Etc/GMT"
