"""Stateless calculators over the core; they serve the live worksheets."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from pydantic import TypeAdapter
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from compute.shapes import MixIn, MixOut, ReadingIn, ReadingOut
from config.boundary import body_of
from config.problems import Problem
from temper_core import mix as core_mix
from temper_core import reading as core_reading

_MIX = TypeAdapter(core_mix.MixAnswer)
_READING = TypeAdapter(core_reading.ReadingAnswer)


class MixView(APIView):
    """Concentrate and water on top of what is inside."""

    @extend_schema(operation_id="compute_mix", request=MixIn, responses={200: MixOut, 400: Problem})
    def post(self, request: Request) -> Response:
        """Litres of concentrate and of water that reach a freeze point."""
        return Response(_MIX.dump_python(core_mix.mix(body_of(request, MixIn).to_core()), mode="json"))


class ReadingView(APIView):
    """A reading, corrected."""

    @extend_schema(operation_id="compute_reading", request=ReadingIn, responses={200: ReadingOut, 400: Problem})
    def post(self, request: Request) -> Response:
        """What a line on a freeze scale really says."""
        return Response(_READING.dump_python(core_reading.read(body_of(request, ReadingIn).to_core()), mode="json"))
