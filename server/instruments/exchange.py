"""Readings out and in: CSV and JSON with documented columns (docs/readings.md), units in the header.

A file is taken whole or not at all. It is read a line at a time, so memory does not grow with the file.
"""

from __future__ import annotations

import csv
import io
import json
import re
import sqlite3
import uuid
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import IO, Any

from temper_core.basis.errors import CoreError

# name in the file -> (its unit in the header, taken in, what it is)
COLUMNS: dict[str, tuple[str, bool, str]] = {
    "id": ("", True, "the reading's own id (UUID); left out, one is made from the line, so that it is never taken twice"),
    "taken_at": ("ISO 8601", True, "when; without a time zone, by the depot's clock"),
    "machine": ("", True, "fleet number"),
    "loop": ("", True, "number of the loop on its machine; left out: 1"),
    "place": ("", True, "as_found, rinse or finished"),
    "after_hot_run": ("", True, "yes or no; left out: no"),
    "instrument": ("", True, "its name in the depot"),
    "scale": ("", False, "the scale that value and zero are on"),
    "value": ("scale", True, "in the unit of the instrument's scale, or of a step tester the steps; or in degF"),
    "zero": ("scale", True, "what water read on it; left out: none was taken"),
    "sample": ("degC", True, "temperature of the sample, in degC or degF; left out: 20 degC"),
    "edge": ("", True, "sharp, soft or two_lines; left out: sharp"),
    "person": ("", True, "who read it, by user name; left out: who imports"),
    "freeze": ("degC", False, "the result"),
    "glycol": ("% by mass", False, "the result"),
    "flags": ("", False, "why it may not be what it says"),
}
REQUIRED = ("taken_at", "machine", "place", "instrument", "value")
UNITS = {
    "taken_at": ("", "ISO 8601"),
    "value": ("scale", "degC", "degF"),
    "zero": ("scale", "degC", "degF"),
    "sample": ("degC", "degF"),
}
HEADER = re.compile(r"\s*([a-z_]+)\s*(?:\[([^\]]*)\])?\s*$")
RISKY = ("=", "+", "-", "@", "\t", "\r")  # a table program takes what begins so for a formula
MOST_ERRORS = 200
FIRST_YEAR = 1970  # a clock that was never set begins here; nobody has readings from before
MOST_LINE = 4000
SPACE = uuid.UUID("7f6f3f7e-5f0a-4b56-9f8e-3a6a8b3e52d1")  # of ids made from a line

Row = dict[str, Any]
Rows = Iterator[tuple[int, dict[str, str]]]  # line number and cells by column


@dataclass(frozen=True)
class Own:
    """What somebody says of their file: what its headers are here ("" leaves one out), and what all its lines have."""

    matched: Mapping[str, str] = field(default_factory=dict)
    always: Mapping[str, str] = field(default_factory=dict)


AS_IT_IS = Own()
ALWAYS = ("place", "instrument")  # what a whole list can have in common


class FileRefused(CoreError):
    """The file as a whole cannot be read: its header, its encoding, its format."""


def header_of(name: str) -> str:
    """A column as the header has it, with its unit."""
    unit = COLUMNS[name][0]
    return f"{name} [{unit}]" if unit else name


def guarded(text: str) -> str:
    """Text that no table program takes for a formula."""
    return f"'{text}" if text.startswith(RISKY) else text


def unguarded(text: str) -> str:
    """The same without its guard."""
    return text[1:] if text.startswith("'") and text[1:].startswith(RISKY) else text


