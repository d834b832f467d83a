"""Instruments of the depot."""

from __future__ import annotations

from datetime import datetime

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import Answer, Body, Number, answer, body_of
from config.problems import Problem
from instruments.actions import set_zero
from instruments.models import Instrument
from people.permissions import IsOfADepot
from temper_core.reading import Scale


class InstrumentOut(Answer):
    """An instrument; resolution in K, zero in degC as water last read."""

    id: int
    name: str
    scale: Scale
    resolution: float
    zero: float
    zeroed_at: datetime | None


class Instruments(Answer):
    """The depot's instruments."""

    instruments: list[InstrumentOut]


class ZeroIn(Body):
    """What demineralised water reads now [degC on the instrument's scale]."""

    zero: Number


class InstrumentsView(APIView):
    """Instruments of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instruments_list", responses={200: Instruments})
    def get(self, request: Request) -> Response:
        """All instruments, by name."""
        shown = [InstrumentOut.model_validate(i, from_attributes=True) for i in request.user.depot.instruments.all()]
        return answer(Instruments(instruments=shown))


class ZeroView(APIView):
    """Zero check of one instrument."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instrument_zero", request=ZeroIn, responses={200: InstrumentOut, 400: Problem})
    def post(self, request: Request, instrument_id: int) -> Response:
        """Note a zero check."""
        instrument = get_object_or_404(Instrument, pk=instrument_id, depot=request.user.depot)
        zero = body_of(request, ZeroIn).zero
        return answer(InstrumentOut.model_validate(set_zero(instrument, zero, actor=request.user), from_attributes=True))
