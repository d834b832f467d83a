"""The kit that a tablet takes along, and one loop of it as it is now."""

from __future__ import annotations

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from bay.kit import Kit, KitLoop
from bay.meeting import MeetIn, Meeting, meeting_of
from bay.queries import kit_loop, kit_of
from config.boundary import answer, body_of
from config.problems import REFUSALS
from jobs.api import loop_of
from people.permissions import IsOfADepot, NotAProgram, person_of
from temper_core.basis.errors import CoreError


class KitView(APIView):
    """What a person takes along for work without a network."""

    permission_classes = [IsOfADepot, NotAProgram]

    @extend_schema(
        operation_id="kit_get",
        parameters=[OpenApiParameter("machines", str, description="numbers of machines to take along, with commas")],
        responses={200: Kit, **REFUSALS},
    )
    def get(self, request: Request) -> Response:
        """Loops in work, due, planned for the person or picked, with records, lists, rules and people's names."""
        numbers = [part for part in request.query_params.get("machines", "").split(",") if part]
        if not all(part.isdigit() for part in numbers) or len(numbers) > 60:
            raise CoreError("machines", "Send the numbers of at most 60 machines, with commas between them.", "not_numbers")
        return answer(kit_of(person_of(request), [int(part) for part in numbers], request._request))


class KitLoopView(APIView):
    """One loop of a kit."""

    permission_classes = [IsOfADepot, NotAProgram]

    @extend_schema(operation_id="kit_loop_get", responses={200: KitLoop, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """The loop with its whole record as it is now."""
        return answer(kit_loop(loop_of(request, loop_id), person_of(request)))

    @extend_schema(operation_id="kit_loop_meet", request=MeetIn, responses={200: Meeting, **REFUSALS})
    def post(self, request: Request, loop_id: int) -> Response:
        """What waits on a tablet for this loop, among what others recorded meanwhile; nothing is stored."""
        return answer(meeting_of(loop_of(request, loop_id), body_of(request, MeetIn), person_of(request)))
