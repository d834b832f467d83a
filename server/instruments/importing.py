"""Readings taken over from a file: judged line by line, then stored; all count or none."""

from __future__ import annotations

import pickle
import uuid
from collections.abc import Callable, Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass, field
from datetime import datetime
from tempfile import TemporaryFile
from typing import IO, Any

from django.db import transaction

from config import clock
from depots.models import Depot
from fleet.models import Loop
from instruments.actions import reading_row
from instruments.exchange import (
    AS_IT_IS,
    COLUMNS,
    MOST_ERRORS,
    READERS,
    YES,
    Columns,
    LineRefused,
    Own,
    Rows,
    SeenIds,
    choice,
    chunked,
    line_id,
    moment,
    number,
)
from instruments.log import log_row, readings_of
from instruments.models import Instrument, Reading, ReadingImport
from instruments.queries import spans_of
from instruments.schemas import ImportReport, ImportRow, Imports, LineError
from jobs.chain import append
from jobs.models import Entry
from jobs.queries import state_of
from jobs.stored import FACTS
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.instruments import Edge, Scale
from temper_core.instruments.kinds import FREEZES
from temper_core.job.read.facts import Instrument as CoreInstrument
from temper_core.job.read.facts import Listed, Place, Read
from temper_core.products.chemistry import Base

CHUNK = 1000
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
    cells: tuple[str | None, ...]


