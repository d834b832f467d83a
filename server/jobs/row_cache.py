"""What was made of a loop's record, kept in memory until the record, the loop or the rules change, or its time is up.

One process serves (docs/architecture.md), so that memory is shared by all who ask. The key is the loop's last entry by its
number: whatever is recorded changes it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from threading import Lock
from typing import Any, Generic, TypeVar

from fleet.models import Loop
from temper_core.basis.policy import Policy

T = TypeVar("T")
MOST_KEPT = 5000


@dataclass(frozen=True, slots=True)
class Key:
    """What a kept value was made from.

    last_entry: id of the last entry by number. loop: its columns and what it takes from its machine and depot.
    """

    last_entry: str
    loop: Mapping[str, Any]
    policy: Policy


def key_of(loop: Loop, last_entry: object, policy: Policy) -> Key:
    """The key of a loop as its row stands now, without making the core's loop of it."""
    columns = {field.attname: getattr(loop, field.attname) for field in loop._meta.concrete_fields}
    depot = loop.machine.depot
    around = {"year": loop.machine.year, "depot_coldest_c": depot.coldest_c, "altitude_m": depot.altitude_m}
    return Key(str(last_entry), columns | around, policy)


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
