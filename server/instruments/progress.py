"""How far an import is, told to the page that waits for it; kept in this process only."""

from __future__ import annotations

import uuid
from typing import IO

from django.core.cache import cache

from people.models import Person

KEPT_S = 600


def count_lines(file: IO[bytes], kind: str) -> int:
    """About how many lines a file has; 0 where that is not known before it is read."""
    if kind != "csv":
        return 0
    file.seek(0)
    found = 0
    while chunk := file.read(1024 * 1024):
        found += chunk.count(b"\n")
    return found


def tell_progress(person: Person, import_id: uuid.UUID, of: int, lines: int) -> None:
    """So many lines are done."""
    if of:
        cache.set(_key(person, import_id), min(1.0, lines / of), KEPT_S)


def progress_of(person: Person, import_id: uuid.UUID) -> float | None:
    """Share that is done, 0 to 1; None where nothing is known."""
    found: float | None = cache.get(_key(person, import_id))
    return found


def _key(person: Person, import_id: uuid.UUID) -> str:
    return f"import:{person.pk}:{import_id}"