def write_csv(rows: Iterable[Row]) -> Iterator[str]:
    """CSV line by line, the header first; rows hold one value a column, None where there is none."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow([header_of(name) for name in COLUMNS])
    for row in rows:
        writer.writerow([_cell(row.get(name)) for name in COLUMNS])
        if buffer.tell() > 16_384:
            yield buffer.getvalue()
            buffer.seek(0)
            buffer.truncate()
    yield buffer.getvalue()


def template_csv() -> str:
    """The header of a file of readings, to be filled in."""
    buffer = io.StringIO()
    csv.writer(buffer).writerow([header_of(name) for name, (_, taken, _) in COLUMNS.items() if taken and name != "id"])
    return buffer.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return guarded(value) if isinstance(value, str) else repr(value) if isinstance(value, float) else str(value)


def _plain(value: Any) -> str:
    """A value of JSON as a cell would have it."""
    return ("yes" if value else "no") if isinstance(value, bool) else str(value).strip()


def write_json(rows: Iterable[Row]) -> Iterator[str]:
    """JSON, a reading a line: {"readings": [...]}, the keys as the CSV's header has them."""
    yield '{"format": "temper readings", "version": 1, "readings": ['
    before = "\n"
    for row in rows:
        yield before + json.dumps({header_of(name): row.get(name) for name in COLUMNS})
        before = ",\n"
    yield "\n]}\n"


@dataclass(slots=True)
class Columns:
    """What a header says: for each column taken in, its key in the file and its unit; and what is left out.

    always: what stands in a column that the file does not have, for all lines.
    """

    key: dict[str, Any] = field(default_factory=dict)
    unit: dict[str, str] = field(default_factory=dict)
    always: dict[str, str] = field(default_factory=dict)
    ignored: list[str] = field(default_factory=list)


# what people call them, for guessing: first word that is found in the header, in small letters
CALLED = {
    "taken_at": ("taken", "date", "time", "when", "datum", "tag", "zeit"),
    "machine": ("machine", "fleet", "vehicle", "unit", "fahrzeug", "maschine"),
    "loop": ("loop", "circuit", "kreis"),
    "place": ("place", "occasion", "stage", "where"),
    "after_hot_run": ("hot",),
    "instrument": ("instrument", "meter", "device", "refractometer", "gerät"),
    "zero": ("zero", "null"),
    "sample": ("sample", "fluid temp", "temperature", "temp"),
    "value": ("value", "reading", "freeze", "frost", "result", "wert"),
    "edge": ("edge", "line"),
    "person": ("person", "by", "who", "technician", "user"),
    "id": ("uuid", "id"),
}
IN_DEGREES = {"\N{DEGREE SIGN}c": "degC", "degc": "degC", "celsius": "degC", "\N{DEGREE SIGN}f": "degF", "degf": "degF"}


def heads_of(name: str) -> list[str]:
    """Headers under which a column is taken in, the usual one first."""
    units = [unit for unit in UNITS.get(name, ("",)) if unit]
    return [f"{name} [{unit}]" for unit in units] or [name]


def guessed(heads: list[str]) -> list[str]:
    """For each header of a file the header here that it seems to be, "" where none; no column is guessed twice."""
    found: list[str] = []
    used: set[str] = set()
    for head in heads:
        guess = _guess(head, used)
        found.append(guess)
        used.add(guess.split(" [")[0])
    return found


def _guess(head: str, used: set[str]) -> str:
    match = HEADER.match(head)
    if match and match[1] in COLUMNS and COLUMNS[match[1]][1] and match[1] not in used:
        unit = (match[2] or "").strip()
        return f"{match[1]} [{unit}]" if f"{match[1]} [{unit}]" in heads_of(match[1]) else heads_of(match[1])[0]
    said = head.strip().lower()
    words = set(re.findall(r"\w+", said))
    for name, calls in CALLED.items():
        if name not in used and any(call in words or (len(call) > 4 and call in said) for call in calls):
            unit = next((unit for sign, unit in IN_DEGREES.items() if sign in said), "")
            return f"{name} [{unit}]" if f"{name} [{unit}]" in heads_of(name) else heads_of(name)[0]
    return ""


