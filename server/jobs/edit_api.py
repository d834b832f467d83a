"""Edit one entry of a loop's record."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from jobs.api import check_program, loop_of
from jobs.edit_schemas import EditFormOut, EditIn, EditKept, EditShown
from jobs.editing import form_of, keep_edit, shown
from people.permissions import IsOfADepot, person_of


class EntryView(APIView):
    """One entry of a loop's record."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="entry_form", responses={200: EditFormOut, **REFUSALS})
    def get(self, request: Request, loop_id: int, entry_id: UUID) -> Response:
        """The entry as a form; refused where it cannot be edited any more."""
        return answer(form_of(loop_of(request, loop_id), entry_id, person_of(request)))

    @extend_schema(operation_id="entry_edit", request=EditIn, responses={200: EditKept, **REFUSALS})
    def put(self, request: Request, loop_id: int, entry_id: UUID) -> Response:
        """Keep an edit, or undo the entry with what can no longer follow; the old figures stay in the record, struck."""
        check_program(request, ["edited"])
        given = body_of(request, EditIn)
        kept = keep_edit(loop_of(request, loop_id), entry_id, given, actor=person_of(request))
        return answer(EditKept(undo=None if given.undo else kept))


class EntryPreviewView(APIView):
    """What an edit would change."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="entry_edit_preview", request=EditIn, responses={200: EditShown, **REFUSALS})
    def post(self, request: Request, loop_id: int, entry_id: UUID) -> Response:
        """The loop before and after, and the entries that can no longer follow; nothing is stored."""
        return answer(shown(loop_of(request, loop_id), entry_id, body_of(request, EditIn), actor=person_of(request)))
