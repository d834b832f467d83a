"""A backup: one zip with the database, the photos, and a manifest with the SHA-256 of each.

The database is copied by SQLite's own backup while the server writes; only the file is looked at, never a model, so that a
database of an older version is backed up before it is migrated. Layout of the archive: docs/running.md.
"""

from __future__ import annotations

import hashlib
import json
import os
import re
import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import closing
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

import temper_core

FORMAT, VERSION = "temper backup", 1
DATABASE, MANIFEST, PHOTOS = "temper.sqlite3", "manifest.json", "photos"
PHOTO = re.compile(r"photos/[0-9a-f]{2}/([0-9a-f]{64})\.jpg")
AUTHORITY = ("lan/authority.crt", "lan/authority.key")  # of ./temper serve --lan: a restored server is still believed
NAME = re.compile(r"temper-\d{8}T\d{6}Z\.zip")
CHUNK = 1024 * 1024


class BackupRefused(Exception):
    """It cannot be done; the words say why, and what to do."""


@dataclass(frozen=True)
class Manifest:
    """What an archive holds. heads: loop -> number and hash of the last entry of its record; files: name -> SHA-256."""

    made_at: str
    temper: str
    migrations: dict[str, list[str]]
    entries: int
    heads: dict[str, list[Any]]
    files: dict[str, str]
    missing_photos: list[str] = field(default_factory=list)
    format: str = FORMAT
    version: int = VERSION

    @property
    def photos(self) -> int:
        """How many photos it holds."""
        return sum(1 for name in self.files if PHOTO.fullmatch(name))


def make_backup(data: Path, folder: Path, now: datetime | None = None) -> tuple[Path, Manifest]:
    """Back up the depot in `data` into a new file in `folder`; the file, and what it holds. Raises BackupRefused, OSError.

    The file appears under its name only once it is whole and on the disk.
    """
    database = data / DATABASE
    if not database.is_file():
        raise BackupRefused(f"There is no database in {data}: nothing to back up.")
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    _check_room(data, folder)
    at = now or datetime.now(UTC)
    path = folder / f"temper-{at:%Y%m%dT%H%M%SZ}.zip"
    if path.exists():
        raise BackupRefused(f"{path} exists already. Wait a second, and run it again.")
    with tempfile.TemporaryDirectory(dir=folder, prefix=".temper-") as kept:
        copy, part = Path(kept) / DATABASE, Path(kept) / "archive"
        copy_database(database, copy)
        manifest = _write(part, copy, data, at)
        with part.open("rb") as written:
            os.fsync(written.fileno())
        part.chmod(0o600)
        part.replace(path)
    _sync_folder(folder)
    return path, manifest


def _check_room(data: Path, folder: Path) -> None:
    photos = data / PHOTOS
    needed = 2 * (data / DATABASE).stat().st_size + sum(file.stat().st_size for file in photos.rglob("*.jpg"))
    free = shutil.disk_usage(folder).free
    if needed > free:
        raise BackupRefused(f"{folder} has {free / 1e6:.0f} MB free, {needed / 1e6:.0f} MB are needed. Make room first.")


def copy_database(source: Path, target: Path) -> None:
    """A consistent copy, while others write."""
    with closing(sqlite3.connect(source, timeout=20)) as live, closing(sqlite3.connect(target)) as copy:
        live.backup(copy)
        copy.execute("PRAGMA journal_mode=DELETE")
    target.chmod(0o600)


def _write(part: Path, copy: Path, data: Path, at: datetime) -> Manifest:
    with closing(sqlite3.connect(f"file:{copy}?mode=ro", uri=True)) as db:
        tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        migrations = migrations_of(db)
        entries = db.execute("SELECT count(*) FROM jobs_entry").fetchone()[0] if "jobs_entry" in tables else 0
        heads: dict[str, list[Any]] = {}
        if "jobs_ledgerhead" in tables:
            heads = {
                str(loop): [seq, value] for loop, seq, value in db.execute("SELECT loop_id, seq, hash FROM jobs_ledgerhead")
            }
        photos = [sha for (sha,) in db.execute("SELECT DISTINCT sha256 FROM jobs_photo")] if "jobs_photo" in tables else []
        if "shelf_handover" in tables:
            papers = db.execute("SELECT DISTINCT photo FROM shelf_handover WHERE photo <> ''")
            photos = [*{*photos, *(sha for (sha,) in papers)}]
    files, missing = {}, []
    with zipfile.ZipFile(part, "x", zipfile.ZIP_STORED, allowZip64=True) as archive:
        files[DATABASE] = _add(archive, copy, DATABASE, zipfile.ZIP_DEFLATED)
        for sha in sorted(photos):
            path, name = data / PHOTOS / sha[:2] / f"{sha}.jpg", f"{PHOTOS}/{sha[:2]}/{sha}.jpg"
            if path.is_file():
                files[name] = _add(archive, path, name, zipfile.ZIP_STORED)
            else:
                missing.append(sha)
        for name in AUTHORITY:
            if (data / name).is_file():
                files[name] = _add(archive, data / name, name, zipfile.ZIP_DEFLATED)
        made = at.isoformat(timespec="seconds")
        manifest = Manifest(made, temper_core.__version__, migrations, entries, heads, files, missing)
        archive.writestr(MANIFEST, json.dumps(asdict(manifest), indent=1), zipfile.ZIP_DEFLATED)
    return manifest


