"""Board, jobs, ledgers, drafts: parse, permit, call, serialise."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.exceptions import PermissionDenied
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.refusals import Problem
from fleet.actions import take_over_capacity
from fleet.models import Loop
from fleet.queries import loops_of, machines_in
from jobs.actions import keep_draft, open_job, preview, record_entries
from jobs.board_answer import Audience, board_answer
from jobs.entry_schemas import EntriesIn
from jobs.loop_list import loops_listed
from jobs.models import Draft, Job
from jobs.moving import move_job
from jobs.queries import bench_of, history_of, inspection_words, ledger_of, state_of
from jobs.rejudging import answer_rejudged
from jobs.schemas import (
    Bench,
    Board,
    CapacityIn,
    DraftIn,
    DraftOut,
    InspectionWords,
    JobIn,
    JobMove,
    JobOpenedOut,
    Ledger,
    LoopHistory,
    Loops,
    Preview,
    RejudgedIn,
)
from people.models import ApiToken, Role
from people.permissions import IsLead, IsOfADepot, person_of


def loop_of(request: Request, loop_id: int) -> Loop:
    """A loop of the person's depot, or 404."""
    return get_object_or_404(loops_of(person_of(request).own_depot), pk=loop_id)


class BoardView(APIView):
    """The bay board."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="board_get", responses={200: Board, 304: None, **REFUSALS})
    def get(self, request: Request) -> HttpResponse:
        """Loops in work, sorted by whose hands are needed next; 304 with an If-None-Match where nothing changed."""
        person = person_of(request)
        audience = Audience.LEADS if person.role == Role.LEAD else Audience.CREW
        return board_answer(request, person.own_depot, audience)


class LoopsView(APIView):
    """The list of loops."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="loops_list", responses={200: Loops, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Every loop with what is inside, how far it protects and what is due, by its machine's number."""
        return answer(loops_listed(person_of(request).own_depot))


class JobsView(APIView):
    """Jobs."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="job_open", request=JobIn, responses={201: JobOpenedOut, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Open a job; the same id twice opens it once."""
        given = body_of(request, JobIn)
        job = open_job(given, actor=person_of(request))
        return answer(JobOpenedOut(id=job.id, loop_ids=[row.loop_id for row in given.loops]), 201)


class JobMoveView(APIView):
    """A job that was begun on the wrong machine."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="job_move", request=JobMove, responses={200: JobOpenedOut, **REFUSALS})
    def post(self, request: Request, job_id: UUID) -> Response:
        """Move it to the right machine, whole or not at all; what is signed stays. Leads only."""
        person, given = person_of(request), body_of(request, JobMove)
        job = get_object_or_404(Job, pk=job_id, machine__depot=person.own_depot)
        machine = get_object_or_404(machines_in(person.own_depot), pk=given.machine_id)
        moved = move_job(job, machine, actor=person)
        loops = moved.job_loops.order_by("loop__position").values_list("loop_id", flat=True)
        return answer(JobOpenedOut(id=moved.id, loop_ids=list(loops)))


class LoopView(APIView):
    """One loop's bench."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="bench_get", responses={200: Bench, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """State, verdicts and drafts of a loop."""
        return answer(bench_of(loop_of(request, loop_id), person_of(request)))


class LedgerView(APIView):
    """One loop's record."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="ledger_get", responses={200: Ledger, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """All entries, newest first, and the signed-off jobs."""
        return answer(ledger_of(loop_of(request, loop_id)))


class HistoryView(APIView):
    """One loop's life."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="history_get", responses={200: LoopHistory, **REFUSALS})
    def get(self, request: Request, loop_id: int) -> Response:
        """Readings, top-ups, services, overrides on one line; the slope since the last service."""
        return answer(history_of(loop_of(request, loop_id)))


class InspectionView(APIView):
    """The guided inspection."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="inspection_get", responses={200: InspectionWords, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """Places, words for a sample, checks with their answers."""
        return answer(inspection_words())


PROGRAMS_MAY = {"metered", "temperature_logged", "read", "level_seen"}  # what an instrument can know


def check_program(request: Request, kinds: Iterable[str]) -> None:
    """What hands, eyes and a signature are needed for, no program records; raises PermissionDenied."""
    refused = sorted(set(kinds) - PROGRAMS_MAY) if isinstance(request.auth, ApiToken) else []
    if refused:
        may = ", ".join(sorted(PROGRAMS_MAY))
        raise PermissionDenied(f"A program may not record {', '.join(refused)}: it may record {may}.")


class EntriesView(APIView):
    """Adding to a record."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="entries_record", request=EntriesIn, responses={201: Bench, **REFUSALS})
    def post(self, request: Request, loop_id: int) -> Response:
        """Record entries, all or none; answers the bench as it then is. The same id twice is stored once."""
        loop = loop_of(request, loop_id)
        given = body_of(request, EntriesIn)
        check_program(request, (row.kind for row in given.entries))
        record_entries(loop, given, actor=person_of(request))
        return answer(bench_of(loop, person_of(request)), 201)


class PreviewView(APIView):
    """What would be."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="entries_preview", request=EntriesIn, responses={200: Preview, **REFUSALS})
    def post(self, request: Request, loop_id: int) -> Response:
        """The state as it would be with these entries; stores nothing."""
        return answer(
            Preview(state=preview(loop_of(request, loop_id), body_of(request, EntriesIn), actor=person_of(request)))
        )


class RejudgedView(APIView):
    """A signed job that today's rules judge worse."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="rejudged_answer", request=RejudgedIn, responses={204: None, **REFUSALS})
    def post(self, request: Request, rejudged_id: int) -> Response:
        """Say what is done about it; leads only. The signed record stays as it was."""
        given = body_of(request, RejudgedIn)
        answer_rejudged(person_of(request).own_depot, rejudged_id, given.answer, actor=person_of(request))
        return Response(status=204)


class CapacityView(APIView):
    """A learned capacity."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="capacity_take_over", request=CapacityIn, responses={200: Bench, **REFUSALS})
    def post(self, request: Request, loop_id: int) -> Response:
        """Believe what the last job's readings taught of the capacity; leads only, between jobs."""
        loop = loop_of(request, loop_id)
        given = body_of(request, CapacityIn)
        take_over_capacity(
            loop, state_of(loop, person_of(request).own_depot.policy), given.capacity_l, actor=person_of(request)
        )
        return answer(bench_of(loop_of(request, loop_id), person_of(request)))


class DraftView(APIView):
    """What is typed on a stage and not recorded yet."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="draft_put", request=DraftIn, responses={200: DraftOut, **REFUSALS})
    def put(self, request: Request, loop_id: int, stage: str) -> Response:
        """Keep it; replaces what was kept."""
        draft = keep_draft(loop_of(request, loop_id), stage, body_of(request, DraftIn), actor=person_of(request))
        return answer(DraftOut.model_validate(draft, from_attributes=True))

    @extend_schema(operation_id="draft_drop", responses={204: None, **REFUSALS})
    def delete(self, request: Request, loop_id: int, stage: str) -> Response:
        """Drop it."""
        Draft.objects.filter(person=person_of(request), loop=loop_of(request, loop_id), stage=stage).delete()
        return Response(status=204)
