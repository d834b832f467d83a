"""Waste: parse, permit, call, serialise."""

from __future__ import annotations

import uuid

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.refusals import Problem
from jobs.photos_api import FORM_BYTES
from jobs.pictures import MOST_BYTES, check_size
from people.permissions import IsLead, IsOfADepot, person_of
from shelf.waste import add_paper_photo, hand_over, register_csv, undo_handover, waste_of
from shelf.waste_schemas import HandoverIn, Waste
from temper_core.basis.errors import CoreError

UPLOAD = {
    "multipart/form-data": {
        "type": "object",
        "properties": {"file": {"type": "string", "format": "binary"}},
        "required": ["file"],
    }
}


class WasteView(APIView):
    """The depot's waste."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="waste_get", responses={200: Waste, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """What stands full, what was handed over, the register by month."""
        return answer(waste_of(person_of(request).own_depot))


class WasteCsvView(APIView):
    """The register as a file."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="waste_csv", responses={(200, "text/csv"): OpenApiTypes.STR, 401: Problem, 403: Problem})
    def get(self, request: Request) -> HttpResponse:
        """Litres by month and kind: filled, handed over, standing."""
        text = register_csv(waste_of(person_of(request).own_depot).months)
        headers = {"Content-Disposition": 'attachment; filename="waste.csv"'}
        return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


class HandoversView(APIView):
    """Handovers."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="handover_add", request=HandoverIn, responses={201: Waste, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Somebody took containers away; the same id twice is one handover."""
        hand_over(body_of(request, HandoverIn), actor=person_of(request))
        return answer(waste_of(person_of(request).own_depot), 201)


class HandoverView(APIView):
    """One handover."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="handover_undo", responses={200: Waste, **REFUSALS})
    def delete(self, request: Request, handover_id: uuid.UUID) -> Response:
        """It was entered wrongly: it stays in the list, struck; leads only."""
        undo_handover(handover_id, actor=person_of(request))
        return answer(waste_of(person_of(request).own_depot))


class HandoverPhotoView(APIView):
    """The photo of a handover's paper."""

    permission_classes = [IsOfADepot]
    parser_classes = [MultiPartParser]

    @extend_schema(operation_id="handover_photo", request=UPLOAD, responses={201: Waste, **REFUSALS})
    def post(self, request: Request, handover_id: uuid.UUID) -> Response:
        """Keep the photo (JPEG, PNG, HEIC, at most 8 MB) of its paper."""
        check_size(max(0, int(request.META.get("CONTENT_LENGTH") or 0) - FORM_BYTES))  # before the body is read
        file = request.FILES.get("file")
        if file is None:
            raise CoreError("file", "The photo is missing: pick one.", "required")
        check_size(file.size)
        add_paper_photo(handover_id, file.read(MOST_BYTES + 1), actor=person_of(request))
        return answer(waste_of(person_of(request).own_depot), 201)
