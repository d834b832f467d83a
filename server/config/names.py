"""The names of the trade, as the core has them."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer
from config.refusals import Problem
from config.shapes import Answer
from people.permissions import IsOfADepot
from temper_core.views.names import NAMES


class Names(Answer):
    """For each list of codes, the name of each code."""

    names: dict[str, dict[str, str]]


class NamesView(APIView):
    """Names of families, bases, job types, stages, methods and the like."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="names_get", responses={200: Names, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """Every code that the other answers use, with its name."""
        return answer(Names(names={key: dict(rows) for key, rows in NAMES.items()}))
