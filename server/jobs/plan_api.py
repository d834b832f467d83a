"""The lead's plan: the calendar, what needs attention, what a depot reports."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from jobs.attention import Attention, attention_of
from jobs.figures import DEFAULT_MONTHS, MOST_MONTHS, Figures, figures_csv, figures_of
from jobs.plan import DEFAULT_WEEKS, MOST_WEEKS, AppointmentIn, Plan, appoint, plan_of
from people.permissions import IsLead, IsOfADepot, person_of
from temper_core.basis.errors import CoreError

WEEKS = OpenApiParameter("weeks", int, description=f"How many weeks, 1 to {MOST_WEEKS}; {DEFAULT_WEEKS} where left out.")
MONTHS = OpenApiParameter(
    "months", int, description=f"How many months, 1 to {MOST_MONTHS}; {DEFAULT_MONTHS} where left out."
)


def _number(request: Request, name: str, default: int, most: int) -> int:
    given = request.query_params.get(name, str(default))
    if not given.isdigit() or not 1 <= int(given) <= most:
        raise CoreError(name, f"'{given}' must be a whole number from 1 to {most}.", "out_of_range")
    return int(given)


class PlanView(APIView):
    """What comes due by week."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="plan_get", parameters=[WEEKS], responses={200: Plan, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Services, checks, frost and zero checks on the day they are planned for, with hours and litres by week."""
        return answer(plan_of(person_of(request).own_depot, _number(request, "weeks", DEFAULT_WEEKS, MOST_WEEKS)))


class AppointmentView(APIView):
    """One thing that comes due."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="plan_appoint", request=AppointmentIn, responses={200: Plan, **REFUSALS})
    def put(self, request: Request, key: str) -> Response:
        """Move it to a day, assign it to a person; leads only."""
        depot = person_of(request).own_depot
        appoint(depot, key, body_of(request, AppointmentIn), actor=person_of(request))
        return answer(plan_of(depot, _number(request, "weeks", DEFAULT_WEEKS, MOST_WEEKS)))


class AttentionView(APIView):
    """What a lead has to read and to answer."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="attention_get", responses={200: Attention, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Decisions against advice, signed jobs that today's rules judge worse, records that cannot be calculated."""
        return answer(attention_of(person_of(request).own_depot))


class FiguresView(APIView):
    """What a depot reports."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="figures_get", parameters=[MONTHS], responses={200: Figures, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Litres, waste, hours and jobs by month and machine. Leads only."""
        months = _number(request, "months", DEFAULT_MONTHS, MOST_MONTHS)
        return answer(figures_of(person_of(request).own_depot, months))


class FiguresCsvView(APIView):
    """The same as a file."""

    permission_classes = [IsLead]

    @extend_schema(
        operation_id="figures_csv", parameters=[MONTHS], responses={(200, "text/csv"): OpenApiTypes.BINARY, **REFUSALS}
    )
    def get(self, request: Request) -> HttpResponse:
        """One line a figure: month, machine, what, of which kind, unit, value. Leads only."""
        months = _number(request, "months", DEFAULT_MONTHS, MOST_MONTHS)
        data = figures_csv(figures_of(person_of(request).own_depot, months))
        response = HttpResponse(data, content_type="text/csv; charset=utf-8")
        response["Content-Disposition"] = 'attachment; filename="temper-figures.csv"'
        response["Cache-Control"] = "private, no-store"
        return response