class Importer:
    """One file for one depot; what it needs of the depot is asked once."""

    def __init__(self, depot: Depot, actor: Person, columns: Columns) -> None:
        self.depot, self.actor, self.columns, self.now = depot, actor, columns, clock.now()
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
        self.reads: dict[tuple[str | None, ...], Read] = {}
        self.answers: dict[Any, tuple[dict[str, Any], dict[str, Any]]] = {}

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
        user = row.get("person")
        if user is not None and user not in self.people:
            raise LineRefused("person", f"'{user}' is not a user name of this depot. Write one, or leave the cell empty.")
        cells = tuple(map(row.get, READ_CELLS))
        read = self.reads.get(cells)
        if read is None:
            if len(self.reads) >= MOST_KEPT:
                self.reads.clear()
            read = self.reads[cells] = self._read(row)
        return Line(key, loop.pk, at, self.people[user] if user else self.actor.pk, read, cells)

    def _read(self, row: dict[str, str]) -> Read:
        instrument = self.instruments.get(row.get("instrument", ""))
        if instrument is None:
            known = ", ".join(sorted(self.instruments)) or "none"
            raise LineRefused(
                "instrument", f"No instrument '{row.get('instrument', '')}' that reads a strength: {known} are."
            )
        value, sample = number(row, "value"), number(row, "sample")
        if value is None:
            raise LineRefused("value", "The cell is empty: write what it read.")
        try:
            return Read(
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
            self.answer(line)
        except CoreError as error:
            raise LineRefused(COLUMN_OF.get(error.field, error.field), error.message) from None

    def answer(self, line: Line) -> tuple[dict[str, Any], dict[str, Any]]:
        """What the table keeps of a reading, and its entry's facts; worked out once for the same mark in the same fluid."""
        base = self.base_of(line.loop_id)
        if base is None:
            message = "The base of this loop's coolant is unknown. Enter current coolant first."
            raise CoreError("loop", message, "base_unknown")
        key = (base, line.cells)
        known = self.answers.get(key)
        if known is None:
            if len(self.answers) >= MOST_KEPT:
                self.answers.clear()
            blank = Entry(loop_id=line.loop_id, person_id=line.person_id, happened_at=line.at)
            row = reading_row(blank, line.read, base, self.policy)
            facts: dict[str, Any] = LISTED.dump_python(Listed(line.read), mode="json")
            known = self.answers[key] = ({name: getattr(row, name) for name in COPIED}, facts)
        return known

    def store(self, lines: list[Line], source: ReadingImport) -> None:
        """Entry and reading of each."""
        answers = [self.answer(line) for line in lines]
        entries = [
            Entry(
                id=line.id,
                loop_id=line.loop_id,
                kind="listed",
                facts=facts,
                happened_at=line.at,
                recorded_at=self.now,
                person_id=line.person_id,
            )
            for line, (_, facts) in zip(lines, answers, strict=True)
        ]
        append(entries)
        Reading.objects.bulk_create(
            Reading(
                entry=entry,
                depot_id=self.depot.pk,
                loop_id=line.loop_id,
                person_id=line.person_id,
                taken_at=line.at,
                listed=True,
                source=source,
                voided=True,  # until the whole file is in
                **values,
            )
            for line, entry, (values, _) in zip(lines, entries, answers, strict=True)
        )


READ_CELLS = ("instrument", "value", "zero", "sample", "place", "edge", "after_hot_run")
COLUMN_OF = {"sample_c": "sample", "": "value"}
COPIED = (
    "instrument_id", "scale", "value", "zero", "sample_c", "place", "edge", "after_hot_run", "glycol", "freeze_c",
    "at_least_c", "glycol_mass_percent", "sd_mass_percent",
)  # fmt: skip


def _celsius(value: float, unit: str) -> float:
    return round((value - 32) / 1.8, 6) if unit == "degF" else value


@dataclass(slots=True)
class Tally:
    """What a file came to so far."""

    lines: int = 0
    known: int = 0
    undone: int = 0
    refused: int = 0
    stored: int = 0
    errors: list[LineError] = field(default_factory=list)

    def refuse(self, line: int, error: LineRefused) -> None:
        """One line that cannot be taken."""
        self.refused += 1
        if len(self.errors) < MOST_ERRORS:
            self.errors.append(LineError(line=line, column=error.column, message=error.message))

    def report(self, ignored: list[str]) -> ImportReport:
        """As it is answered."""
        return ImportReport(
            lines=self.lines,
            new=self.lines - self.known - self.refused,
            known=self.known,
            undone=self.undone,
            imported=self.stored,
            error_count=self.refused,
            errors=self.errors,
            ignored=ignored,
        )


@dataclass(frozen=True)
class Given:
    """A file as it was sent: which, what somebody says of it, and whom to tell how far it is."""

    file: IO[bytes]
    kind: str
    id: uuid.UUID = field(default_factory=uuid.uuid4)
    name: str = ""
    own: Own = AS_IT_IS
    told: Callable[[int], None] = lambda lines: None


def import_readings(given: Given, *, actor: Person, dry_run: bool) -> ImportReport:
    """Judge a file, and store it unless dry_run or any line is refused. Raises FileRefused for the file as a whole.

    A reading that is in the log already is left as it is; the same file twice is taken once. Nobody else waits for it: it
    is judged without a lock, then stored in small pieces that count nowhere before the last one is in.
    """
    depot = actor.own_depot
    before = ReadingImport.objects.filter(pk=given.id).first()
    if before is not None and (before.depot_id != depot.pk or before.person_id != actor.pk):
        raise Conflict("id", "Another import has this id already. Send a new one.", "id_taken")
    columns, rows = _rows(given)
    importer = Importer(depot, actor, columns)
    if before is not None and before.lines:  # sent once more: the answer was lost
        tally = Tally(lines=before.lines, known=before.lines - before.imported, stored=before.imported)
        return tally.report(columns.ignored)
    with TemporaryFile(prefix="temper-import-") as kept:
        tally = _judged(importer, rows, kept, given.told if dry_run else lambda lines: None)
        if not dry_run and not tally.refused and tally.known < tally.lines:
            kept.seek(0)
            tally.stored = _stored(given, importer, tally.lines, kept)
    return tally.report(columns.ignored)


def _rows(given: Given) -> tuple[Columns, Rows]:
    given.file.seek(0)
    return READERS[given.kind](given.file, given.own)


def _judged(importer: Importer, rows: Rows, kept: IO[bytes], told: Callable[[int], None]) -> Tally:
    """Judge every line; nothing is stored. The lines that can be taken are kept in a file of this process."""
    tally = Tally()
    with closing(SeenIds()) as seen:
        for chunk in chunked(rows, CHUNK):
            good = []
            for at, row in chunk:
                tally.lines += 1
                try:
                    line = importer.line(row)
                    importer.check(line)
                    if seen.again(line.id):
                        raise LineRefused("id", "The same reading is in the file twice. Remove one.")
                    good.append(line)
                except LineRefused as error:
                    tally.refuse(at, error)
            pickle.dump(good, kept)
            known = _known(line.id for line in good)
            tally.known += len(known)
            tally.undone += sum(known.values())
            told(tally.lines)
    return tally


def _stored(given: Given, importer: Importer, lines: int, kept: IO[bytes]) -> int:
    """Store what is new, and let it count; how many it then has. Cut off, it goes on when it is sent again."""
    source, _ = ReadingImport.objects.get_or_create(
        pk=given.id,
        defaults={
            "depot": importer.depot,
            "person": importer.actor,
            "at": importer.now,
            "file_name": given.name[:200],
            "lines": 0,
            "imported": 0,
            "undone_at": importer.now,
        },
    )
    done = 0
    while done < lines:
        chunk: list[Line] = pickle.load(kept)  # our own file, written a moment ago
        with transaction.atomic():
            known = _known(line.id for line in chunk)
            importer.store([line for line in chunk if line.id not in known], source)
        done += len(chunk)
        given.told(done)
    with transaction.atomic():
        source.lines, source.imported, source.undone_at = lines, source.readings.count(), None
        source.save(update_fields=["lines", "imported", "undone_at"])
        source.readings.update(voided=False)
    return source.imported


def choices_of(depot: Depot) -> dict[str, list[str]]:
    """What all lines of a file can have in common, by column."""
    rows = Instrument.objects.filter(depot=depot, retired=False).exclude(scale="").order_by("name")
    return {"place": list(PLACES), "instrument": list(rows.values_list("name", flat=True))}


def _known(ids: Iterable[uuid.UUID]) -> dict[uuid.UUID, bool]:
    """Readings of a list that are there already, and whether their import was undone."""
    rows = Entry.objects.filter(pk__in=list(ids)).order_by().values_list("pk", "reading__source__undone_at")
    return {pk: at is not None for pk, at in rows}


def imports_of(depot: Depot) -> Imports:
    """Imports of a depot, newest first."""
    rows = ReadingImport.objects.filter(depot=depot).select_related("person", "undone_by")
    return Imports(
        imports=[
            ImportRow(
                id=row.pk,
                file_name=row.file_name,
                person=row.person.name,
                at=row.at,
                lines=row.lines,
                imported=row.imported,
                undone_at=row.undone_at,
                undone_by=row.undone_by.name if row.undone_by else None,
            )
            for row in rows
        ]
    )


def undo_import(source: ReadingImport, undone: bool, *, actor: Person) -> None:
    """Let a whole import count nowhere, or count again; its readings stay in the record either way. Raises Conflict."""
    if not source.lines:
        raise Conflict("id", "This import was cut off, its readings count nowhere. Send the file again.", "unfinished")
    with transaction.atomic():
        source.undone_at, source.undone_by = (clock.now(), actor) if undone else (None, None)
        source.save(update_fields=["undone_at", "undone_by"])
        source.readings.update(voided=undone)


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
