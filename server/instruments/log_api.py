"""The log of readings: pages, files out and in, and what the readings say together."""

from __future__ import annotations

from typing import Any

from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.exceptions import NotFound
from rest_framework.parsers import JSONParser, MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer
from config.problems import Problem
from instruments.exchange import READERS, FileRefused, write_csv, write_json
from instruments.importing import export_rows, import_readings
from instruments.log import filtered_readings, log_page
from instruments.schemas import ImportReport, LogPage, Watch
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


class ImportView(APIView):
    """A file of readings; leads only: a list speaks in other people's names."""

    permission_classes = [IsLead]
    parser_classes = [MultiPartParser, JSONParser]  # JSON only so that it is told what is missing

    @extend_schema(
        operation_id="readings_import",
        request={
            "multipart/form-data": {
                "type": "object",
                "properties": {
                    "file": {"type": "string", "format": "binary"},
                    "dry_run": {"type": "string", "enum": ["yes", "no"]},
                },
                "required": ["file", "dry_run"],
            }
        },
        responses={200: ImportReport, **REFUSALS},
    )
    def post(self, request: Request) -> Response:
        """Judge a CSV or JSON line by line; with dry_run no, store it, if no line is refused. All or nothing."""
        file: Any = request.FILES.get("file")
        if file is None:
            raise CoreError("file", "Choose a file: CSV or JSON.", "required")
        kind = file.name.rsplit(".", 1)[-1].lower()
        if kind not in READERS:
            raise FileRefused("file", f"'{file.name}': a file that ends in .csv or .json is taken.", "unknown_format")
        if file.size > MOST_BYTES[kind]:
            message = f"{file.size / 1e6:.0f} MB: at most {MOST_BYTES[kind] / 1e6:.0f} MB at once. Split it."
            raise FileRefused("file", message, "too_large")
        dry = request.data.get("dry_run")
        if dry not in ("yes", "no"):
            raise CoreError("dry_run", "Say yes to look only, no to import.", "required")
        return answer(import_readings(file, kind, actor=person_of(request), dry_run=dry == "yes"))
