"""What a loop waits for: the shapes of clocks and estimates. Times are absolute: whoever shows them counts."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum


class TimerKind(StrEnum):
    """A clock that was started, the cleaner's own, or the estimate of cooling."""

    WARM_UP = "warm_up"
    HOSE_FLOW = "hose_flow"
    VACUUM_HOLD = "vacuum_hold"
    BLEED = "bleed"
    CLEANER = "cleaner"
    COOLING = "cooling"


TIMER_NAMES = {
    TimerKind.WARM_UP: "warm-up",
    TimerKind.HOSE_FLOW: "hose flow",
    TimerKind.VACUUM_HOLD: "vacuum hold",
    TimerKind.BLEED: "bleed",
    TimerKind.CLEANER: "cleaner",
    TimerKind.COOLING: "cooling",
}


@dataclass(frozen=True, slots=True)
class TimerState:
    """One of them. ends_at: of a clock; limit_at: of a cleaner, which nothing pauses.

    likely_at, low_at, high_at: of an estimate, to be said in words with its range; points: temperatures that sharpened it;
    learned: by what this loop cooled like before.
    """

    entry_id: str
    kind: TimerKind
    started_at: datetime
    by: str
    ends_at: datetime | None = None
    limit_at: datetime | None = None
    likely_at: datetime | None = None
    low_at: datetime | None = None
    high_at: datetime | None = None
    points: int = 0
    learned: bool = False


class WaitKind(StrEnum):
    """Whose turn it is, most urgent first."""

    LIMIT = "limit"
    HANDS = "hands"
    COUNTING = "counting"
    COOLING = "cooling"
    PAUSED = "paused"


@dataclass(frozen=True, slots=True)
class Wait:
    """What a loop waits for at one moment. since: hands are needed, or a limit is passed; until: it is expected to be."""

    kind: WaitKind
    timer: TimerKind | None = None
    since: datetime | None = None
    until: datetime | None = None


@dataclass(frozen=True, slots=True)
class PauseState:
    """Paused: by whom, when, and what the next person has to know."""

    entry_id: str
    at: datetime
    by: str
    note: str
