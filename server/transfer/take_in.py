"""A depot in: an archive of transfer.out into an empty Temper, whole or not at all, checked by folding every loop again."""

from __future__ import annotations

import hashlib
import json
import os
import re
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Any

from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction

import temper_core
from depots.models import Depot
from jobs.chain import ledger_breaks
from jobs.pictures import path_of
from people.models import Person
from transfer.out import CHUNK, FORMAT, MANIFEST, STATES, VERSION, states
from transfer.table import Table
from transfer.tables import TABLES, row_from

PHOTO = re.compile(r"photos/[0-9a-f]{2}/([0-9a-f]{64})\.jpg")
MOST_SAID = 20
SINCE_2 = frozenset({"owners", "erased_owners"})  # tables that archives of version 1 do not have


class ArchiveRefused(Exception):
    """It cannot be taken in; the words say why, and what to do."""


@dataclass
class Taken:
    """What was taken in. differs: loops whose state is not that of the archive."""

    depot: str
    rows: dict[str, int] = field(default_factory=dict)
    photos: int = 0
    loops: int = 0
    differs: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


def take_in(path: Path) -> Taken:
    """Take an archive in; raises ArchiveRefused, and then nothing is left of it but photos nobody points to."""
    if Depot.objects.exists() or Person.objects.exists():
        raise ArchiveRefused("This Temper has a depot already. Take the archive into an empty one: TEMPER_DATA=new-folder.")
    try:
        archive = zipfile.ZipFile(path)
        manifest = json.loads(archive.read(MANIFEST))
        if manifest["format"] != FORMAT:
            raise ArchiveRefused(f"{path} is no archive of a depot.")
        if manifest["version"] > VERSION:
            raise ArchiveRefused(
                f"{path} was written by Temper {manifest['temper']}: its layout is newer. Use that version."
            )
    except FileNotFoundError:
        raise ArchiveRefused(f"There is no file {path}.") from None
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, OSError) as error:
        raise ArchiveRefused(f"{path} is no archive of a depot, or is damaged ({error}).") from None
    with archive:
        _check(archive, manifest)
        taken = Taken(str(manifest["depot"]))
        taken.notes += [f"photo {sha[:12]}… was missing already" for sha in manifest["missing_photos"]]
        _photos(archive, manifest, taken)
        with transaction.atomic():
            for table in TABLES:
                if f"tables/{table.name}.jsonl" in manifest["files"]:
                    taken.rows[table.name] = _table(archive, table)
            _compare(archive, manifest, taken)
            if taken.differs:
                raise ArchiveRefused(
                    f"The state is not the archive's, nothing was kept: {'; '.join(taken.differs[:MOST_SAID])}"
                )
    return taken


def _check(archive: zipfile.ZipFile, manifest: dict[str, Any]) -> None:
    for name, said in manifest["files"].items():
        digest = hashlib.sha256()
        try:
            with archive.open(name) as source:
                while chunk := source.read(CHUNK):
                    digest.update(chunk)
        except (KeyError, zipfile.BadZipFile, OSError, EOFError) as error:
            raise ArchiveRefused(f"{name} is missing or cannot be read ({error}). Nothing was taken in.") from None
        if digest.hexdigest() != said["sha256"]:
            raise ArchiveRefused(f"{name} was changed: its hash is not the manifest's. Nothing was taken in.")
    later = SINCE_2 if manifest["version"] < 2 else frozenset()
    asked = [table.name for table in TABLES if table.name not in later]
    missing = [name for name in asked if f"tables/{name}.jsonl" not in manifest["files"]]
    if missing:
        raise ArchiveRefused(f"The table {missing[0]} is missing. Nothing was taken in.")


def _photos(archive: zipfile.ZipFile, manifest: dict[str, Any], taken: Taken) -> None:
    for name in manifest["files"]:
        found = PHOTO.fullmatch(name)
        if not found:
            continue
        data = archive.read(name)
        if hashlib.sha256(data).hexdigest() != found[1]:
            raise ArchiveRefused(f"{name} was damaged before it was written out: its hash is not its name.")
        path = path_of(found[1])
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        part = path.with_name(f"{path.name}.part")
        with part.open("wb") as written:
            written.write(data)
            written.flush()
            os.fsync(written.fileno())
        part.replace(path)
        taken.photos += 1


def _lines(archive: zipfile.ZipFile, name: str) -> Iterator[tuple[int, dict[str, Any]]]:
    with archive.open(name) as source:
        for number, line in enumerate(source, 1):
            try:
                row = json.loads(line)
                if not isinstance(row, dict):
                    raise ValueError("no object")
            except ValueError as error:
                raise ArchiveRefused(f"{name}, line {number}: {error}. Nothing was taken in.") from None
            yield number, row


def _table(archive: zipfile.ZipFile, table: Table) -> int:
    name, rows = f"tables/{table.name}.jsonl", 0
    for number, given in _lines(archive, name):
        try:
            row = row_from(table, given)
            if isinstance(row, Person):
                row.set_unusable_password()
                row.must_change = True
            row.save_base(raw=True, force_insert=True)  # as it was: no time of today, no number of its own
        except (ValueError, TypeError, KeyError, ValidationError, IntegrityError) as error:
            raise ArchiveRefused(f"{name}, line {number}: {error}. Nothing was taken in.") from None
        rows += 1
    return rows


def _compare(archive: zipfile.ZipFile, manifest: dict[str, Any], taken: Taken) -> None:
    """Every loop's record folded here, at the moment it was folded there."""
    depot = Depot.objects.get()
    here = states(depot, datetime.fromisoformat(manifest["made_at"]))
    there = {row["loop_id"]: row for _, row in _lines(archive, STATES)}
    for row in here:
        taken.loops += 1
        if there.pop(row["loop_id"], None) == row:
            continue
        if manifest["temper"] == temper_core.__version__:
            taken.differs.append(f"{row['machine']}, {row['loop']}: its record folds to another state")
        else:  # later rules may judge otherwise; the facts are the same, which the chain shows
            taken.notes.append(f"{row['machine']}, {row['loop']}: today's rules fold to another state")
    taken.differs += [f"loop {loop_id} is missing" for loop_id in there]
    taken.differs += [f"loop {row.loop_id}: {row.said}" for row in ledger_breaks()]
