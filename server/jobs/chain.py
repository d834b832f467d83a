"""The record is a chain: every entry carries the hash of the one before it in its loop, so that what was changed shows.

A changed, missing or inserted entry breaks the chain where it is; the loop's head holds the hash of the last one, so that
an entry cut off the end shows too. Somebody who can write the database can make a new chain: the head that a backup or a
printed sheet holds then differs. The hash is SHA-256 (FIPS 180-4) of canonical JSON (sorted keys, no spaces).
"""

from __future__ import annotations

import hashlib
import json
import logging
from collections.abc import Collection, Iterable, Iterator, Sequence
from datetime import UTC, datetime
from typing import Any, NamedTuple

from django.db import connection

from jobs.models import Entry, LedgerHead, Rechained

logger = logging.getLogger(__name__)
COLUMNS = ("id", "loop_id", "job_id", "seq", "kind", "facts", "happened_at", "recorded_at", "person_id", "sent")
FIRST = ""  # what the first entry of a loop carries
BATCH = 2000


class Break(NamedTuple):
    """Where a loop's record is not what was recorded: loop, number of the entry, and what is wrong, in words."""

    loop_id: int
    seq: int
    said: str


def hash_of(entry: Any) -> str:
    """Hash of an entry: of all that was recorded, and of the hash it carries; hexadecimal."""
    values = [str(entry.id), entry.loop_id, entry.job_id and str(entry.job_id), entry.seq, entry.kind, entry.facts]
    values += [_moment(entry.happened_at), _moment(entry.recorded_at), entry.person_id, entry.sent, entry.before]
    return hashlib.sha256(json.dumps(values, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


def _moment(at: datetime) -> str:
    return at.astimezone(UTC).isoformat(timespec="microseconds")


def append(entries: Sequence[Entry]) -> None:
    """Store new entries at the end of their loops' records, in this order; inside the caller's transaction.

    They get their numbers and the hashes they carry here.
    """
    heads = _heads_of({entry.loop_id for entry in entries})
    for entry in entries:
        head = heads[entry.loop_id]
        entry.seq, entry.before = head.seq + 1, head.hash
        head.seq, head.hash = entry.seq, hash_of(entry)
    Entry.objects.bulk_create(entries, batch_size=BATCH)
    LedgerHead.objects.bulk_update(heads.values(), ["seq", "hash"])


def _heads_of(loop_ids: Collection[int]) -> dict[int, LedgerHead]:
    found = {head.loop_id: head for head in LedgerHead.objects.filter(loop__in=loop_ids)}
    return found | {loop_id: _new_head(loop_id) for loop_id in loop_ids if loop_id not in found}


def _new_head(loop_id: int) -> LedgerHead:
    """Of a loop without a record yet; where only the head is gone, recording goes on and the log says so."""
    last = Entry.objects.filter(loop=loop_id).order_by("-seq").first()
    if last is None:
        return LedgerHead.objects.create(loop_id=loop_id, seq=0, hash=FIRST)
    logger.warning("the head of the record of loop %d was missing", loop_id)
    Rechained.objects.create(reason="the head was missing", loops=1, heads={str(loop_id): [0, FIRST]})
    return LedgerHead.objects.create(loop_id=loop_id, seq=last.seq, hash=hash_of(last))


def breaks(entries: Iterable[Any], heads: dict[int, tuple[int, str]]) -> Iterator[Break]:
    """Where the chain is broken, by loop and number.

    entries: all of the loops, ordered by loop and number; heads: number and hash of each loop's last entry.
    """
    left = dict(heads)
    loop_id, seq, carried = None, 0, FIRST
    for entry in entries:
        if entry.loop_id != loop_id:
            if loop_id is not None:
                yield from _at_the_end(loop_id, seq, carried, left.pop(loop_id, None))
            loop_id, seq, carried = entry.loop_id, 0, FIRST
        if entry.seq != seq + 1:
            gap = f"{seq + 1}" if entry.seq == seq + 2 else f"{seq + 1} to {entry.seq - 1}"
            yield Break(entry.loop_id, seq + 1, f"entry {gap} is missing")
        elif entry.before != carried:
            said = "was changed" if seq else "was put before the first, or the first is missing"
            yield Break(entry.loop_id, max(seq, 1), f"entry {max(seq, 1)} {said}, or entry {seq + 1} was inserted after it")
        seq, carried = entry.seq, hash_of(entry)
    if loop_id is not None:
        yield from _at_the_end(loop_id, seq, carried, left.pop(loop_id, None))
    for gone, (last, _) in left.items():
        if last:
            yield Break(gone, 1, f"entries 1 to {last} are missing")


def _at_the_end(loop_id: int, seq: int, carried: str, head: tuple[int, str] | None) -> Iterator[Break]:
    if head is None:
        yield Break(loop_id, seq, "the loop's record has no head: it was deleted")
    elif head[0] > seq:
        yield Break(loop_id, seq + 1, f"entry {seq + 1} is missing, {head[0]} was the last")
    elif head[0] < seq:
        yield Break(loop_id, head[0] + 1, f"entry {head[0] + 1} was inserted, {head[0]} was the last")
    elif head[1] != carried:
        yield Break(loop_id, seq, f"entry {seq}, the last, was changed")


def ledger_breaks() -> list[Break]:
    """Where any loop's record in the database is not what was recorded."""
    rows = Entry.objects.order_by("loop_id", "seq").only(*COLUMNS, "before").iterator(chunk_size=BATCH)
    return list(breaks(rows, {head.loop_id: (head.seq, head.hash) for head in LedgerHead.objects.all()}))


def rechain(apps: Any, reason: str) -> None:
    """Every loop's record chained again, and logged: for a migration that touches facts, with its historical models."""
    entry_model, head_model = apps.get_model("jobs", "Entry"), apps.get_model("jobs", "LedgerHead")
    heads = {head.loop_id: (head.seq, head.hash) for head in head_model.objects.all()}
    fresh: dict[int, tuple[int, str]] = {}
    batch: list[tuple[str, str]] = []
    for entry in entry_model.objects.order_by("loop_id", "seq").only(*COLUMNS).iterator(chunk_size=BATCH):
        entry.before = fresh.get(entry.loop_id, (0, FIRST))[1]
        fresh[entry.loop_id] = (entry.seq, hash_of(entry))
        batch.append((entry.before, entry.id.hex))
        if len(batch) >= BATCH:
            _write(entry_model, batch)
            batch = []
    _write(entry_model, batch)
    head_model.objects.all().delete()
    head_model.objects.bulk_create(
        head_model(loop_id=loop_id, seq=seq, hash=value) for loop_id, (seq, value) in fresh.items()
    )
    changed = [loop_id for loop_id in fresh if heads.get(loop_id) != fresh[loop_id]]
    if changed:
        was = {str(loop_id): list(heads.get(loop_id, (0, FIRST))) for loop_id in changed}
        apps.get_model("jobs", "Rechained").objects.create(reason=reason, loops=len(changed), heads=was)
        logger.warning("chained %d loops' records again: %s", len(changed), reason)


def _write(entry_model: Any, batch: list[tuple[str, str]]) -> None:
    with connection.cursor() as cursor:
        cursor.executemany(f"UPDATE {entry_model._meta.db_table} SET before = %s WHERE id = %s", batch)
