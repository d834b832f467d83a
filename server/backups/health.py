"""Whether this Temper is well, for a monitor: what is wrong stands in words."""

from __future__ import annotations

import shutil
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor

from backups.archive import backups_in, made_at
from backups.verify import last_report

ROOM_MB = 500  # less free, and a depot's photos of a few weeks do not fit
BACKUP_EVERY = timedelta(hours=36)  # nightly, and half a day late
VERIFY_EVERY = timedelta(days=8)


@dataclass(frozen=True)
class Check:
    """One thing that a monitor asks."""

    name: str
    ok: bool
    said: str


def checks() -> list[Check]:
    """All of them; none raises."""
    return [_writing(), _migrations(), _disk(), _backup(), _integrity()]


def _writing() -> Check:
    try:
        connection.ensure_connection()
        if connection.in_atomic_block:  # inside a test's transaction there is nothing to try
            return Check("writing", True, "the database can be written")
        with connection.cursor() as cursor:
            cursor.execute("BEGIN IMMEDIATE")
            cursor.execute("ROLLBACK")
    except DatabaseError as error:
        return Check("writing", False, f"the database cannot be written: {error}")
    return Check("writing", True, "the database can be written")


def _migrations() -> Check:
    try:
        executor = MigrationExecutor(connection)
        left = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError as error:
        return Check("migrations", False, f"they cannot be read: {error}")
    said = f"{len(left)} not run yet: start ./temper serve again" if left else "all run"
    return Check("migrations", not left, said)


def _disk() -> Check:
    try:
        free = shutil.disk_usage(settings.DATA).free // 1_000_000
    except OSError as error:
        return Check("disk", False, f"it cannot be read: {error}")
    said = f"{free} MB free" if free >= ROOM_MB else f"{free} MB free, {ROOM_MB} MB are needed: make room"
    return Check("disk", free >= ROOM_MB, said)


def _backup() -> Check:
    found = backups_in(settings.BACKUPS)
    if not found:
        return Check("backup", False, "none yet: run ./temper backup, and turn the nightly timer on")
    at = made_at(found[0])
    late = datetime.now(UTC) - at > BACKUP_EVERY
    return Check("backup", not late, f"last {at:%Y-%m-%d %H:%M} UTC" + (", none since: look at the timer" if late else ""))


def _integrity() -> Check:
    report = last_report()
    if report is None:
        return Check("integrity", False, "never looked at: run ./temper verify")
    at = datetime.fromisoformat(report.at)
    if not report.ok:
        return Check("integrity", False, f"{len(report.problems)} problems on {at:%Y-%m-%d}: {report.problems[0]}")
    late = datetime.now(UTC) - at > VERIFY_EVERY
    said = f"last checked {at:%Y-%m-%d %H:%M} UTC" + (", not since: run ./temper verify" if late else ", nothing wrong")
    return Check("integrity", not late, said)
