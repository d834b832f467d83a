"""A backup put back: into a folder that has no depot, or with the one that is there set aside; never over it."""

from __future__ import annotations

import fcntl
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from django.db.migrations.loader import MigrationLoader

import temper_core
from backups.archive import DATABASE, PHOTOS, BackupRefused, Manifest, damage_in, open_backup, unpack
from fleet.erasures import erase_again

LOCK = "serving.lock"  # held by ./temper demo and ./temper serve
LEFT = (DATABASE, f"{DATABASE}-wal", f"{DATABASE}-shm", PHOTOS, "verified.json")


def check_not_served(data: Path) -> None:
    """Raises BackupRefused while a server works in this folder."""
    lock = data / LOCK
    if not lock.exists():
        return
    with lock.open("r+") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise BackupRefused(f"A server works in {data}. Stop it first.") from None


def check_not_newer(manifest: Manifest) -> None:
    """Raises BackupRefused for a database that a newer version has migrated."""
    known = MigrationLoader(None).disk_migrations
    newer = [f"{app} {name}" for app, names in manifest.migrations.items() for name in names if (app, name) not in known]
    if newer:
        raise BackupRefused(
            f"The backup was made by Temper {manifest.temper}, this is {temper_core.__version__}: "
            f"it does not know {newer[0]}. Install that version or a newer one, then restore."
        )


def restore(path: Path, into: Path, aside: bool) -> tuple[Manifest, Path | None, int]:
    """Put a backup back; what it holds, where the depot that was there lies now, and how many owners were erased again.

    Raises BackupRefused, OSError.

    Everybody is signed out: a session that had ended would be good again otherwise.
    """
    archive, manifest = open_backup(path)
    with archive:
        check_not_newer(manifest)
        damage = list(damage_in(archive, manifest))
        if damage:
            raise BackupRefused(f"{path} is damaged: {'; '.join(damage[:5])}. Nothing was restored.")
        check_not_served(into)
        there = [into / name for name in LEFT if (into / name).exists()]
        if there and not aside:
            raise BackupRefused(f"{into} has a depot already. Name another folder, or add --aside to set that one aside.")
        set_aside = _set_aside(into, there) if there else None
        unpack(archive, manifest, into)
    with closing(sqlite3.connect(into / DATABASE)) as db, db:
        tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        for table in {"django_session", "people_signedin"} & tables:
            db.execute(f"DELETE FROM {table}")
        again = erase_again(db, into)
    return manifest, set_aside, again


def _set_aside(into: Path, there: list[Path]) -> Path:
    folder = into / f"before-restore-{datetime.now(UTC):%Y%m%dT%H%M%SZ}"
    folder.mkdir(mode=0o700)
    for path in there:
        path.rename(folder / path.name)
    return folder
