"""Sheets, labels, calendars, frost: what is read after a job."""

from __future__ import annotations

from datetime import UTC, datetime
from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer
from config.problems import REFUSALS
from config.refusals import NotFound
from jobs.api import loop_of
from jobs.back_schemas import LabelOut, Of, Seasonal, SheetOut
from jobs.calendars import calendar_of
from jobs.comeback import seasonal
from jobs.of_uuid import of_uuid
from jobs.pdf import sheet_pdf
from jobs.plan import plan_of
from jobs.sheets import label_of, sheet_of
from people.permissions import IsOfADepot, person_of
from temper_core.basis.errors import CoreError
from temper_core.basis.in_units import System

CALENDAR_WEEKS = 26
JOB = OpenApiParameter("job", OpenApiTypes.UUID, description="A job of this loop; left out, its last one.")
UNITS = OpenApiParameter("units", str, enum=[system.value for system in System], description="Units to say it in.")
PLAIN = OpenApiParameter("plain", bool, description="In the customer's words only.")


def _job(request: Request) -> UUID | None:
    given = request.query_params.get("job")
    if not given:
        return None
    try:
        return UUID(given)
    except ValueError:
        raise CoreError("job", f"'{given}' is no job's id.", "uuid_parsing") from None


def _system(request: Request) -> System:
    given = request.query_params.get("units", System.METRIC.value)
    if given not in set(System):
        allowed = ", ".join(system.value for system in System)
        raise CoreError("units", f"No units are called '{given}': {allowed} are.", "unknown_units")
    return System(given)


def _address(request: Request, path: str = "") -> str:
    return request.build_absolute_uri("/").rstrip("/") + path


def _file(data: bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(data, content_type=kind)
    response["Content-Disposition"] = f'inline; filename="{name}"'
    response["Cache-Control"] = "private, no-store"
    return response


class SheetView(APIView):
    """The job sheet."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="sheet_get", parameters=[JOB], responses={200: SheetOut, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """What was done and how it left; a signed job as it was stored."""
        loop = loop_of(request, loop_id)
        return answer(sheet_of(loop, _job(request), _address(request, f"/of/{loop.uuid}")))


class SheetPdfView(APIView):
    """The job sheet to print or to send."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="sheet_pdf",
        parameters=[JOB, UNITS, PLAIN],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY, **REFUSALS},
    )
    def get(self, request: Request, loop_id: int) -> HttpResponse:
        """The same facts as a PDF."""
        loop = loop_of(request, loop_id)
        out = sheet_of(loop, _job(request), _address(request, f"/of/{loop.uuid}"))
        plain = request.query_params.get("plain", "false").lower() == "true"
        data = sheet_pdf(out, person_of(request).own_depot.time_zone, _system(request), plain=plain)
        return _file(data, "application/pdf", f"{out.machine.fleet_number}-coolant.pdf")


class LabelView(APIView):
    """The label on the machine."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="label_get", responses={200: LabelOut, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """What it says, with the QR code of the loop's address."""
        loop = loop_of(request, loop_id)
        return answer(label_of(loop, _address(request, f"/of/{loop.uuid}")))


class CalendarView(APIView):
    """What comes due as a calendar."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="calendar_get",
        parameters=[OpenApiParameter("person", int, description="Only what is assigned to this person.")],
        responses={(200, "text/calendar"): OpenApiTypes.BINARY, **REFUSALS},
    )
    def get(self, request: Request) -> HttpResponse:
        """An iCalendar file of everything due in the coming half year, on the days it is planned for."""
        depot = person_of(request).own_depot
        rows = plan_of(depot, CALENDAR_WEEKS).rows
        name = ""
        if given := request.query_params.get("person"):
            person = depot.people.filter(pk=int(given)).first() if given.isdigit() else None
            if person is None:
                raise CoreError("person", f"Nobody of this depot has the number '{given}'.", "unknown_person")
            rows, name = [row for row in rows if row.person is not None and row.person.id == person.pk], person.name
        data = calendar_of(rows, datetime.now(UTC), _address(request), name)
        return _file(data, "text/calendar; charset=utf-8", "temper-checks.ics")


class SeasonView(APIView):
    """The frost plan."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="season_get", responses={200: Seasonal, **REFUSALS})
    def get(self, request: Request) -> Response:
        """What frost asks of each machine."""
        return answer(seasonal(person_of(request).own_depot, person_of(request).own_depot.now))


class OfView(APIView):
    """What a UUID is known by here."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="of_get", responses={200: Of, **REFUSALS})
    def get(self, request: Request, uuid: UUID) -> Response:
        """The page of a machine, loop, job, product, additive, water or instrument by its UUID, as a label has it."""
        found = of_uuid(person_of(request).own_depot, uuid)
        if found is None:
            raise NotFound
        return answer(found)
