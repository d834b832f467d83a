"""What a machine teaches: parse, permit, call, serialise."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from jobs.api import loop_of
from jobs.lesson_schemas import LessonIn, Lessons
from jobs.lessons import decide_lesson, lessons_of
from people.permissions import IsLead, IsOfADepot, person_of


class LessonsView(APIView):
    """What this loop's jobs taught."""

    def get_permissions(self) -> list[IsOfADepot]:
        """Anybody of the depot reads, a lead decides."""
        return [IsLead() if self.request.method == "POST" else IsOfADepot()]

    @extend_schema(operation_id="lessons_get", responses={200: Lessons, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """The figures with their doubt, pooled with sister machines, and what was decided of each."""
        return answer(lessons_of(loop_of(request, loop_id)))

    @extend_schema(operation_id="lesson_decide", request=LessonIn, responses={200: Lessons, **REFUSALS})
    def post(self, request: Request, loop_id: int) -> Response:
        """Take one over for the next prediction, or refuse it; leads only, between jobs."""
        loop = loop_of(request, loop_id)
        decide_lesson(loop, body_of(request, LessonIn), actor=person_of(request))
        return answer(lessons_of(loop_of(request, loop_id)))
