"""What the disk or the database refuses, as an answer that says whether anything was stored and what to do."""

from __future__ import annotations

import errno
import sqlite3
from typing import NamedTuple

from django.db import Error as DjangoDbError


class StorageProblem(NamedTuple):
    """An answer: status, code, words, and after how many seconds to send again (None: not by itself)."""

    status: int
    code: str
    message: str
    again_s: int | None = None


FULL = StorageProblem(
    507,
    "disk_full",
    "The depot's disk is full: nothing was stored. What you typed is still here. "
    "Tell whoever looks after the server, and send it again when there is room.",
)
READ_ONLY = StorageProblem(
    503,
    "read_only",
    "The depot's records can only be read at the moment: nothing was stored. What you typed is still here. "
    "Tell whoever looks after the server, and send it again later.",
)
BUSY = StorageProblem(
    503,
    "busy",
    "The depot's records are busy: nothing was stored. What you typed is still here. Send it again in a moment.",
    2,
)
DAMAGED = StorageProblem(
    503,
    "damaged",
    "The depot's records cannot be read: nothing was stored. "
    "Tell whoever looks after the server: ./temper verify says what is wrong.",
)
_BY_SQLITE = {
    sqlite3.SQLITE_FULL: FULL,
    sqlite3.SQLITE_READONLY: READ_ONLY,
    sqlite3.SQLITE_PERM: READ_ONLY,
    sqlite3.SQLITE_BUSY: BUSY,
    sqlite3.SQLITE_LOCKED: BUSY,
    sqlite3.SQLITE_CORRUPT: DAMAGED,
    sqlite3.SQLITE_NOTADB: DAMAGED,
    sqlite3.SQLITE_CANTOPEN: DAMAGED,
    sqlite3.SQLITE_IOERR: DAMAGED,
}  # by primary result code: https://www.sqlite.org/rescode.html, from memory
_BY_ERRNO = {errno.ENOSPC: FULL, errno.EDQUOT: FULL, errno.EROFS: READ_ONLY, errno.EACCES: READ_ONLY, errno.EPERM: READ_ONLY}


def storage_problem(error: BaseException | None) -> StorageProblem | None:
    """What stands behind an exception; None where it is not the storage."""
    seen = 0
    while error is not None and seen < 10:  # as deep as exceptions are ever raised from one another
        if isinstance(error, sqlite3.Error):
            code: int = getattr(error, "sqlite_errorcode", sqlite3.SQLITE_ERROR)
            return _BY_SQLITE.get(code & 0xFF)
        if isinstance(error, OSError) and not isinstance(error, ConnectionError):
            return _BY_ERRNO.get(error.errno or 0)
        error, seen = error.__cause__ or (error.__context__ if isinstance(error, DjangoDbError) else None), seen + 1
    return None
