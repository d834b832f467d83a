"""Readings taken over from a file: judged line by line, stored all or none."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime
from typing import IO, Any

from django.db import transaction
from django.utils import timezone

from depots.models import Depot
from fleet.models import Loop
from instruments.actions import reading_row
from instruments.exchange import (
    COLUMNS,
    MOST_ERRORS,
    READERS,
    YES,
    Columns,
    LineRefused,
    SeenIds,
    choice,
    chunked,
    line_id,
    moment,
    number,
)
from instruments.log import log_row, readings_of
from instruments.models import Instrument, Reading
from instruments.queries import spans_of
from instruments.schemas import ImportReport, LineError
from jobs.models import FACTS, Entry, next_numbers
from jobs.queries import state_of
from people.models import Person
from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.instruments import Edge, Scale
from temper_core.instruments.kinds import FREEZES
from temper_core.job.read.facts import Instrument as CoreInstrument
from temper_core.job.read.facts import Listed, Place, Read
from temper_core.products.chemistry import Base

CHUNK = 500
MOST_KEPT = 20_000  # answers remembered while importing: readings by whole divisions repeat
PLACES, EDGES = {place.value: place for place in Place}, {edge.value: edge for edge in Edge}
LISTED = FACTS["listed"]


@dataclass(frozen=True, slots=True)
class Line:
    """A line that can be taken."""

    id: uuid.UUID
    loop_id: int
    at: datetime
    person_id: int
    read: Read


class Importer:
    """One file for one depot; what it needs of the depot is asked once."""

    def __init__(self, depot: Depot, actor: Person, columns: Columns) -> None:
        self.depot, self.actor, self.columns, self.now = depot, actor, columns, timezone.now()
        self.policy: Policy = depot.policy
        self.zone = depot.now.tzinfo
        loops = Loop.objects.filter(machine__depot=depot).select_related("machine__depot")
        self.loops = {(loop.machine.fleet_number, loop.position): loop for loop in loops}
        self.machines = {number for number, _ in self.loops}
        self.instruments: dict[str, CoreInstrument] = {
            row.name: row.core for row in Instrument.objects.filter(depot=depot).exclude(scale="")
        }
        self.people = {person.username: person.pk for person in Person.objects.filter(depot=depot)}
        self.bases: dict[int, Base | None] = {}
        self.answers: dict[Any, Reading] = {}

    def line(self, row: dict[str, str]) -> Line:
        """A line of the file. Raises LineRefused."""
        key = line_id(row, self.depot.pk)
        at = moment(row, self.zone, self.now)
        machine, position = row.get("machine", ""), row.get("loop", "1")
        loop = self.loops.get((machine, int(position) if position.isdecimal() else 0))
        if loop is None:
            if machine in self.machines:
                raise LineRefused("loop", f"{machine} has no loop {position}.")
            raise LineRefused("machine", f"No machine '{machine}' in this depot: enter it first, or correct the number.")
        instrument = self.instruments.get(row.get("instrument", ""))
        if instrument is None:
            known = ", ".join(sorted(self.instruments)) or "none"
            raise LineRefused(
                "instrument", f"No instrument '{row.get('instrument', '')}' that reads a strength: {known} are."
            )
        user = row.get("person")
        if user is not None and user not in self.people:
            raise LineRefused("person", f"'{user}' is not a user name of this depot. Write one, or leave the cell empty.")
        value, sample = number(row, "value"), number(row, "sample")
        if value is None:
            raise LineRefused("value", "The cell is empty: write what it read.")
        try:
            read = Read(
                value=self._on_scale("value", value, instrument),
                place=choice(row, "place", PLACES) or self._missing("place"),
                instrument=instrument,
                zero=self._zero(row, instrument),
                sample_c=20.0 if sample is None else _celsius(sample, self.columns.unit.get("sample", "degC")),
                after_hot_run=choice(row, "after_hot_run", YES, False),
                edge=choice(row, "edge", EDGES, Edge.SHARP),
            )
        except CoreError as error:
            raise LineRefused(COLUMN_OF.get(error.field, error.field), error.message) from None
        return Line(key, loop.pk, at, self.people[user] if user else self.actor.pk, read)

    def _missing(self, column: str) -> Any:
        raise LineRefused(column, f"The cell is empty: {column} is needed.")

    def _zero(self, row: dict[str, str], instrument: CoreInstrument) -> float | None:
        zero = number(row, "zero")
        return None if zero is None or instrument.steps else self._on_scale("zero", zero, instrument)

    def _on_scale(self, column: str, value: float, instrument: CoreInstrument) -> float:
        """A value in the scale's own unit, whatever the header says."""
        unit = self.columns.unit.get(column, "scale")
        if unit in ("", "scale"):
            return value
        if instrument.scale not in FREEZES or instrument.steps:
            message = f"{instrument.name} does not read degrees. Use the column {column} [scale]."
            raise LineRefused(column, message)
        return _celsius(value, unit)

    def base_of(self, loop_id: int) -> Base | None:
        """What the loop holds, as its ledger has it now."""
        if loop_id not in self.bases:
            loop = next(loop for loop in self.loops.values() if loop.pk == loop_id)
            self.bases[loop_id] = state_of(loop, self.policy).inside.base
        return self.bases[loop_id]

    def check(self, line: Line) -> None:
        """What the instrument cannot have shown in this loop. Raises LineRefused."""
        try:
            self.row(line, None)
        except CoreError as error:
            raise LineRefused(COLUMN_OF.get(error.field, error.field), error.message) from None

    def row(self, line: Line, entry: Entry | None) -> Reading:
        """The reading for the table; its result is worked out once for the same mark in the same fluid."""
        read, base = line.read, self.base_of(line.loop_id)
        if base is None:
            message = "The base of this loop's coolant is unknown. Enter current coolant first."
            raise CoreError("loop", message, "base_unknown")
        key = (base, read)
        known = self.answers.get(key)
        if known is None:
            if len(self.answers) >= MOST_KEPT:
                self.answers.clear()
            blank = Entry(loop_id=line.loop_id, person_id=line.person_id, happened_at=line.at)
            known = self.answers[key] = reading_row(blank, read, base, self.policy)
        if entry is None:
            return known
        values = {name: getattr(known, name) for name in COPIED}
        return Reading(
            entry=entry,
            depot_id=self.depot.pk,
            loop_id=line.loop_id,
            person_id=line.person_id,
            taken_at=line.at,
            listed=True,
            **values,
        )

    def store(self, lines: list[Line]) -> None:
        """Entry and reading of each."""
        numbers = next_numbers({line.loop_id for line in lines})
        entries = [
            Entry(
                id=line.id,
                loop_id=line.loop_id,
                seq=next(numbers[line.loop_id]),
                kind="listed",
                facts=LISTED.dump_python(Listed(line.read), mode="json"),
                happened_at=line.at,
                recorded_at=self.now,
                person_id=line.person_id,
            )
            for line in lines
        ]
        Entry.objects.bulk_create(entries)
        Reading.objects.bulk_create([self.row(line, entry) for line, entry in zip(lines, entries, strict=True)])


