"""People of a depot, and one's own account."""

from __future__ import annotations

from django.contrib.auth import update_session_auth_hash
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS, problem
from people import actions
from people.auth import key_of
from people.models import ApiToken, Person, Role
from people.permissions import IsHere, IsLeadHere, person_of
from people.queries import people_of, profile_of
from people.schemas import (
    PasswordIn,
    People,
    PersonAdded,
    PersonEdit,
    PersonIn,
    ProfileEdit,
    ProfileOut,
    TokenIn,
    TokenMade,
)
from people.shown import person_out
from people.tokens import make_token, revoke_token


def _one(request: Request, person_id: int) -> Person:
    return get_object_or_404(person_of(request).own_depot.people, pk=person_id)


class PeopleView(APIView):
    """The people of the depot."""

    permission_classes = [IsLeadHere]

    @extend_schema(operation_id="people_list", responses={200: People, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Everybody of the depot by name. Leads only."""
        return answer(people_of(person_of(request).own_depot, key_of(request)))

    @extend_schema(operation_id="person_add", request=PersonIn, responses={201: PersonAdded, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Add somebody; answers the password for their first sign-in, this once. Leads only."""
        given, lead = body_of(request, PersonIn), person_of(request)
        person, password = actions.add_person(lead.own_depot, given.username, given.name, given.role, actor=lead)
        return answer(PersonAdded(person=person_out(person), password=password), 201)


class PersonView(APIView):
    """One of them."""

    permission_classes = [IsLeadHere]

    @extend_schema(operation_id="person_edit", request=PersonEdit, responses={200: People, **REFUSALS})
    def put(self, request: Request, person_id: int) -> Response:
        """Name, role, may sign in, may isolate until (left out: as it is); 409 where no lead would be left. Leads only."""
        given = body_of(request, PersonEdit)
        person, lead = _one(request, person_id), person_of(request)
        until = given.may_isolate_until if "may_isolate_until" in given.model_fields_set else person.may_isolate_until
        actions.edit_person(person, given.name, given.role, given.active, actor=lead, may_isolate_until=until)
        return answer(people_of(person_of(request).own_depot, key_of(request)))


class PersonPasswordView(APIView):
    """Somebody's password."""

    permission_classes = [IsLeadHere]

    @extend_schema(operation_id="person_reset_password", request=None, responses={200: PersonAdded, **REFUSALS})
    def post(self, request: Request, person_id: int) -> Response:
        """Set a password for one sign-in, and sign them out everywhere. Leads only."""
        person = _one(request, person_id)
        if person == person_of(request):
            words = "This is your own account. Change your password in your profile."
            return problem(409, "own_account", words, "person_id")
        password = actions.reset_password(person, actor=person_of(request))
        return answer(PersonAdded(person=person_out(person), password=password))


class PersonDevicesView(APIView):
    """Where somebody is signed in."""

    permission_classes = [IsLeadHere]

    @extend_schema(operation_id="person_sign_out", responses={200: People, **REFUSALS})
    def delete(self, request: Request, person_id: int) -> Response:
        """Sign them out everywhere; oneself everywhere else. Leads only."""
        person, lead = _one(request, person_id), person_of(request)
        actions.sign_out(person, actor=lead, keep=key_of(request) if person == lead else "")
        return answer(people_of(lead.own_depot, key_of(request)))


class ProfileView(APIView):
    """One's own account."""

    permission_classes = [IsHere]

    @extend_schema(operation_id="profile_get", responses={200: ProfileOut, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Name, devices, what was done to it."""
        return answer(profile_of(person_of(request), key_of(request)))

    @extend_schema(operation_id="profile_edit", request=ProfileEdit, responses={200: ProfileOut, **REFUSALS})
    def put(self, request: Request) -> Response:
        """Change one's own name."""
        person = person_of(request)
        name = body_of(request, ProfileEdit).name
        until = person.may_isolate_until
        person = actions.edit_person(person, name, Role(person.role), True, actor=person, may_isolate_until=until)
        return answer(profile_of(person, key_of(request)))


class ProfilePasswordView(APIView):
    """One's own password."""

    permission_classes = [IsHere]

    @extend_schema(operation_id="profile_password", request=PasswordIn, responses={200: ProfileOut, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Change it; every other device is signed out."""
        given, person = body_of(request, PasswordIn), person_of(request)
        actions.change_password(person, given.old, given.new, keep=key_of(request))
        update_session_auth_hash(request._request, person)  # cycles the key of the session that stays
        agent = request.META.get("HTTP_USER_AGENT", "")
        actions.note_device(person, key_of(request), agent, request.META.get("REMOTE_ADDR"))
        return answer(profile_of(person, key_of(request)))


class ProfileDevicesView(APIView):
    """One's own devices."""

    permission_classes = [IsHere]

    @extend_schema(operation_id="profile_sign_out", responses={200: ProfileOut, **REFUSALS})
    def delete(self, request: Request) -> Response:
        """Sign out everywhere but here."""
        person = person_of(request)
        actions.sign_out(person, actor=person, keep=key_of(request))
        return answer(profile_of(person, key_of(request)))


class ProfileTokensView(APIView):
    """One's own tokens for programs."""

    permission_classes = [IsHere]

    @extend_schema(operation_id="token_make", request=TokenIn, responses={201: TokenMade, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Make a token that a program signs in with in one's name; answers its text, this once."""
        given, person = body_of(request, TokenIn), person_of(request)
        if not person.check_password(given.password):
            return problem(400, "wrong_password", "The password is wrong. Type it again.", "password")
        _, text = make_token(person, given.name, given.reads_only, given.days)
        return answer(TokenMade(token=text, profile=profile_of(person, key_of(request))), 201)


class ProfileTokenView(APIView):
    """One of them."""

    permission_classes = [IsHere]

    @extend_schema(operation_id="token_revoke", responses={200: ProfileOut, **REFUSALS})
    def delete(self, request: Request, token_key: str) -> Response:
        """Revoke it: it opens nothing any more."""
        person = person_of(request)
        revoke_token(get_object_or_404(ApiToken, user=person, token_key=token_key), actor=person)
        return answer(profile_of(person, key_of(request)))


class PersonTokenView(APIView):
    """A token of somebody of the depot."""

    permission_classes = [IsLeadHere]

    @extend_schema(operation_id="person_token_revoke", responses={200: People, **REFUSALS})
    def delete(self, request: Request, person_id: int, token_key: str) -> Response:
        """Revoke it. Leads only."""
        lead = person_of(request)
        revoke_token(get_object_or_404(ApiToken, user=_one(request, person_id), token_key=token_key), actor=lead)
        return answer(people_of(lead.own_depot, key_of(request)))
