"""The log of readings: pages, files out and in, and what the readings say together."""

from __future__ import annotations

import json
import uuid
from functools import partial
from typing import Any

from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.exceptions import NotFound
from rest_framework.parsers import JSONParser, MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.refusals import Problem
from instruments.exchange import (
    COLUMNS,
    READERS,
    REQUIRED,
    FileRefused,
    Own,
    columns_in,
    guessed,
    heads_of,
    template_csv,
    write_csv,
    write_json,
)
from instruments.importing import Given, choices_of, export_rows, import_readings, imports_of, undo_import
from instruments.log import filtered_readings, log_page
from instruments.models import ReadingImport
from instruments.progress import count_lines, progress_of, tell_progress
from instruments.schemas import (
    FileColumn,
    FileColumns,
    ImportProgress,
    ImportReport,
    Imports,
    ImportUndone,
    LogPage,
    TakenColumn,
    Watch,
)
from instruments.watch import watch_of
from people.permissions import IsLead, IsOfADepot, person_of
from temper_core.basis.errors import CoreError

REFUSALS = {400: Problem, 401: Problem, 403: Problem}
MOST_BYTES = {"csv": 200_000_000, "json": 20_000_000}  # JSON is held whole in memory while it is read
Filters = tuple[tuple[str, str, str], ...]
_FILTERS = OpenApiParameter(
    "where", str, many=True, description="a condition as field~operator~value; given several times, all of them hold"
)


def _filters(request: Request) -> Filters:
    found = []
    for raw in request.query_params.getlist("where"):
        parts = raw.split("~", 2)
        if len(parts) != 3:
            raise CoreError("where", f"'{raw}': a condition is field~operator~value.", "unknown_filter")
        found.append((parts[0], parts[1], parts[2]))
    return tuple(found)


class LogView(APIView):
    """The log."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="readings_list",
        parameters=[
            _FILTERS,
            OpenApiParameter("sort", str, description="a column; with - falling (-taken_at)"),
            OpenApiParameter("after", str, description="the mark of the page before"),
            OpenApiParameter("size", int, description="rows a page, 1 to 100 (50)"),
        ],
        responses={200: LogPage, **REFUSALS},
    )
    def get(self, request: Request) -> Response:
        """A page of all readings of the depot."""
        given = request.query_params
        size = given.get("size", "50")
        if not size.isdecimal():
            raise CoreError("size", f"'{size}' rows: a whole number is needed.", "not_a_number")
        page = log_page(
            person_of(request).own_depot,
            sort=given.get("sort", "-taken_at"),
            after=given.get("after", ""),
            size=int(size),
            filters=_filters(request),
        )
        return answer(page)


class WatchView(APIView):
    """What the readings say together."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="readings_watch", responses={200: Watch, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """Loops that lose protection, readings that differ from the litres, instruments that disagree."""
        return answer(watch_of(person_of(request).own_depot))


class ExportView(APIView):
    """The log as a file."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="readings_export",
        parameters=[_FILTERS, OpenApiParameter("kind", str, enum=["csv", "json"], location="path")],
        responses={(200, "text/csv"): OpenApiTypes.STR, **REFUSALS},
    )
    def get(self, request: Request, kind: str) -> StreamingHttpResponse:
        """All readings that the conditions leave, as CSV or JSON."""
        if kind not in READERS:
            raise NotFound
        depot = person_of(request).own_depot
        rows = export_rows(depot, filtered_readings(depot, _filters(request)))
        writer, mime = (write_csv, "text/csv") if kind == "csv" else (write_json, "application/json")
        name = f"readings-{depot.now:%Y-%m-%d}.{kind}"
        headers = {"Content-Disposition": f'attachment; filename="{name}"'}
        return StreamingHttpResponse(writer(rows), content_type=f"{mime}; charset=utf-8", headers=headers)


