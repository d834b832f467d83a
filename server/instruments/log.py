"""The log of all readings of a depot: keyset pages, so that the first page costs the same whatever lies behind it."""

from __future__ import annotations

import base64
import binascii
import json
from datetime import datetime
from typing import Any

from django.db.models import F, Q, QuerySet, Value
from django.db.models.functions import Coalesce, Concat

from depots.models import Depot
from instruments.models import Reading
from instruments.queries import doubtful, spans_of
from instruments.schemas import LogPage, LogRow
from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.instruments import Edge, Scale
from temper_core.instruments.zero import DoubtSpan
from temper_core.job.read.facts import Place
from temper_core.job.verify.rules import Doubted, contradiction
from temper_core.science import Glycol

MOST_ROWS = 100
NO_NUMBER = 1e6  # readings without a number come last among the warm ones

# what can be sorted by: the expression, and whether it can be missing
SORTS: dict[str, tuple[str, bool]] = {
    "taken_at": ("taken_at", False),
    "machine": ("loop__machine__fleet_number", False),
    "instrument": ("instrument__name", True),
    "person": ("person__last_name", False),
    "place": ("place", False),
    "sample_c": ("sample_c", False),
    "freeze_c": ("freeze_c", True),
    "glycol_mass_percent": ("glycol_mass_percent", True),
}
TEXTS = {"machine": "loop__machine__fleet_number", "instrument": "instrument__name", "person": "person_name"}
PERSON_NAME = Concat("person__first_name", Value(" "), "person__last_name")
CHOICES = {"place": [p.value for p in Place], "edge": [e.value for e in Edge]}
NUMBERS = ("freeze_c", "glycol_mass_percent", "sample_c", "value")
COMPARED = {"=": "", "<": "__lt", "<=": "__lte", ">": "__gt", ">=": "__gte"}


def readings_of(depot: Depot) -> QuerySet[Reading]:
    """Every reading that stands."""
    return Reading.objects.filter(depot=depot, voided=False)


def filtered_readings(depot: Depot, filters: tuple[tuple[str, str, str], ...]) -> QuerySet[Reading]:
    """Readings that all conditions (field, operator, value) leave. Raises CoreError."""
    rows = readings_of(depot)
    if any(field == "person" for field, _, _ in filters):
        rows = rows.annotate(person_name=PERSON_NAME)
    for field, op, value in filters:
        rows = _filtered(depot, rows, field, op, value)
    return rows


def _filtered(depot: Depot, rows: QuerySet[Reading], field: str, op: str, value: str) -> QuerySet[Reading]:
    """One condition, as the table asks for it. Raises CoreError for what it cannot ask."""
    if field in TEXTS and op == "contains":
        return rows.filter(**{f"{TEXTS[field]}__icontains": value})
    if field in TEXTS and op == "equals":
        return rows.filter(**{f"{TEXTS[field]}__iexact": value})
    if field in CHOICES and op == "is" and value in CHOICES[field]:
        return rows.filter(**{field: value})
    if field in NUMBERS and op in COMPARED:
        return rows.filter(**{field + COMPARED[op]: _number(value)})
    if field == "taken_at" and op in ("after", "before"):
        return rows.filter(**{f"taken_at__{'gte' if op == 'after' else 'lte'}": _moment(depot, value)})
    if field in ("loop_id", "instrument_id") and op == "=" and value.isdecimal():
        return rows.filter(**{field: int(value)})
    if field == "flags" and op == "is" and value == "in_doubt":
        return rows.filter(doubtful(depot))
    if field == "flags" and op == "is" and value == "listed":
        return rows.filter(listed=True)
    raise CoreError("field", f"Readings cannot be filtered by '{field} {op} {value}'.", "unknown_filter")


def _number(value: str) -> float:
    try:
        return float(value.replace("\N{MINUS SIGN}", "-"))
    except ValueError:
        raise CoreError("value", f"'{value}' is no number: write it as -36.5.", "not_a_number") from None


def _moment(depot: Depot, value: str) -> datetime:
    try:
        at = datetime.fromisoformat(value)
    except ValueError:
        raise CoreError("value", f"'{value}' is no date: write it as 2026-11-24.", "not_a_date") from None
    return at if at.tzinfo else at.replace(tzinfo=depot.now.tzinfo)


def _cursor(raw: str) -> tuple[Any, int]:
    try:
        key, pk = json.loads(base64.urlsafe_b64decode(raw.encode()))
        return key, int(pk)
    except (ValueError, TypeError, binascii.Error):
        raise CoreError("after", "That page is not known. Start with the first page.", "unknown_mark") from None


