"""What was made of a loop's record, kept in memory until the record, the loop or the rules change, or its time is up.

One process serves (docs/architecture.md), so that memory is shared by all who ask. The key is the loop's last entry by its
number: whatever is recorded changes it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from threading import Lock
from typing import Any, Generic, Protocol, TypeVar

from depots.models import Depot
from temper_core.basis.policy import Policy

T = TypeVar("T")
MOST_KEPT = 5000


class Versioned(Protocol):
    """A loop's version: when it and its machine were edited last, and its last entry."""

    @property
    def last_entry(self) -> Any:
        """Its id."""

    @property
    def edited_at(self) -> datetime:
        """Of the loop."""

    @property
    def machine_edited_at(self) -> datetime:
        """Of its machine."""


@dataclass(frozen=True, slots=True)
class Key:
    """What a kept value was made from: the last entry by number, the loop and machine as edited, the depot and its rules."""

    last_entry: str
    edited_at: datetime
    machine_edited_at: datetime
    depot: tuple[float, float]
    policy: Policy


def key_of(row: Versioned, depot: Depot, policy: Policy) -> Key:
    """The key of a loop as it stands now; nothing large is read for it."""
    return Key(str(row.last_entry), row.edited_at, row.machine_edited_at, (depot.coldest_c, depot.altitude_m), policy)


@dataclass(frozen=True, slots=True)
class Kept(Generic[T]):
    """A value with the key that it was made from, and from when until when it is good."""

    key: Key
    made_at: datetime
    until: datetime
    value: T


class RowCache(Generic[T]):
    """Values by loop, each good for its key until a moment."""

    def __init__(self) -> None:
        self._rows: dict[int, Kept[T]] = {}
        self._lock = Lock()

    def kept(self, loop_id: int, key: Key, now: datetime) -> Kept[T] | None:
        """What is kept for this key, as long as it is good; None where nothing is."""
        row = self._rows.get(loop_id)
        if row is None or not row.made_at <= now < row.until or row.key != key:
            return None
        return row

    def put(self, loop_id: int, key: Key, made_at: datetime, until: datetime | None, value: T) -> None:
        """Keep a value; without a moment until which it is good it is not kept."""
        if until is None:
            return
        with self._lock:
            if len(self._rows) >= MOST_KEPT:
                self._rows.clear()
            self._rows[loop_id] = Kept(key, made_at, until, value)

    def forget(self) -> None:
        """Keep nothing any more."""
        with self._lock:
            self._rows.clear()

    def make(self, loop_id: int, key: Key, now: datetime, make: Callable[[], tuple[T, datetime | None]]) -> T:
        """What is kept, or what is made now and kept."""
        row = self.kept(loop_id, key, now)
        if row is not None:
            return row.value
        value, until = make()
        self.put(loop_id, key, now, until, value)
        return value


def midnight_after(now: datetime) -> datetime:
    """The next midnight by this clock."""
    return datetime.combine(now.date() + timedelta(days=1), datetime.min.time(), now.tzinfo)
