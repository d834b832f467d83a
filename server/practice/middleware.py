"""/practice/<run>/…: the same screens and the same API, in the database of a run and by its clock."""

from __future__ import annotations

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone

from config.apart import apart
from config.refusals import refused_as
from people.models import Person
from practice.depot import file_of
from practice.models import Run
from practice.runs import seen

ADDRESS = re.compile(r"^/practice/(?P<run>[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12})(?P<rest>/.*)?$")
READS = re.compile(
    r"^/api/(session|names|board|plan|attention|figures|night|policy|machines|layouts|loops|inspection|catalogue|shelf|cans"
    r"|lots|waste|instruments|readings)(/|$)"
)
WRITES = re.compile(r"^/api/(jobs$|loops/\d+/(entries|preview|drafts|capacity)(/|$)|compute/|instruments/\d+/zero$)")


class AtPractice:
    """Nothing that is asked under /practice/ reaches the depot's own data."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Whoever is signed in, their own run, and only what belongs to the work at a machine."""
        found = ADDRESS.match(request.path_info)
        if found is None:
            return self.get_response(request)
        request.path_info = found["rest"] or "/"
        if not request.path_info.startswith("/api/"):
            return self.get_response(request)
        who = request.user
        if not isinstance(who, Person) or who.must_change or not who.is_active:
            return _refused(401, "signed_out", "You are signed out. Sign in: nothing you typed is lost.")
        run = Run.objects.filter(pk=found["run"], person=who).first()
        if run is None or not file_of(run).exists():
            return _refused(404, "over", "This practice is over. Leave it, or begin again.")
        allowed = READS if request.method in ("GET", "HEAD") else WRITES
        if not allowed.match(request.path_info) or request.headers.get("Authorization"):
            return _refused(403, "not_in_practice", "This is no part of practice. Leave practice first.")
        shift = seen(run, timezone.now())
        with apart(file_of(run), shift):
            request.user = Person.objects.select_related("depot").get(pk=who.pk)
            response = self.get_response(request)
            if response.streaming:
                response.close()
                return _refused(403, "not_in_practice", "This is no part of practice. Leave practice first.")
        request.user = who
        return response


def _refused(status: int, code: str, message: str) -> JsonResponse:
    return JsonResponse(refused_as(status, code, message).body, status=status)
