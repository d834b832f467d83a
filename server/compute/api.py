"""Stateless calculators over the core; they serve the live worksheets."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.urls import path
from drf_spectacular.utils import extend_schema
from pydantic import BaseModel, TypeAdapter
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from compute import flushing, mixes, others
from config.boundary import body_of
from config.problems import Problem
from temper_core.basis.policy import Policy
from temper_core.calculate.boil import BoilAnswer, boil
from temper_core.calculate.cooldown import CooldownAnswer, cooldown
from temper_core.calculate.expansion import ExpansionAnswer, expansion
from temper_core.calculate.flush import FlushAnswer, flush
from temper_core.calculate.mix import (
    BatchAnswer,
    CorrectionAnswer,
    MixAnswer,
    ReadyMixAnswer,
    TopUpAnswer,
    WholeCansAnswer,
    batch,
    correct,
    mix,
    ready_mix,
    top_up,
    whole_cans,
)
from temper_core.calculate.vacuum import VacuumAnswer, vacuum
from temper_core.instruments import ReadingAnswer, read

Solve = Callable[..., Any]


def _policy_of(request: Request) -> Policy:
    """The rules of the person's depot; those that ship, for somebody of no depot."""
    depot = getattr(request.user, "depot", None)
    return depot.policy if depot else Policy()


def calculator(
    name: str,
    does: str,
    asks: type[BaseModel],
    says: type[BaseModel],
    result: Any,
    solve: Solve,
    *,
    by_policy: bool = False,
) -> Any:
    """The address of one calculator: parse, compute (by_policy: under the depot's rules), answer as the core says."""
    dump = TypeAdapter(result).dump_python

    def post(self: APIView, request: Request) -> Response:
        question = body_of(request, asks).to_core()  # type: ignore[attr-defined]
        answer = solve(question, _policy_of(request)) if by_policy else solve(question)
        return Response(dump(answer, mode="json"))

    post.__doc__ = does
    described = extend_schema(
        operation_id=f"compute_{name.replace('-', '_')}", request=asks, responses={200: says, 400: Problem}
    )(post)
    view: Any = type(f"{name.title().replace('-', '')}View", (APIView,), {"post": described, "__doc__": does})
    return path(f"api/compute/{name}", view.as_view())


CALCULATORS = [
    calculator(
        "mix",
        "Litres of concentrate and of water that reach a freeze point on top of what is inside.",
        mixes.MixIn,
        mixes.MixOut,
        MixAnswer,
        mix,
        by_policy=True,
    ),
    calculator(
        "ready-mix",
        "The result of ready-mix alone, by how much it misses, and the concentrate that mends it.",
        mixes.ReadyMixIn,
        mixes.ReadyMixOut,
        ReadyMixAnswer,
        ready_mix,
    ),
    calculator(
        "correction",
        "Litres to swap in a full loop for concentrate or water.",
        mixes.CorrectionIn,
        mixes.CorrectionOut,
        CorrectionAnswer,
        correct,
    ),
    calculator(
        "batch",
        "Containers to open, marks on bucket and jug, what to buy, what is left over, the cost.",
        mixes.BatchIn,
        mixes.BatchOut,
        BatchAnswer,
        batch,
    ),
    calculator(
        "whole-cans",
        "Whole cans instead of a little out of one more, and what that does to the freeze point.",
        mixes.WholeCansIn,
        mixes.WholeCansOut,
        WholeCansAnswer,
        whole_cans,
    ),
    calculator(
        "top-up",
        "What a top-up makes of a loop.",
        mixes.TopUpIn,
        mixes.TopUpOut,
        TopUpAnswer,
        top_up,
    ),
    calculator(
        "reading",
        "What a mark on an instrument's scale really says.",
        others.ReadingIn,
        others.ReadingOut,
        ReadingAnswer,
        read,
        by_policy=True,
    ),
    calculator(
        "boil",
        "Boiling point with this cap at this altitude.",
        others.BoilIn,
        others.BoilOut,
        BoilAnswer,
        boil,
    ),
    calculator(
        "expansion",
        "How far the fluid rises from cold to hot.",
        others.ExpansionIn,
        others.ExpansionOut,
        ExpansionAnswer,
        expansion,
    ),
    calculator(
        "flush",
        "What each round of a flush leaves, and how many reach the limit of the finished loop.",
        flushing.FlushIn,
        flushing.FlushOut,
        FlushAnswer,
        flush,
    ),
    calculator(
        "cooldown",
        "When a loop has cooled: an estimate for planning only.",
        flushing.CooldownIn,
        flushing.CooldownOut,
        CooldownAnswer,
        cooldown,
        by_policy=True,
    ),
    calculator(
        "vacuum",
        "How deep a pump gets here, how much air stays, how much fluid is drawn, and whether it holds.",
        others.VacuumIn,
        others.VacuumOut,
        VacuumAnswer,
        vacuum,
        by_policy=True,
    ),
]
