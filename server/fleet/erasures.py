"""Owners erased on request stay erased, whatever older state is put back: by a list beside the database, no name in it."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from pathlib import Path
from typing import Any

LIST = "erased.jsonl"  # in the data folder; a restore leaves it where it is


def note_erased(data: Path, row: dict[str, Any]) -> None:
    """Add an erasure (owner_uuid, depot_id, by_id, at) to the folder's list."""
    path = data / LIST
    with path.open("a", encoding="utf-8") as kept:
        path.chmod(0o600)
        kept.write(f"\n{json.dumps(row)}\n")  # a line of its own, whatever a crash left of the one before


def erased_in(data: Path) -> Iterator[dict[str, Any]]:
    """The erasures of a folder's list; what a crash cut off is passed over."""
    path = data / LIST
    if not path.is_file():
        return
    for line in path.read_text(encoding="utf-8").splitlines():
        try:
            row = json.loads(line)
        except ValueError:
            continue
        if isinstance(row, dict) and isinstance(row.get("owner_uuid"), str):
            yield row


def erase_again(db: sqlite3.Connection, data: Path) -> int:
    """Erase from a database what the folder's list says; how many owners it still had. An older schema has none."""
    tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    if not {"fleet_owner", "fleet_erased"} <= tables:
        return 0
    many = 0
    for row in erased_in(data):
        key = row["owner_uuid"].replace("-", "")
        found = db.execute("SELECT id FROM fleet_owner WHERE uuid = ?", (key,)).fetchone()
        if found is not None:
            db.execute("UPDATE fleet_machine SET owner_id = NULL WHERE owner_id = ?", found)
            db.execute("DELETE FROM fleet_owner WHERE id = ?", found)
            many += 1
        known = db.execute("SELECT 1 FROM fleet_erased WHERE owner_uuid = ?", (key,)).fetchone()
        by = db.execute("SELECT 1 FROM people_person WHERE id = ?", (row.get("by_id"),)).fetchone()
        if found is not None and known is None and by is not None:
            values = (key, row["at"], row["by_id"], row["depot_id"])
            db.execute("INSERT INTO fleet_erased (owner_uuid, at, by_id, depot_id) VALUES (?, ?, ?, ?)", values)
    return many