class TemplateView(APIView):
    """A file to fill in."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="readings_template", responses={(200, "text/csv"): OpenApiTypes.STR, **REFUSALS})
    def get(self, request: Request) -> HttpResponse:
        """A CSV with the header of a file of readings, and nothing else."""
        headers = {"Content-Disposition": 'attachment; filename="readings-template.csv"'}
        return HttpResponse(template_csv(), content_type="text/csv; charset=utf-8", headers=headers)


def _file(request: Request) -> tuple[Any, str]:
    """The file that was sent, and its kind; raises CoreError."""
    file: Any = request.FILES.get("file")
    if file is None:
        raise CoreError("file", "Choose a file: CSV or JSON.", "required")
    kind = file.name.rsplit(".", 1)[-1].lower()
    if kind not in READERS:
        raise FileRefused("file", f"'{file.name}': a file that ends in .csv or .json is taken.", "unknown_format")
    if file.size > MOST_BYTES[kind]:
        message = f"{file.size / 1e6:.0f} MB: at most {MOST_BYTES[kind] / 1e6:.0f} MB at once. Split it."
        raise FileRefused("file", message, "too_large")
    return file, kind


def _form(**more: dict[str, Any]) -> dict[str, Any]:
    file = {"file": {"type": "string", "format": "binary"}}
    needed = ["file", *(["dry_run"] if "dry_run" in more else [])]
    return {"multipart/form-data": {"type": "object", "properties": {**file, **more}, "required": needed}}


class ImportColumnsView(APIView):
    """What the columns of a file are."""

    permission_classes = [IsLead]
    parser_classes = [MultiPartParser, JSONParser]

    @extend_schema(operation_id="readings_import_columns", request=_form(), responses={200: FileColumns, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Its headers, with what each seems to be; and the columns that are taken in."""
        found = columns_in(*_file(request))
        choices = choices_of(person_of(request).own_depot)
        guesses = guessed([head for head, _ in found])
        return answer(
            FileColumns(
                file=[FileColumn(head=h, first=first[:60], guess=g) for (h, first), g in zip(found, guesses, strict=True)],
                taken=[
                    TakenColumn(heads=heads_of(name), needed=name in REQUIRED, what=what, choices=choices.get(name, []))
                    for name, (_, taken, what) in COLUMNS.items()
                    if taken
                ],
            )
        )


class ImportView(APIView):
    """A file of readings; leads only: a list speaks in other people's names."""

    permission_classes = [IsLead]
    parser_classes = [MultiPartParser, JSONParser]  # JSON only so that it is told what is missing

    @extend_schema(
        operation_id="readings_import",
        request=_form(
            dry_run={"type": "string", "enum": ["yes", "no"]},
            id={"type": "string", "format": "uuid", "description": "sent twice, imported once"},
            always={"type": "string", "description": "JSON: place or instrument -> what all lines have"},
            columns={
                "type": "string",
                "description": "JSON: the file's header -> the header here, or ''",
            },
        ),
        responses={200: ImportReport, **REFUSALS},
    )
    def post(self, request: Request) -> Response:
        """Judge a CSV or JSON line by line; with dry_run no, store it, if no line is refused. All or nothing."""
        file, kind = _file(request)
        dry = request.data.get("dry_run")
        if dry not in ("yes", "no"):
            raise CoreError("dry_run", "Say yes to look only, no to import.", "required")
        import_id = _import_id(request)
        told = partial(tell_progress, person_of(request), import_id, count_lines(file, kind))
        own = Own(_words(request, "columns"), _words(request, "always"))
        given = Given(file, kind, import_id, file.name, own, told)
        return answer(import_readings(given, actor=person_of(request), dry_run=dry == "yes"))


def _import_id(request: Request) -> uuid.UUID:
    try:
        return uuid.UUID(request.data["id"]) if request.data.get("id") else uuid.uuid4()
    except ValueError:
        raise CoreError("id", "id must be a UUID.", "uuid_parsing") from None


def _words(request: Request, name: str) -> dict[str, str]:
    """A JSON object of words to words from the form; raises CoreError."""
    text = request.data.get(name)
    if not text:
        return {}
    try:
        given = json.loads(text)
        if not all(isinstance(name, str) for pair in given.items() for name in pair):
            raise ValueError
    except (ValueError, AttributeError):
        raise CoreError(name, f"{name} must be a JSON object of words to words.", "not_json") from None
    words: dict[str, str] = given
    return words


class ImportsView(APIView):
    """What was imported."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="readings_imports", responses={200: Imports, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Imports of the depot, newest first. Leads only."""
        return answer(imports_of(person_of(request).own_depot))


class OneImportView(APIView):
    """One import."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="readings_import_undo", request=ImportUndone, responses={200: Imports, **REFUSALS})
    def put(self, request: Request, import_id: uuid.UUID) -> Response:
        """Undo a whole import, or let it count again; its readings stay in the record. Leads only."""
        lead = person_of(request)
        source = get_object_or_404(ReadingImport, pk=import_id, depot=lead.own_depot)
        undo_import(source, body_of(request, ImportUndone).undone, actor=lead)
        return answer(imports_of(lead.own_depot))


class ImportProgressView(APIView):
    """How far one is."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="readings_import_progress", responses={200: ImportProgress, **REFUSALS})
    def get(self, request: Request, import_id: uuid.UUID) -> Response:
        """Of a file that is being judged or stored just now. Leads only."""
        return answer(ImportProgress(done=progress_of(person_of(request), import_id)))
