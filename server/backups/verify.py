"""Whether the records are what was recorded: the database, every loop's chain and fold, every photo."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import connection

from backups.archive import Manifest
from fleet.models import Loop
from jobs.chain import hash_of, ledger_breaks
from jobs.models import Entry, LedgerHead, Photo, Rechained, cores_of
from jobs.pictures import path_of
from jobs.queries import entries_of
from temper_core.job.fold import fold

VERIFIED = "verified.json"
MOST_SAID = 50


@dataclass
class Report:
    """What was looked at, and what is wrong, in words."""

    at: str
    loops: int = 0
    entries: int = 0
    photos: int = 0
    problems: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    heads: dict[str, list[Any]] = field(default_factory=dict)

    @property
    def ok(self) -> bool:
        """Whether nothing is wrong."""
        return not self.problems


def verify() -> Report:
    """Look at everything; nothing is changed."""
    report = Report(datetime.now(UTC).isoformat(timespec="seconds"))
    report.problems += _database()
    if report.problems:
        return report  # what a damaged file says means little
    loops = list(Loop.objects.select_related("machine__depot").order_by("pk"))
    named = {loop.pk: f"{loop.machine.fleet_number}, {loop.name}" for loop in loops}
    report.loops, report.entries = len(loops), Entry.objects.count()
    report.problems += [f"{named.get(row.loop_id, f'loop {row.loop_id}')}: {row.said}" for row in ledger_breaks()]
    report.problems += [f"{named[pk]}: {said}" for pk, said in _folds(loops)]
    report.photos = Photo.objects.values("sha256").distinct().count()
    report.problems += _photos()
    report.notes += [f"{row.at:%Y-%m-%d}: {row.reason}, {row.loops} loops" for row in Rechained.objects.order_by("at")]
    report.heads = {str(head.loop_id): [head.seq, head.hash] for head in LedgerHead.objects.all()}
    return report


def _database() -> Iterator[str]:
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA integrity_check(20)")
        for (said,) in cursor.fetchall():
            if said != "ok":
                yield f"database: {said}"
        cursor.execute("PRAGMA foreign_key_check")
        for table, row, parent, _ in cursor.fetchall()[:20]:
            yield f"database: {table} row {row} points to a row of {parent} that is not there"


def _folds(loops: list[Loop]) -> Iterator[tuple[int, str]]:
    for loop in loops:
        depot = loop.machine.depot
        try:
            fold(loop.core, cores_of(entries_of(loop)), depot.policy, depot.now)
        except Exception as error:  # noqa: BLE001  whatever it is, it is what is wrong with this loop
            yield loop.pk, f"the record does not fold ({error})"


def _photos() -> Iterator[str]:
    for sha in Photo.objects.values_list("sha256", flat=True).distinct().order_by("sha256"):
        path = path_of(sha)
        if not path.is_file():
            yield f"photo {sha[:12]}… is missing"
        elif hashlib.sha256(path.read_bytes()).hexdigest() != sha:
            yield f"photo {sha[:12]}… was changed"


def against(manifest: Manifest) -> list[str]:
    """What a backup holds of the loops' records that is not here as it was: somebody made a chain of their own."""
    found = []
    for loop_id, (seq, value) in manifest.heads.items():
        entry = Entry.objects.filter(loop=int(loop_id), seq=seq).first()
        if seq and (entry is None or hash_of(entry) != value):
            found.append(f"loop {loop_id}: entry {seq} or one before it is not what the backup of {manifest.made_at} has")
    return found


def write_down(report: Report) -> None:
    """Keep what was found, for the health address."""
    kept = asdict(report) | {"problems": report.problems[:MOST_SAID], "heads": {}}
    path = Path(settings.DATA) / VERIFIED
    part = path.with_name(f"{path.name}.part")
    part.write_text(json.dumps(kept, indent=1))
    part.chmod(0o600)
    part.replace(path)


def last_report() -> Report | None:
    """What was found last; None where nothing was looked at yet."""
    try:
        return Report(**json.loads((Path(settings.DATA) / VERIFIED).read_text()))
    except (OSError, ValueError, TypeError):
        return None
