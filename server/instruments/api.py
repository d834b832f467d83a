"""Instruments of the depot."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import Problem
from instruments.actions import check_zero
from instruments.models import Instrument
from instruments.queries import instruments_of, one_instrument
from instruments.shapes import InstrumentOut, Instruments, ZeroIn
from people.permissions import IsOfADepot


class InstrumentsView(APIView):
    """Instruments of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instruments_list", responses={200: Instruments})
    def get(self, request: Request) -> Response:
        """All instruments, by name, each with its zero and its checks."""
        return answer(Instruments(instruments=instruments_of(request.user.depot)))


class ZeroView(APIView):
    """Zero check of one instrument."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instrument_zero", request=ZeroIn, responses={200: InstrumentOut, 400: Problem})
    def post(self, request: Request, instrument_id: int) -> Response:
        """Note a zero check."""
        instrument = get_object_or_404(Instrument, pk=instrument_id, depot=request.user.depot)
        return answer(one_instrument(check_zero(instrument, body_of(request, ZeroIn), actor=request.user)))
