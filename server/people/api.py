"""Sign-in and who is signed in."""

from __future__ import annotations

from datetime import datetime

from django.conf import settings
from django.contrib.auth import login, logout
from django.middleware.csrf import get_token
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from pydantic import Field
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config import clock
from config.boundary import answer, body_of
from config.problems import problem
from config.refusals import Problem
from config.shapes import Answer, Body
from depots.models import Units
from people import doors
from people.actions import note_device
from people.auth import key_of
from people.first_run import FirstRunIn, is_first_run, open_by_code
from people.queries import sign_in_name
from people.shown import PersonOut, person_out


class SignIn(Body):
    """Name and password."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class DepotOut(Answer):
    """The depot somebody works in."""

    id: int
    name: str
    time_zone: str
    currency: str
    altitude_m: float
    coldest_c: float
    units: Units


class Session(Answer):
    """Who is signed in (nobody: both null), and the server's clock. must_change: a password of their own comes first.

    first_run: there is no depot yet, and a code of the terminal opens one. demo_sign_in: of the demo's made-up people.
    """

    person: PersonOut | None
    depot: DepotOut | None
    must_change: bool
    server_time: datetime
    first_run: bool = False
    demo_sign_in: str | None = None


def session_of(request: Request) -> Session:
    """The session behind a request."""
    person = request.user if request.user.is_authenticated else None
    depot = person.depot if person else None
    return Session(
        person=person_out(person) if person else None,
        depot=DepotOut.model_validate(depot, from_attributes=True) if depot else None,
        must_change=person.must_change if person else False,
        server_time=clock.now(),
        first_run=person is None and is_first_run(),
        demo_sign_in=settings.DEMO_PASSWORD if person is None else None,
    )


class FirstRunView(APIView):
    """A workshop that is not open yet."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="first_run", request=FirstRunIn, responses={201: Session, 400: Problem, 409: Problem})
    @method_decorator(csrf_protect)
    def post(self, request: Request) -> Response:
        """Open it with the code that the terminal shows, and sign its first lead in; 409 once it is open."""
        person = open_by_code(body_of(request, FirstRunIn))
        login(request._request, person, backend="django.contrib.auth.backends.ModelBackend")
        request.user = person
        note_device(person, key_of(request), request.META.get("HTTP_USER_AGENT", ""), request.META.get("REMOTE_ADDR"))
        return answer(session_of(request), 201)


class SessionView(APIView):
    """The session: look, sign in, sign out."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="session_get", responses={200: Session})
    @method_decorator(ensure_csrf_cookie)
    def get(self, request: Request) -> Response:
        """Who is signed in; also sets the CSRF cookie."""
        get_token(request)
        return answer(session_of(request))

    @extend_schema(operation_id="session_sign_in", request=SignIn, responses={200: Session, 400: Problem, 429: Problem})
    @method_decorator(csrf_protect)
    def post(self, request: Request) -> Response:
        """Sign in; whoever tries too many wrong passwords waits a quarter of an hour (people/doors.py)."""
        given = body_of(request, SignIn)
        username = sign_in_name(given.username)
        try:
            person = doors.who_is_it(request._request, username, given.password)
        except doors.TriedTooOften as often:
            return _wait(often.here)
        if person is None:
            return problem(400, "wrong_sign_in", "Name or password is wrong. Try again.", "password")
        login(request._request, person)
        request.user = person
        note_device(person, key_of(request), request.headers.get("User-Agent", ""), request.META.get("REMOTE_ADDR"))
        answered = answer(session_of(request))
        doors.remember(answered, request._request, username)
        return answered

    @extend_schema(operation_id="session_sign_out", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Sign out."""
        logout(request._request)
        return Response(status=204, headers={"Clear-Site-Data": '"cache"'})


def _wait(here: bool) -> Response:
    minutes = doors.wait_s() // 60
    words = f"Too many wrong passwords. Wait {minutes} minutes, then try again."
    if not here:
        words = f"Too many wrong passwords for this name from elsewhere. Wait {minutes} minutes, or sign in on a device " + (
            "you have used before."
        )
    answered = problem(429, "locked", words, "username")
    answered["Retry-After"] = str(doors.wait_s())
    return answered
