"""Rules of a depot."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from pydantic import Field
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.refusals import Problem
from config.shapes import Body, Number
from depots.actions import put_away, set_rule
from depots.nights import enter_low, tonight
from depots.queries import PolicyOut, getting_started, policy_of
from depots.schemas import GettingStarted, NightOut
from people.permissions import IsLead, IsOfADepot, person_of


class RuleIn(Body):
    """A new value (null: the shipped one), and why."""

    value: Number | None
    reason: str = Field(default="", max_length=200)


class NightIn(Body):
    """The coming night's lowest temperature outdoors [degC]; null takes back what was entered."""

    low_c: Number | None


class NightView(APIView):
    """The coming night's low."""

    permission_classes = [IsLead]

    @extend_schema(
        operation_id="night_set", request=NightIn, responses={200: NightOut, 400: Problem, 401: Problem, 403: Problem}
    )
    def post(self, request: Request) -> Response:
        """Enter it; leads only."""
        depot = person_of(request).own_depot
        enter_low(depot, body_of(request, NightIn).low_c, actor=person_of(request))
        return answer(tonight(depot))


class GettingStartedView(APIView):
    """The first day of a depot."""

    def get_permissions(self) -> list[IsOfADepot]:
        """Members read, leads put it away."""
        return [IsLead() if self.request.method == "POST" else IsOfADepot()]

    @extend_schema(operation_id="getting_started", responses={200: GettingStarted, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """What is there and what is missing before the first job."""
        return answer(getting_started(person_of(request).own_depot))

    @extend_schema(
        operation_id="getting_started_put_away",
        request=None,
        responses={200: GettingStarted, 401: Problem, 403: Problem},
    )
    def post(self, request: Request) -> Response:
        """Put it away; leads only."""
        return answer(getting_started(put_away(person_of(request).own_depot, actor=person_of(request))))


class PolicyView(APIView):
    """The rules of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="policy_get", responses={200: PolicyOut, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """All rules with their reasons, origins and last changes."""
        return answer(policy_of(person_of(request).own_depot))


class RuleView(APIView):
    """One rule."""

    permission_classes = [IsLead]

    @extend_schema(
        operation_id="policy_set", request=RuleIn, responses={200: PolicyOut, 400: Problem, 401: Problem, 403: Problem}
    )
    def post(self, request: Request, key: str) -> Response:
        """Set a rule, or go back to what it ships with; leads only."""
        given = body_of(request, RuleIn)
        set_rule(person_of(request).own_depot, key, given.value, given.reason, actor=person_of(request))
        return answer(policy_of(person_of(request).own_depot))
