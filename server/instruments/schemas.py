"""What the instruments API takes and gives."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body, Number
from temper_core.basis.message import Message
from temper_core.instruments import EyepieceMark, InstrumentKind, Scale
from temper_core.instruments.agreement import Agreement, Pair
from temper_core.instruments.zero import ZeroState


class ScaleOut(Answer):
    """A scale: its unit, where water stands, what can be typed, its usual division, and its marks through an eyepiece."""

    scale: Scale
    unit: str
    water: float
    low: float
    high: float
    first: float
    last: float
    zero_reach: float
    resolution: float
    marks: tuple[EyepieceMark, ...]


class KindOut(Answer):
    """A kind of instrument: its name, the scales it can have, whether water checks it, how it is used."""

    kind: InstrumentKind
    name: str
    scales: list[Scale]
    zeroed: bool
    how: str


class InstrumentOut(Answer):
    """An instrument; resolution: one division; zero as water last read, both in the scale's unit.

    state: its zero by its checks, None where water checks nothing; in_doubt: readings from between a good zero and the check
    that found it off. by_itself: a driver reads it. simulated: what lies on it can be set here.
    """

    id: int
    uuid: UUID
    name: str
    kind: InstrumentKind
    scale: Scale | None
    resolution: float
    compensated: bool
    compensation_low_c: float | None
    compensation_high_c: float | None
    steps_c: list[float]
    bands: dict[str, list[float]]
    address: str
    by_itself: bool
    retired: bool
    edited_at: datetime
    zero: float
    zeroed_at: datetime | None
    bias_percent: float
    bias_note: str
    state: ZeroState | None
    in_doubt: int


class Instruments(Answer):
    """The depot's instruments, and what is known of kinds and scales."""

    instruments: list[InstrumentOut]
    kinds: list[KindOut]
    scales: list[ScaleOut]


class ZeroIn(Body):
    """What demineralised water reads now, in the scale's unit; adjusted: it was then set to zero. id is the client's."""

    id: UUID | None = None
    zero: Number
    water_c: Number = 20.0
    adjusted: bool = False


class BiasIn(Body):
    """Correct an instrument by what paired readings with another one taught. against: the other one; null: take it back."""

    against_id: int | None


class InstrumentIn(Body):
    """An instrument as it is engraved. seen: edited_at as it was; id is the client's. resolution null: the usual one.

    steps_c: a step tester's table, the freeze point from which on so many steps show. bands: a strip's values by figure.
    """

    id: UUID | None = None
    seen: datetime | None = None
    name: Annotated[str, Field(max_length=40)]
    kind: InstrumentKind
    scale: Scale | None = None
    resolution: Number | None = None
    compensated: bool = True
    compensation_low_c: Number | None = None
    compensation_high_c: Number | None = None
    steps_c: Annotated[list[Number], Field(max_length=12)] = []
    bands: dict[str, list[Number]] = {}
    address: Annotated[str, Field(max_length=60)] = ""
    retired: bool = False


class TakeIn(Body):
    """One press of its key. id is the client's: asked again after a dropped line, the same reading comes back."""

    id: UUID


class Taken(Answer):
    """What an instrument read by itself, in its scale's unit; nothing is recorded by it."""

    id: UUID
    value: float
    sample_c: float


class SampleIn(Body):
    """What lies on a simulated instrument: glycol and % by mass, at sample_c; none: nothing. drop: its next line drops."""

    glycol_percent: Annotated[Number, Field(ge=0, le=60)] = 0.0
    propylene: bool = False
    sample_c: Annotated[Number, Field(ge=0, le=60)] = 20.0
    noise: Annotated[Number, Field(ge=0, le=0.01)] = 0.0
    zero_error: Annotated[Number, Field(ge=-0.02, le=0.02)] = 0.0
    none: bool = False
    drop: bool = False


class LogRow(Answer):
    """One reading of the readings. value and zero in the unit of scale; flags: why it may not be what it says, in codes."""

    id: int
    entry_id: UUID
    taken_at: datetime
    loop_id: int
    machine: str
    loop: str
    place: str
    instrument_id: int | None
    instrument: str
    scale: Scale | None
    steps: bool
    value: float
    zero: float | None
    sample_c: float
    edge: str
    freeze_c: float | None
    at_least_c: float | None
    glycol_mass_percent: float | None
    person: str
    listed: bool
    flags: list[str]


class LogPage(Answer):
    """A page of the readings. after: ask with it for the next page, None on the last."""

    rows: list[LogRow]
    after: str | None


class Compared(Answer):
    """Two instruments on the same samples; agreement None with too few."""

    first: str
    second: str
    pairs: list[Pair]
    agreement: Agreement | None


class LogFlag(Answer):
    """What needs attention in the readings. code: falling, contradicts or disagrees; loop_id where it is a loop's."""

    code: str
    about: str
    loop_id: int | None
    at: datetime | None
    said: Message


class Watch(Answer):
    """What the readings of the depot say together: flags, the loudest first, and how instruments agree."""

    flags: list[LogFlag]
    compared: list[Compared]


class LineError(Answer):
    """A line that cannot be taken: its number in the file (the header is 1), the column, and what to do."""

    line: int
    column: str
    message: str


class FileColumn(Answer):
    """A column of somebody's file. first: what stands in its first line; guess: the column here it seems to be, or ""."""

    head: str
    first: str
    guess: str


class TakenColumn(Answer):
    """A column that is taken in, under one of its headers (with its units). needed: without it nothing can be imported.

    choices: where a file does not have it, all its lines can have one of these.
    """

    heads: list[str]
    needed: bool
    what: str
    choices: list[str]


class FileColumns(Answer):
    """The columns of a file, and those that are taken in."""

    file: list[FileColumn]
    taken: list[TakenColumn]


class ImportRow(Answer):
    """An import. undone_at: since then its readings count nowhere. lines 0: it was cut off, and counts nowhere."""

    id: UUID
    file_name: str
    person: str
    at: datetime
    lines: int
    imported: int
    undone_at: datetime | None
    undone_by: str | None


class Imports(Answer):
    """Imports of the depot, newest first."""

    imports: list[ImportRow]


class ImportUndone(Body):
    """Whether its readings are to count."""

    undone: bool


class ImportProgress(Answer):
    """How far an import is, 0 to 1; null: nothing is known of it (any more)."""

    done: float | None


class ImportReport(Answer):
    """What a file of readings came to. new: lines not among the readings yet; known: there already; imported: really stored.

    undone: of the known, those whose import was undone.

    errors: the first of them; error_count: all. ignored: columns that are not taken in.
    """

    lines: int
    new: int
    known: int
    undone: int
    imported: int
    error_count: int
    errors: list[LineError]
    ignored: list[str]