def _add(archive: zipfile.ZipFile, path: Path, name: str, how: int) -> str:
    info = zipfile.ZipInfo.from_file(path, name)
    info.compress_type, info.external_attr = how, 0o600 << 16
    with path.open("rb") as source, archive.open(info, "w", force_zip64=True) as target:
        return _copied(source, target)


def _copied(source: IO[bytes], target: IO[bytes] | None) -> str:
    """Copy it, or only read it; SHA-256 of what went by."""
    digest = hashlib.sha256()
    while chunk := source.read(CHUNK):
        digest.update(chunk)
        if target is not None:
            target.write(chunk)
    return digest.hexdigest()


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def migrations_of(db: sqlite3.Connection) -> dict[str, list[str]]:
    """What was migrated, by app; {} for a database without tables."""
    found: dict[str, list[str]] = {}
    if db.execute("SELECT 1 FROM sqlite_master WHERE name = 'django_migrations'").fetchone():
        for app, name in db.execute("SELECT app, name FROM django_migrations ORDER BY app, name"):
            found.setdefault(app, []).append(name)
    return found


def backups_in(folder: Path) -> list[Path]:
    """Backups of a folder, newest first; only names this program gives."""
    if not folder.is_dir():
        return []
    return sorted((path for path in folder.iterdir() if NAME.fullmatch(path.name)), reverse=True)


def made_at(path: Path) -> datetime:
    """When a backup was made, as its name says."""
    return datetime.strptime(path.stem.removeprefix("temper-"), "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC)


def drop_old(folder: Path, keep: int) -> list[Path]:
    """Remove all but the newest so many; those that went."""
    gone = backups_in(folder)[keep:] if keep > 0 else []
    for path in gone:
        path.unlink()
    return gone


def open_backup(path: Path) -> tuple[zipfile.ZipFile, Manifest]:
    """An archive and its manifest; raises BackupRefused for what is none, or of a later layout."""
    try:
        archive = zipfile.ZipFile(path)
        given = json.loads(archive.read(MANIFEST))
        if given["format"] != FORMAT:
            raise BackupRefused(f"{path} is no backup of Temper.")
        if given["version"] > VERSION:
            raise BackupRefused(f"{path} was made by Temper {given['temper']}: its layout is newer. Use that version.")
        manifest = Manifest(**given)
    except FileNotFoundError:
        raise BackupRefused(f"There is no file {path}.") from None
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, OSError) as error:
        raise BackupRefused(f"{path} is no backup of Temper, or is damaged ({error}).") from None
    return archive, manifest


def damage_in(archive: zipfile.ZipFile, manifest: Manifest) -> Iterator[str]:
    """What in an archive is not what its manifest says, in words."""
    names = set(archive.namelist()) - {MANIFEST}
    for name in sorted(names - set(manifest.files)):
        yield f"{name} is not in the manifest"
    for name, wanted in manifest.files.items():
        if name not in names:
            yield f"{name} is missing"
            continue
        try:
            with archive.open(name) as source:
                got = _copied(source, None)
        except (zipfile.BadZipFile, OSError, EOFError, ValueError) as error:
            yield f"{name} cannot be read ({error})"
            continue
        if got != wanted:
            yield f"{name} was changed: its hash is not the manifest's"
        elif (photo := PHOTO.fullmatch(name)) and photo[1] != got:
            yield f"{name} was damaged before it was backed up: its hash is not its name"
    for sha in manifest.missing_photos:
        yield f"photo {sha[:12]}… was missing already when the backup was made"


def unpack(archive: zipfile.ZipFile, manifest: Manifest, into: Path) -> None:
    """Database and photos into a folder that has none. Raises BackupRefused for a name that does not belong there."""
    strange = [name for name in manifest.files if name not in (DATABASE, *AUTHORITY) and not PHOTO.fullmatch(name)]
    if strange:
        raise BackupRefused(f"'{strange[0]}' does not belong into a backup: nothing was restored.")
    into.mkdir(parents=True, exist_ok=True, mode=0o700)
    for name in sorted(manifest.files, key=lambda name: (name == DATABASE, name == AUTHORITY[0])):
        target = into / name
        if name in AUTHORITY and (into / AUTHORITY[0]).exists():
            continue  # devices believe the one that is there
        target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        part = target.with_name(f"{target.name}.part")
        with archive.open(name) as source, part.open("xb") as written:
            _copied(source, written)
            written.flush()
            os.fsync(written.fileno())
        part.chmod(0o600)
        part.replace(target)
    _sync_folder(into)
