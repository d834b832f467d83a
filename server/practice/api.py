"""Practice: parse, permit, call, serialise."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import BasePermission
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS, problem
from config.refusals import Problem
from jobs.doors import Work
from people.permissions import IsLead, IsOfADepot, NotAProgram, person_of
from practice import runs
from practice.asked import ask_for
from practice.lessons import add_lesson, remove_lesson, text_of
from practice.models import Run
from practice.queries import bench_of, practice_of, record_csv, record_of, run_out
from practice.schemas import (
    ActIn,
    AskIn,
    LessonText,
    Practice,
    PracticeBench,
    PracticeRecord,
    PracticeRunIn,
    PracticeTruth,
    WaitIn,
)
from temper_core.basis.errors import CoreError


def _own(request: Request, run_id: UUID) -> Run:
    return runs.own(person_of(request), run_id)


class _OfAPerson(APIView):
    """A person's, not a program's."""

    def get_permissions(self) -> list[BasePermission]:
        """Signed in as a person of a depot."""
        return [IsOfADepot(), NotAProgram()]


class PracticeView(_OfAPerson):
    """The page of practice."""

    @extend_schema(operation_id="practice_get", responses={200: Practice, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Lessons, one's own runs, what leads ask for."""
        return answer(practice_of(person_of(request)))


class PracticeOfferedView(_OfAPerson):
    """The offer of the first lesson."""

    @extend_schema(operation_id="practice_offered", request=None, responses={204: None, **REFUSALS})
    def post(self, request: Request) -> Response:
        """It was shown: it is not shown again."""
        runs.offered(person_of(request))
        return Response(status=204)


class PracticeRunsView(_OfAPerson):
    """Runs."""

    @extend_schema(operation_id="practice_begin", request=PracticeRunIn, responses={201: PracticeBench, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Begin a lesson, or free practice; sent twice, begun once."""
        given, who = body_of(request, PracticeRunIn), person_of(request)
        if (given.lesson is None) == (given.layout is None):
            raise CoreError("lesson", "Say either a lesson or a layout, one of them.", "one_of_them")
        if given.layout is not None and given.capacity_l is None:
            raise CoreError("capacity_l", "The capacity is missing. Enter the litres of the practice loop.", "required")
        layout = (given.layout, given.capacity_l) if given.layout is not None and given.capacity_l is not None else None
        run = runs.begin(who.own_depot, given.id, given.lesson or "", given.seed, actor=who, layout=layout)
        return answer(bench_of(run), 201)


class PracticeRunView(_OfAPerson):
    """One's own run."""

    @extend_schema(operation_id="practice_run", responses={200: PracticeBench, **REFUSALS})
    def get(self, request: Request, run_id: UUID) -> Response:
        """Its clock, what stands at hand, what was done."""
        return answer(bench_of(_own(request, run_id)))


class PracticeActsView(_OfAPerson):
    """What hands do."""

    @extend_schema(operation_id="practice_act", request=ActIn, responses={201: PracticeBench, **REFUSALS})
    def post(self, request: Request, run_id: UUID) -> Response:
        """Do something at the machine; the first row of `done` is what was found. Sent twice, done once."""
        run, given = _own(request, run_id), body_of(request, ActIn)
        runs.act(run, given.id, given.act)
        return answer(bench_of(run), 201)


class PracticeWaitView(_OfAPerson):
    """The run's clock."""

    @extend_schema(operation_id="practice_wait", request=WaitIn, responses={200: PracticeBench, **REFUSALS})
    def post(self, request: Request, run_id: UUID) -> Response:
        """So many minutes go by at once."""
        run = _own(request, run_id)
        runs.run_forward(run, body_of(request, WaitIn).minutes)
        return answer(bench_of(run))


class PracticeTruthView(_OfAPerson):
    """The truth at the end."""

    @extend_schema(operation_id="practice_truth", responses={200: PracticeTruth, **REFUSALS})
    def get(self, request: Request, run_id: UUID) -> Response:
        """Of a run that is ended; 409 before."""
        run = _own(request, run_id)
        if run.ended_at is None:
            return problem(409, "not_ended", "The truth is shown at the end. Finish the run first.", "run")
        return answer(_truth(run))

    @extend_schema(operation_id="practice_end", request=None, responses={200: PracticeTruth, **REFUSALS})
    def post(self, request: Request, run_id: UUID) -> Response:
        """End the run; the truth stands beside its record from now on."""
        return answer(_truth(_own(request, run_id)))


def _truth(run: Run) -> PracticeTruth:
    back = runs.end(run)
    return PracticeTruth(run=run_out(run), loops=[one.name for one in runs.lesson_in(run).loops], truth=back)


class _OfALead(APIView):
    """A lead's."""

    permission_classes = [IsLead]


class PracticeRecordView(_OfALead):
    """The record for the lead."""

    @extend_schema(operation_id="practice_record", responses={200: PracticeRecord, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Who did which lesson, with which result."""
        return answer(record_of(person_of(request).own_depot))


class PracticeRecordCsvView(_OfALead):
    """The record as a file."""

    @extend_schema(
        operation_id="practice_record_csv", responses={(200, "text/csv"): OpenApiTypes.STR, 401: Problem, 403: Problem}
    )
    def get(self, request: Request) -> HttpResponse:
        """One line a run."""
        headers = {"Content-Disposition": 'attachment; filename="practice.csv"'}
        text = record_csv(record_of(person_of(request).own_depot))
        return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


class PracticeAskedView(_OfALead):
    """What is asked for before some work."""

    @extend_schema(operation_id="practice_ask", request=AskIn, responses={200: Practice, **REFUSALS})
    def put(self, request: Request, work: str) -> Response:
        """Ask for a lesson, or no more (null). Leads only."""
        if work not in [one.value for one in Work]:
            raise CoreError("work", f"'{work}' is not allowed: {', '.join(one.value for one in Work)} are.", "unknown_word")
        who = person_of(request)
        ask_for(who.own_depot, Work(work), body_of(request, AskIn).lesson, actor=who)
        return answer(practice_of(who))


class PracticeLessonsView(_OfALead):
    """A lead's own lessons."""

    @extend_schema(operation_id="practice_lesson_add", request=LessonText, responses={201: Practice, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Add one, or put it in the place of one with the same key. Leads only."""
        who = person_of(request)
        add_lesson(who.own_depot, body_of(request, LessonText).text, actor=who)
        return answer(practice_of(who), 201)


class PracticeLessonView(_OfALead):
    """One lesson."""

    @extend_schema(operation_id="practice_lesson_text", responses={200: LessonText, **REFUSALS})
    def get(self, request: Request, key: str) -> Response:
        """As it is written: a beginning for one's own. Leads only, it says how it ends."""
        return answer(LessonText(text=text_of(person_of(request).own_depot, key)))

    @extend_schema(operation_id="practice_lesson_remove", responses={200: Practice, **REFUSALS})
    def delete(self, request: Request, key: str) -> Response:
        """Remove one of the depot's own. Leads only."""
        who = person_of(request)
        remove_lesson(who.own_depot, key)
        return answer(practice_of(who))
