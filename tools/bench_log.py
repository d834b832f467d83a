"""Measures of the log of readings, as ratios within one run; called by tools/bench.py with Django set up, the demo loaded.

- 100,000 readings imported by CSV (judged, then stored) against plain `csv` parsing plus bulk insert of the same rows, entry
  and reading: aim at most 2 times; the same file again no slower; the memory it needs at most with 100,000 lines against
  10,000: aim flat (at most 1.5).
- the log's first page with 100,000 readings against 5,000: aim at most 1.3 times.
"""

from __future__ import annotations

import csv
import itertools
import random
import statistics
import time
import tracemalloc
import uuid
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory

from django.db import transaction
from django.utils import timezone

from depots.models import Depot
from instruments.importing import COPIED, Given, import_readings
from instruments.log import log_page
from instruments.models import Instrument, Reading
from jobs.chain import append
from jobs.models import Entry
from people.models import Person

MANY, FEW = 100_000, 5_000
HEAD = ["taken_at [ISO 8601]", "machine", "place", "instrument", "value [scale]", "zero [scale]", "sample [degC]"]
FLEET = ("T-21", "G-07", "B-14", "T-22", "S-12", "D-17")


def write(path: Path, lines: int, seed: int) -> None:
    """A season's list: whole and half divisions, a zero of the week, room temperatures."""
    rng, start = random.Random(seed), timezone.now() - timedelta(days=900)
    with path.open("w", newline="") as file:
        out = csv.writer(file)
        out.writerow(HEAD)
        for n in range(lines):
            at = (start + timedelta(minutes=12 * n)).isoformat(timespec="minutes")
            value, zero = -rng.randrange(40, 100) / 2, -rng.randrange(0, 5) / 10
            out.writerow([at, rng.choice(FLEET), "as_found", "Glass 3", value, zero, rng.randrange(12, 29)])


def plainly(path: Path) -> None:
    """What any import has to do: parse the lines, insert entry and reading of each; nothing judged, nothing worked out."""
    like = Reading.objects.filter(listed=True).select_related("entry")[0]
    values = {name: getattr(like, name) for name in COPIED}
    with path.open(newline="") as file, transaction.atomic():
        rows, numbers = csv.reader(file), itertools.count(1_000_000)
        next(rows)
        chunk: list[list[str]] = []
        for row in rows:
            chunk.append(row)
            if len(chunk) == 500:
                _insert(chunk, like, values, numbers)
                chunk = []
        if chunk:
            _insert(chunk, like, values, numbers)


def _insert(chunk: list[list[str]], like: Reading, values: dict[str, object], numbers: Iterator[int]) -> None:
    now = timezone.now()
    entries = [
        Entry(
            id=uuid.uuid4(),
            loop_id=like.loop_id,
            seq=next(numbers),
            kind="listed",
            facts=like.entry.facts,
            happened_at=datetime.fromisoformat(row[0]),
            recorded_at=now,
            person_id=like.person_id,
        )
        for row in chunk
    ]
    Entry.objects.bulk_create(entries)
    Reading.objects.bulk_create(
        Reading(
            entry=entry,
            depot_id=like.depot_id,
            loop_id=like.loop_id,
            person_id=like.person_id,
            taken_at=entry.happened_at,
            listed=True,
            **values,
        )
        for entry in entries
    )


def timed(call: Callable[[], object]) -> float:
    """Seconds it took."""
    started = time.perf_counter()
    call()
    return time.perf_counter() - started


def peak(path: Path, actor: Person) -> float:
    """Most memory that an import held at once [MB], the file judged only."""
    tracemalloc.start()
    with path.open("rb") as file:
        import_readings(Given(file, "csv"), actor=actor, dry_run=True)
    found = tracemalloc.get_traced_memory()[1] / 1e6
    tracemalloc.stop()
    return found


def bench_import() -> None:
    """The import against the least that any import does."""
    actor = Person.objects.get(username="maud")
    with TemporaryDirectory() as folder:
        ten, hundred = Path(folder, "ten.csv"), Path(folder, "hundred.csv")
        write(ten, MANY // 10, 1)
        write(hundred, MANY, 2)
        plain = timed(lambda: plainly(hundred))
        Entry.objects.filter(kind="listed", reading__taken_at__lt=timezone.now() - timedelta(days=60)).delete()

        def ours(new: int) -> None:
            with hundred.open("rb") as file:
                report = import_readings(Given(file, "csv"), actor=actor, dry_run=False)
            if report.imported != new:
                raise SystemExit(f"bench: {report.imported} of {MANY} imported: {report.errors[:3]}")

        full = timed(lambda: ours(MANY))
        again = timed(lambda: ours(0))
        few, many = peak(ten, actor), peak(hundred, actor)
    print(f"import of {MANY} readings: {full / plain:.2f} times plain csv and bulk insert (aim: at most 2)")
    print(f"the same {MANY} lines again: {again / full:.2f} times that (aim: at most 1)")
    print(f"  {full:.0f} s against {plain:.0f} s")
    print(f"  memory at most: {many / few:.2f} times that of {MANY // 10} lines (aim: flat), {many:.1f} MB")


def bench_first_page() -> None:
    """The first page behind 100,000 readings against one behind 5,000."""
    full = Depot.objects.get(people__username="maud")
    short = Depot.objects.create(name="Short", coldest_c=-30)
    glass = Instrument.objects.create(depot=short, name="Glass", scale="freeze_ethylene")
    rows = list(Reading.objects.filter(depot=full, listed=True).select_related("entry")[:FEW])
    entries = [
        Entry(id=uuid.uuid4(), loop_id=r.loop_id, kind="listed", facts=r.entry.facts, happened_at=r.taken_at,
              recorded_at=r.taken_at, person_id=r.person_id) for r in rows
    ]  # fmt: skip
    append(entries)
    for row, entry in zip(rows, entries, strict=True):
        row.pk, row.entry, row.depot, row.instrument = None, entry, short, glass
    Reading.objects.bulk_create(rows)
    times: list[list[float]] = [[], []]
    for _ in range(40):
        for depot, kept in zip((short, full), times, strict=True):
            kept.append(timed(partial(log_page, depot)))
    few, many = (statistics.median(kept) for kept in times)
    count = Reading.objects.filter(depot=full).count()
    print(f"log, first page behind {count} readings: {many / few:.2f} times that behind {FEW} (aim: at most 1.3)")
    print(f"  the page itself: {few * 1e3:.1f} ms")
