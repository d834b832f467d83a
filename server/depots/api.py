"""Rules of a depot."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from pydantic import Field
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import Body, Number, answer, body_of
from config.problems import Problem
from depots.actions import set_rule
from depots.queries import PolicyOut, policy_of
from people.permissions import IsLead, IsOfADepot, person_of


class RuleIn(Body):
    """A new value (null: the shipped one), and why."""

    value: Number | None
    reason: str = Field(default="", max_length=200)


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
