"""Whether anything was written to the database since: by this process or any other, asked of SQLite itself."""

from __future__ import annotations

import sqlite3
from pathlib import Path
from threading import Lock

from django.db import connection

from config.apart import is_apart


class Watcher:
    """A connection of its own that only looks: SQLite's data_version changes for it with every commit of all others.

    https://www.sqlite.org/pragma.html#pragma_data_version
    """

    def __init__(self) -> None:
        self._lock = Lock()
        self._path, self._inode = "", -1
        self._looks: sqlite3.Connection | None = None
        self._opened = 0

    def version(self) -> str | None:
        """A text that stays the same until something is written; None where it is no file, or one of practice."""
        path = str(connection.settings_dict["NAME"])
        if is_apart() or ":memory:" in path or "mode=memory" in path:
            return None
        with self._lock:
            inode = Path(path).stat().st_ino
            if self._looks is None or (path, inode) != (self._path, self._inode):
                if self._looks is not None:
                    self._looks.close()
                self._looks = sqlite3.connect(f"file:{path}?mode=ro", uri=True, check_same_thread=False)
                self._path, self._inode, self._opened = path, inode, self._opened + 1
            (number,) = self._looks.execute("PRAGMA data_version").fetchone()
            return f"{self._opened}.{number}"


WATCHER = Watcher()
