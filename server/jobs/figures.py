"""What a depot reports, by month and machine; as data and as CSV."""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from datetime import date, datetime, timedelta
from functools import partial

from config.shapes import Answer
from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from jobs.models import Entry, cores_of
from jobs.queries import guarded
from temper_core.views.figures import FIGURE_UNITS, Figure, FigureKind, loop_figures
from temper_core.views.names import NAMES

DEFAULT_MONTHS, MOST_MONTHS = 12, 60
KINDS = ("job_opened", "paused", "resumed", "poured", "strength_adjusted", "waste_kept", "signed_off", "voided", "edited")
LONGEST_JOB = timedelta(days=365)  # a job begun before that counts its hours from there


class FigureRow(Answer):
    """One sum: month (its first day), machine, what it counts, of which kind (name and code), unit, value."""

    month: date
    fleet_number: str
    kind: FigureKind
    of: str
    name: str
    unit: str
    value: float


class Figures(Answer):
    """Every sum from a month on; not_counted: machines whose record cannot be calculated."""

    since: date
    rows: list[FigureRow]
    not_counted: list[str]


def _first_month(now: datetime, months: int) -> date:
    count = now.year * 12 + now.month - 1 - (months - 1)
    return date(count // 12, count % 12 + 1, 1)


def figures_of(depot: Depot, months: int = DEFAULT_MONTHS) -> Figures:
    """Sums of the last months, the present one with them; three queries."""
    now = depot.now
    since = _first_month(now, months)
    start = datetime.combine(since, datetime.min.time(), now.tzinfo)
    loops = {loop.pk: loop for loop in loops_of(depot)}
    entries: dict[int, list[Entry]] = defaultdict(list)
    rows = Entry.objects.filter(loop__in=list(loops), kind__in=KINDS, happened_at__gte=start - LONGEST_JOB)
    for row in rows.select_related("person").order_by("happened_at", "seq"):
        entries[row.loop_id].append(row)
    sums: dict[tuple[date, str, FigureKind, str], float] = defaultdict(float)
    wrong: list[str] = []
    for loop_id, found in entries.items():
        loop: Loop = loops[loop_id]
        counted: list[Figure] | None = guarded(loop, partial(_counted, found, start))
        if counted is None:
            wrong.append(loop.machine.fleet_number)
            continue
        for one in counted:
            sums[one.month, loop.machine.fleet_number, one.kind, one.of] += one.value
    return Figures(
        since=since,
        rows=[
            FigureRow(
                month=month,
                fleet_number=number,
                kind=kind,
                of=of,
                name=_name(kind, of),
                unit=FIGURE_UNITS[kind],
                value=round(value, 3),
            )
            for (month, number, kind, of), value in sorted(sums.items())
        ],
        not_counted=sorted(set(wrong)),
    )


def _counted(entries: list[Entry], start: datetime) -> list[Figure]:
    assert start.tzinfo is not None
    return loop_figures(cores_of(entries), start, start.tzinfo)


def _name(kind: FigureKind, of: str) -> str:
    names = {FigureKind.WASTE: "waste", FigureKind.JOBS: "proof"}.get(kind)
    return NAMES[names].get(of, of) if names else of


def figures_csv(figures: Figures) -> str:
    """One line a figure, UTF-8 with a header; columns: month, machine, what, of, unit, value."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(["month", "machine", "what", "of", "unit", "value"])
    for row in figures.rows:
        writer.writerow(
            [f"{row.month:%Y-%m}", _text(row.fleet_number), row.kind.value, _text(row.name), row.unit, row.value]
        )
    return out.getvalue()


def _text(said: str) -> str:
    """A text that no spreadsheet takes for a formula."""
    return f"'{said}" if said[:1] in ("=", "+", "-", "@", "\t", "\r") else said