def columns_of(names: Iterable[tuple[Any, str]], own: Own) -> Columns:
    """Columns from (key, header), as a file's own headers are here; raises FileRefused for a header that cannot be."""
    found = Columns(always=dict(own.always))
    strange = sorted(set(own.always) - set(ALWAYS))
    if strange:
        raise FileRefused(strange[0], f"'{strange[0]}' cannot be the same for all lines: {', '.join(ALWAYS)} can.", "always")
    for key, head in names:
        said = head.strip()
        head = own.matched.get(said, head)
        match = HEADER.match(head)
        name = match[1] if match else ""
        if name not in COLUMNS or not COLUMNS[name][1]:
            found.ignored.append(said)
            continue
        if name in found.key:
            raise FileRefused(name, f"The column {name} is there twice: leave one out.", "twice")
        unit = (match[2] or "").strip() if match else ""
        allowed = UNITS.get(name, ("",))
        if unit not in allowed:
            heads = " or ".join(f"{name} [{u}]" for u in allowed if u) or name
            raise FileRefused(name, f"'{head.strip()}': the header says the unit, as {heads}.", "unit")
        found.key[name], found.unit[name] = key, unit
    missing = [header_of(name) for name in REQUIRED if name not in found.key and name not in found.always]
    if missing:
        raise FileRefused(missing[0], f"These columns are missing: {', '.join(missing)}.", "missing")
    return found


def _first_lines(file: IO[bytes]) -> tuple[str, list[str], list[str]]:
    """Delimiter, header and first line of a CSV; the file stays open: it is read again. Raises FileRefused."""
    file.seek(0)
    text = io.TextIOWrapper(file, encoding="utf-8-sig", newline="")
    try:
        first, second = text.readline(MOST_LINE), text.readline(MOST_LINE)
    except UnicodeDecodeError:
        raise FileRefused("file", "The file is not UTF-8 text: save it as CSV, UTF-8.", "not_text") from None
    finally:
        text.detach()
    delimiter = max(",;\t", key=first.count)
    heads, cells = (next(csv.reader([line], delimiter=delimiter), []) for line in (first, second))
    return delimiter, heads, cells


def columns_in(file: IO[bytes], kind: str) -> list[tuple[str, str]]:
    """Header of each column of a file, and what stands in its first line. Raises FileRefused."""
    if kind == "csv":
        _, heads, cells = _first_lines(file)
        return [(head.strip(), cells[n].strip() if n < len(cells) else "") for n, head in enumerate(heads)]
    readings = _readings_in(file)
    first = readings[0] if readings else {}
    return [(head, _plain(first.get(head, ""))) for head in dict.fromkeys(key for row in readings for key in row)]


def read_csv(file: IO[bytes], own: Own = AS_IT_IS) -> tuple[Columns, Rows]:
    """Columns, and (line number, row) of a CSV with commas, semicolons or tabs. Raises FileRefused."""
    delimiter, heads, _ = _first_lines(file)
    columns = columns_of(enumerate(heads), own)
    file.seek(0)

    def rows() -> Iterator[tuple[int, dict[str, str]]]:
        text = io.TextIOWrapper(file, encoding="utf-8-sig", newline="")
        reader = csv.reader(text, delimiter=delimiter)
        keys = list(columns.key.items())
        try:
            next(reader, None)
            for cells in reader:
                if any(cells):
                    width = len(cells)
                    row = {n: unguarded(cells[i].strip()) for n, i in keys if i < width}
                    yield reader.line_num, columns.always | {n: cell for n, cell in row.items() if cell}
        except UnicodeDecodeError:
            raise FileRefused("file", "The file is not UTF-8 text: save it as CSV, UTF-8.", "not_text") from None
        except csv.Error as error:
            message = f"Line {reader.line_num} is no CSV ({error}): check its quotes."
            raise FileRefused("file", message, "not_csv") from None
        finally:
            text.detach()

    return columns, rows()


def read_json(file: IO[bytes], own: Own = AS_IT_IS) -> tuple[Columns, Rows]:
    """The same of JSON as write_json gives it; a reading counts as a line. Raises FileRefused."""
    readings = _readings_in(file)
    columns = columns_of(((head, head) for head in dict.fromkeys(key for row in readings for key in row)), own)

    def rows() -> Iterator[tuple[int, dict[str, str]]]:
        for number, row in enumerate(readings, 2):
            yield (
                number,
                columns.always | {n: _plain(row[key]) for n, key in columns.key.items() if row.get(key) not in (None, "")},
            )

    return columns, rows()