def log_page(
    depot: Depot, *, sort: str = "-taken_at", after: str = "", size: int = 50, filters: tuple[tuple[str, str, str], ...] = ()
) -> LogPage:
    """A page of the log. sort: a column, with - for falling; filters: (field, operator, value), all of them; size: 1 to 100.

    Raises CoreError.
    """
    if not 1 <= size <= MOST_ROWS:
        raise CoreError("size", f"{size} rows: 1 to {MOST_ROWS} at a time.", "out_of_range")
    spans = spans_of(depot)
    rows, key = _sorted(filtered_readings(depot, filters), sort, after)
    found = list(rows.select_related("loop__machine", "instrument", "person")[: size + 1])
    mark = None
    if len(found) > size:
        found = found[:size]
        last = getattr(found[-1], key)
        last = last.isoformat() if isinstance(last, datetime) else last
        mark = base64.urlsafe_b64encode(json.dumps([last, found[-1].pk]).encode()).decode()
    policy = depot.policy
    return LogPage(rows=[log_row(row, spans.get(row.instrument_id or 0, ()), policy) for row in found], after=mark)


def _sorted(rows: QuerySet[Reading], sort: str, after: str) -> tuple[QuerySet[Reading], str]:
    """Rows in order, from after the mark on; and the name of what they are ordered by."""
    name, falling = sort.removeprefix("-"), sort.startswith("-")
    if name not in SORTS:
        raise CoreError("sort", f"Readings cannot be sorted by '{name}': {', '.join(SORTS)} are.", "unknown_sort")
    column, missing = SORTS[name]
    key = column
    if missing:
        text = name in ("instrument",)
        rows, key = rows.annotate(sort_key=Coalesce(F(column), Value("" if text else NO_NUMBER))), "sort_key"
    elif "__" in column:
        rows, key = rows.annotate(sort_key=F(column)), "sort_key"
    if after:
        value, pk = _cursor(after)
        if key == "taken_at":
            value = datetime.fromisoformat(value)
        past, at = ("lt", "lte") if falling else ("gt", "gte")
        # the plain bound lets an index find the place; the second condition settles ties
        rows = rows.filter(Q(**{f"{key}__{at}": value}) & (Q(**{f"{key}__{past}": value}) | Q(**{f"pk__{past}": pk})))
    sign = "-" if falling else ""
    return rows.order_by(f"{sign}{key}", f"{sign}pk"), key


def contradicted(row: Reading, policy: Policy) -> Message | None:
    """What to say where a reading is not what the ledger expected; None where it is, or nothing was expected."""
    if row.expected_percent is None or row.glycol_mass_percent is None or row.edge != Edge.SHARP.value:
        return None
    read = Doubted(row.glycol_mass_percent, row.sd_mass_percent or 0.0)
    expected = Doubted(row.expected_percent, row.expected_sd or 0.0)
    return contradiction(read, expected, Glycol(row.glycol or Glycol.ETHYLENE), policy)


def log_row(row: Reading, spans: tuple[DoubtSpan, ...], policy: Policy) -> LogRow:
    """A reading as the log shows it."""
    flags = []
    if any(span.holds(row.taken_at) for span in spans):
        flags.append("in_doubt")
    if row.edge != Edge.SHARP.value:
        flags.append(row.edge)
    if contradicted(row, policy) is not None:
        flags.append("contradicts")
    if row.place == Place.FINISHED.value and not row.after_hot_run:
        flags.append("not_run_hot")
    steps = row.at_least_c is not None or (row.instrument is not None and row.instrument.kind == "steps")
    return LogRow(
        id=row.pk,
        entry_id=row.entry_id,
        taken_at=row.taken_at,
        loop_id=row.loop_id,
        machine=row.loop.machine.fleet_number,
        loop=row.loop.name,
        place=row.place,
        instrument_id=row.instrument_id,
        instrument=row.instrument.name if row.instrument else "",
        scale=Scale(row.scale) if row.scale else None,
        steps=steps,
        value=row.value,
        zero=row.zero,
        sample_c=row.sample_c,
        edge=row.edge,
        freeze_c=row.freeze_c,
        at_least_c=row.at_least_c,
        glycol_mass_percent=row.glycol_mass_percent,
        person=row.person.name,
        listed=row.listed,
        flags=flags,
    )