COLUMN_OF = {"sample_c": "sample", "": "value"}
COPIED = (
    "instrument_id", "scale", "value", "zero", "sample_c", "place", "edge", "after_hot_run", "glycol", "freeze_c",
    "at_least_c", "glycol_mass_percent", "sd_mass_percent",
)  # fmt: skip


def _celsius(value: float, unit: str) -> float:
    return round((value - 32) / 1.8, 6) if unit == "degF" else value


def import_readings(file: IO[bytes], kind: str, *, actor: Person, dry_run: bool) -> ImportReport:
    """Judge a file, and store it unless dry_run or any line is refused. Raises FileRefused for the file as a whole.

    A reading that is in the log already is left as it is; the same file twice is taken once.
    """
    depot = actor.own_depot
    report, columns = _judge(file, kind, depot, actor)
    if dry_run or report.error_count:
        return report
    stored = 0
    file.seek(0)
    columns, rows = READERS[kind](file)
    importer = Importer(depot, actor, columns)
    with transaction.atomic():
        for chunk in chunked((importer.line(row) for _, row in rows), CHUNK):
            known = _known(line.id for line in chunk)
            fresh = [line for line in chunk if line.id not in known]
            importer.store(fresh)
            stored += len(fresh)
    return report.model_copy(update={"imported": stored})


def _known(ids: Iterable[uuid.UUID]) -> set[uuid.UUID]:
    return set(Entry.objects.filter(pk__in=list(ids)).values_list("pk", flat=True))


def _judge(file: IO[bytes], kind: str, depot: Depot, actor: Person) -> tuple[ImportReport, Columns]:
    columns, rows = READERS[kind](file)
    importer, lines, known, refused = Importer(depot, actor, columns), 0, 0, 0
    errors: list[LineError] = []
    with closing(SeenIds()) as seen:
        for chunk in chunked(rows, CHUNK):
            good = []
            for at, row in chunk:
                lines += 1
                try:
                    line = importer.line(row)
                    importer.check(line)
                    if seen.again(line.id):
                        raise LineRefused("id", "The same reading is in the file twice. Remove one.")
                    good.append(line.id)
                except LineRefused as error:
                    refused += 1
                    if len(errors) < MOST_ERRORS:
                        errors.append(LineError(line=at, column=error.column, message=error.message))
            known += len(_known(good))
    report = ImportReport(
        lines=lines,
        new=lines - known - refused,
        known=known,
        imported=0,
        error_count=refused,
        errors=errors,
        ignored=columns.ignored,
    )
    return report, columns


def export_rows(depot: Depot, rows: Any = None) -> Iterator[dict[str, Any]]:
    """Readings for a file, newest first, one at a time."""
    spans, policy, zone = spans_of(depot), depot.policy, depot.now.tzinfo
    found = readings_of(depot) if rows is None else rows
    found = found.select_related("loop__machine", "instrument", "person").order_by("-taken_at", "-pk")
    for row in found.filter(instrument__isnull=False).iterator(chunk_size=1000):
        shown = log_row(row, spans.get(row.instrument_id or 0, ()), policy)
        values = {
            "id": str(row.entry_id),
            "taken_at": row.taken_at.astimezone(zone).isoformat(timespec="seconds"),
            "machine": shown.machine,
            "loop": row.loop.position,
            "place": shown.place,
            "after_hot_run": row.after_hot_run,
            "instrument": shown.instrument,
            "scale": Scale(row.scale).value if row.scale else "",
            "value": row.value,
            "zero": row.zero,
            "sample": row.sample_c,
            "edge": row.edge,
            "person": row.person.username,
            "freeze": None if row.freeze_c is None else round(row.freeze_c, 2),
            "glycol": None if row.glycol_mass_percent is None else round(row.glycol_mass_percent, 2),
            "flags": " ".join(shown.flags),
        }
        assert values.keys() == COLUMNS.keys()
        yield values