def _readings_in(file: IO[bytes]) -> list[dict[str, Any]]:
    file.seek(0)
    try:
        readings = json.load(file)["readings"]
        if not all(isinstance(row, dict) for row in readings):
            raise TypeError
    except (ValueError, KeyError, TypeError, RecursionError):
        message = 'That is no JSON of readings: {"readings": [{...}]}, the keys as in the CSV header.'
        raise FileRefused("file", message, "not_json") from None
    found: list[dict[str, Any]] = readings
    return found


class LineRefused(Exception):
    """A line that cannot be taken: its column, and what to do."""

    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column, self.message = column, message


def number(row: dict[str, str], column: str) -> float | None:
    """A number of a line; None where the cell is empty. Raises LineRefused."""
    text = row.get(column)
    if text is None:
        return None
    try:
        return float(text.replace("\N{MINUS SIGN}", "-"))
    except ValueError:
        hint = "write it with a point" if re.fullmatch(r"[-+]?\d+,\d+", text) else "a number is needed"
        raise LineRefused(column, f"'{text}': {hint}, as in -36.5.") from None


def choice(row: dict[str, str], column: str, allowed: dict[str, Any], default: Any = None) -> Any:
    """One of several words; the default where the cell is empty. Raises LineRefused."""
    text = row.get(column)
    if text is None:
        return default
    if text not in allowed:
        raise LineRefused(column, f"'{text}': {', '.join(allowed)} are allowed.")
    return allowed[text]


YES = {"yes": True, "no": False, "true": True, "false": False, "1": True, "0": False}


def moment(row: dict[str, str], zone: Any, now: datetime) -> datetime:
    """When a line was read; without a zone by the depot's clock. Raises LineRefused."""
    text = row.get("taken_at", "")
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        raise LineRefused("taken_at", f"'{text}' is no date and time: write it as 2026-11-24T14:05.") from None
    if at.year < FIRST_YEAR:
        raise LineRefused("taken_at", f"{text} is before {FIRST_YEAR}. Check date and clock.")
    at = at if at.tzinfo else at.replace(tzinfo=zone)
    if at > now:
        raise LineRefused("taken_at", f"{text} is in the future. Check date and clock.")
    return at


def line_id(row: dict[str, str], depot_id: int) -> uuid.UUID:
    """The line's own id, or one made from what it says. Raises LineRefused."""
    text = row.get("id")
    if text is None:
        said = "|".join(f"{name}={row[name]}" for name in sorted(row))
        return uuid.uuid5(SPACE, f"{depot_id}|{said}")
    try:
        return uuid.UUID(text)
    except ValueError:
        raise LineRefused("id", f"'{text}' is no UUID: leave the cell empty, and one is made.") from None


class SeenIds:
    """Ids met so far in a file, kept outside memory."""

    def __init__(self) -> None:
        self._kept = sqlite3.connect("")  # a private file that goes with the connection
        self._kept.execute("CREATE TABLE seen (id BLOB PRIMARY KEY) WITHOUT ROWID")

    def again(self, key: uuid.UUID) -> bool:
        """Whether it was met before."""
        return self._kept.execute("INSERT OR IGNORE INTO seen VALUES (?)", (key.bytes,)).rowcount == 0

    def close(self) -> None:
        """Let it go."""
        self._kept.close()


def chunked(rows: Iterable[Any], size: int) -> Iterator[list[Any]]:
    """Rows in lists of a size."""
    chunk: list[Any] = []
    for row in rows:
        chunk.append(row)
        if len(chunk) == size:
            yield chunk
            chunk = []
    if chunk:
        yield chunk


Reader = Callable[[IO[bytes], Own], tuple[Columns, Rows]]
READERS: dict[str, Reader] = {"csv": read_csv, "json": read_json}
