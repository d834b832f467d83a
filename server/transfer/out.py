"""A depot out: one zip in open formats. docs/archive.md has its layout."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import os
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from shelf.models import Handover

import temper_core
from depots.models import Depot
from fleet.models import Loop
from instruments.exchange import guarded
from jobs.models import Photo, cores_of
from jobs.pictures import path_of
from jobs.queries import entries_of
from jobs.results import STATE
from temper_core.job.fold import fold
from transfer.personal import PERSONAL
from transfer.tables import TABLES, rows_of

FORMAT, VERSION = "temper depot", 2
MANIFEST, STATES = "manifest.json", "states.jsonl"
CHUNK = 1024 * 1024
READ_ME = """This is the archive of a depot, written by Temper {version} on {at}.

tables/NAME.jsonl   a table as JSON Lines: one JSON object a line, UTF-8
tables/NAME.csv     the same table as CSV: comma, CR LF, double quotes, UTF-8; lists and objects as JSON text
columns.csv         what each column of each table is, with its unit
photos/             the photos, JPEG, named by the SHA-256 of the file
states.jsonl        what every loop's record came to when this was written: for checking, after taking it in
manifest.json       version, time, SHA-256 and rows of each file

Text in a CSV that begins with = + - or @ has an apostrophe before it, so that no table program takes it for a formula.
Personal data in it: {personal}.
Names may stand in free text as well (descriptions, notes) and on photos.

Passwords, sessions, tokens and links are not in it. Whoever has this file can read the depot's records: keep it safe.
./temper import FILE takes it into an empty Temper.
"""


class Writer:
    """Files of the archive, with what the manifest says of each."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self.archive = archive
        self.files: dict[str, dict[str, Any]] = {}

    def lines(self, name: str, lines: Iterator[str]) -> None:
        """A text file, line by line."""
        digest, rows = hashlib.sha256(), 0
        with self.archive.open(name, "w", force_zip64=True) as target:
            for line in lines:
                data = line.encode()
                digest.update(data)
                target.write(data)
                rows += 1
        self.files[name] = {"sha256": digest.hexdigest(), "rows": rows - name.endswith(".csv")}

    def photo(self, path: Path, name: str) -> None:
        """A photo as it is."""
        data = path.read_bytes()
        self.archive.writestr(name, data, zipfile.ZIP_STORED)
        self.files[name] = {"sha256": hashlib.sha256(data).hexdigest()}


def write_archive(depot: Depot, path: Path) -> dict[str, Any]:
    """The whole depot into a new file; its manifest. Raises FileExistsError, OSError."""
    at = datetime.now(UTC)
    with zipfile.ZipFile(path, "x", zipfile.ZIP_DEFLATED, allowZip64=True) as archive:
        path.chmod(0o600)
        writer = Writer(archive)
        archive.writestr("README.txt", _read_me(at))
        writer.lines("columns.csv", csv_lines(["table", "column", "what it is"], _columns()))
        for table in TABLES:
            writer.lines(f"tables/{table.name}.jsonl", _json_lines(rows_of(table, depot.pk)))
            writer.lines(f"tables/{table.name}.csv", csv_lines(list(table.columns), rows_of(table, depot.pk)))
        missing = []
        taken = Photo.objects.filter(loop__machine__depot=depot).values_list("sha256", flat=True)
        papers = Handover.objects.filter(depot=depot).exclude(photo="").values_list("photo", flat=True)
        for sha in sorted({*taken, *papers}):
            if path_of(sha).is_file():
                writer.photo(path_of(sha), f"photos/{sha[:2]}/{sha}.jpg")
            else:
                missing.append(sha)
        writer.lines(STATES, _json_lines(states(depot, at)))
        manifest = {
            "format": FORMAT,
            "version": VERSION,
            "temper": temper_core.__version__,
            "made_at": at.isoformat(),
            "depot": depot.name,
            "personal": {name: list(columns) for name, columns in PERSONAL.items()},
            "missing_photos": missing,
            "files": writer.files,
        }
        archive.writestr(MANIFEST, json.dumps(manifest, indent=1))
    with path.open("rb") as written:
        os.fsync(written.fileno())
    return manifest


def _read_me(at: datetime) -> str:
    personal = "; ".join(f"{name} ({', '.join(columns)})" for name, columns in PERSONAL.items())
    return READ_ME.format(version=temper_core.__version__, at=f"{at:%Y-%m-%d %H:%M} UTC", personal=personal)


def _columns() -> Iterator[dict[str, Any]]:
    for table in TABLES:
        for column, said in table.columns.items():
            yield {"table": table.name, "column": column, "what it is": said}


def _json_lines(rows: Iterator[dict[str, Any]]) -> Iterator[str]:
    for row in rows:
        yield json.dumps(row, ensure_ascii=False) + "\n"


def csv_lines(columns: list[str], rows: Iterator[dict[str, Any]]) -> Iterator[str]:
    """CSV line by line (RFC 4180), the header first."""
    buffer = io.StringIO(newline="")
    writer = csv.writer(buffer)
    writer.writerow(columns)
    for row in rows:
        yield buffer.getvalue()
        buffer.seek(0)
        buffer.truncate()
        writer.writerow([_cell(row[name]) for name in columns])
    yield buffer.getvalue()


def _cell(value: Any) -> Any:
    if isinstance(value, dict | list):
        return json.dumps(value, ensure_ascii=False)
    return guarded(value) if isinstance(value, str) else value


def states(depot: Depot, at: datetime) -> Iterator[dict[str, Any]]:
    """State of every loop at a moment; of a record that does not fold, why."""
    loops = Loop.objects.filter(machine__depot=depot).select_related("machine__depot").order_by("pk")
    for loop in loops:
        row: dict[str, Any] = {"loop_id": loop.pk, "machine": loop.machine.fleet_number, "loop": loop.name}
        try:
            state = fold(loop.core, cores_of(entries_of(loop)), depot.policy, at.astimezone(depot.now.tzinfo))
            row["state"] = STATE.dump_python(state, mode="json")
        except Exception as error:  # noqa: BLE001  a record that does not fold goes out all the same
            row["unreadable"] = str(error)
        yield row
