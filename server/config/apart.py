"""A database of its own for the length of a request: what is done in practice cannot touch the depot's."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path

from django.db import DEFAULT_DB_ALIAS, connection, connections
from django.db.utils import load_backend

from config import clock

MARK = "APART"


def is_apart() -> bool:
    """Whether whoever asks works in a database of its own."""
    return bool(connection.settings_dict.get(MARK))


@contextmanager
def apart(path: Path, shift: timedelta = timedelta(0)) -> Iterator[None]:
    """Everything in here reads and writes this file, by a clock that is so far ahead; then all is as before."""
    depots_own = connections[DEFAULT_DB_ALIAS]
    settings = {**depots_own.settings_dict, **_FILE, "NAME": str(path), MARK: True}
    own = load_backend(str(settings["ENGINE"])).DatabaseWrapper(settings, DEFAULT_DB_ALIAS)
    connections[DEFAULT_DB_ALIAS] = own
    try:
        with clock.ahead_by(shift):
            yield
    finally:
        connections[DEFAULT_DB_ALIAS] = depots_own
        own.close()


_FILE = {
    "OPTIONS": {
        "transaction_mode": "IMMEDIATE",
        "timeout": 20,
        "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;",
    },
    "CONN_MAX_AGE": 0,
}
