"""Stateless calculators over the core; they serve the live worksheets."""

from __future__ import annotations

from typing import Any

from django.urls import path
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from compute.calculators import CALCULATORS as ROWS
from compute.calculators import Calculator
from config.boundary import body_of
from config.refusals import Problem
from temper_core.basis.policy import Policy


def _policy_of(request: Request) -> Policy:
    """The rules of the person's depot; those that ship, for somebody of no depot."""
    depot = getattr(request.user, "depot", None)
    return depot.policy if depot else Policy()


def _address(row: Calculator) -> Any:
    """The address of one calculator: parse, compute, answer as the core says."""

    def post(self: APIView, request: Request) -> Response:
        return Response(row.answer(body_of(request, row.asks), _policy_of(request)))

    post.__doc__ = row.does
    described = extend_schema(
        operation_id=f"compute_{row.name.replace('-', '_')}", request=row.asks, responses={200: row.says, 400: Problem}
    )(post)
    view: Any = type(f"{row.name.title().replace('-', '')}View", (APIView,), {"post": described, "__doc__": row.does})
    return path(f"api/compute/{row.name}", view.as_view())


CALCULATORS = [_address(row) for row in ROWS]
