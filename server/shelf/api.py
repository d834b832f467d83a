"""The shelf: parse, permit, call, serialise."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.refusals import Problem
from people.permissions import IsOfADepot, person_of
from shelf.actions import count_can, keep_can
from shelf.queries import can_page, lot_trace, shelf_of
from shelf.schemas import CanIn, CanPage, CountIn, LotTrace, Shelf
from shelf.stock import cans_of


class ShelfView(APIView):
    """The whole shelf."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="shelf_get", responses={200: Shelf, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """Containers with what is left in them, and every line against its minimum."""
        return answer(shelf_of(person_of(request).own_depot))


class CansView(APIView):
    """Containers of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="can_add", request=CanIn, responses={201: Shelf, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Put a container on the shelf; the same id twice adds it once."""
        keep_can(body_of(request, CanIn), None, actor=person_of(request))
        return answer(shelf_of(person_of(request).own_depot), 201)


class CanView(APIView):
    """One container."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="can_get", responses={200: CanPage, 401: Problem, 403: Problem, 404: Problem})
    def get(self, request: Request, can_id: int) -> Response:
        """What is left, where it went, and its label."""
        can = get_object_or_404(cans_of(person_of(request).own_depot), pk=can_id)
        return answer(can_page(can, request.build_absolute_uri(f"/shelf/{can.pk}")))

    @extend_schema(operation_id="can_edit", request=CanIn, responses={200: Shelf, **REFUSALS})
    def put(self, request: Request, can_id: int) -> Response:
        """Change it; what was poured out of it keeps its lot as it was."""
        keep_can(body_of(request, CanIn), can_id, actor=person_of(request))
        return answer(shelf_of(person_of(request).own_depot))


class CountView(APIView):
    """Counts of a container."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="can_count", request=CountIn, responses={201: Shelf, **REFUSALS})
    def post(self, request: Request, can_id: int) -> Response:
        """Count what is in it; the same id twice counts once."""
        count_can(can_id, body_of(request, CountIn), actor=person_of(request))
        return answer(shelf_of(person_of(request).own_depot), 201)


class LotView(APIView):
    """Where a lot went."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="lot_trace",
        parameters=[OpenApiParameter("lot", str, required=True)],
        responses={200: LotTrace, 401: Problem, 403: Problem},
    )
    def get(self, request: Request) -> Response:
        """Its containers and every pour out of them: machines, days, litres."""
        return answer(lot_trace(person_of(request).own_depot, request.query_params.get("lot", "")))
