"""Health of this Temper, for a monitor."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

import temper_core
from backups.health import checks
from config.boundary import answer
from config.problems import REFUSALS
from config.shapes import Answer
from people.models import Person
from people.permissions import IsLead


class HealthCheck(Answer):
    """One thing that was looked at. said: its figures in words; null for who is not signed in."""

    name: str
    ok: bool
    said: str | None


class Health(Answer):
    """Whether all is well. version: null for who is not signed in."""

    ok: bool
    version: str | None
    checks: list[HealthCheck]


def health_of(known: bool) -> Health:
    """Everything that was looked at; in words for who is known."""
    found = checks()
    rows = [HealthCheck(name=row.name, ok=row.ok, said=row.said if known else None) for row in found]
    return Health(ok=all(row.ok for row in found), version=temper_core.__version__ if known else None, checks=rows)


class DataView(APIView):
    """Whether a depot's data is kept safely, for its leads."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="data_get", responses={200: Health, **REFUSALS})
    def get(self, request: Request) -> Response:
        """As the monitor's address has it, in words, and always 200. Leads only."""
        return answer(health_of(known=True))


class HealthView(APIView):
    """For a monitor: 200 where all is well, 503 where something needs a hand."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="health_get", responses={200: Health, 503: Health})
    def get(self, request: Request) -> Response:
        """Writing, migrations, disk, last backup, integrity; in words for who is signed in or has a token."""
        known = isinstance(request.user, Person) and request.user.is_active
        health = health_of(known)
        return answer(health, 200 if health.ok else 503)
