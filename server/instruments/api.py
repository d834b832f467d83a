"""Instruments of the depot."""

from __future__ import annotations

from django.conf import settings
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.exceptions import NotFound
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.refusals import Problem
from instruments.actions import check_zero, keep_instrument, learn_bias
from instruments.drivers import driver_of
from instruments.models import Instrument
from instruments.queries import all_instruments, one_instrument
from instruments.schemas import BiasIn, InstrumentIn, InstrumentOut, Instruments, SampleIn, TakeIn, Taken, ZeroIn
from people.permissions import IsLead, IsOfADepot, person_of
from temper_core.basis.errors import CoreError


def _instrument(request: Request, instrument_id: int) -> Instrument:
    return get_object_or_404(Instrument, pk=instrument_id, depot=person_of(request).own_depot)


class InstrumentsView(APIView):
    """Instruments of the depot."""

    def get_permissions(self) -> list[IsOfADepot]:
        """Members read, leads add."""
        return [IsLead() if self.request.method == "POST" else IsOfADepot()]

    @extend_schema(operation_id="instruments_list", responses={200: Instruments})
    def get(self, request: Request) -> Response:
        """All instruments, by name, each with its zero and its checks; and what is known of kinds and scales."""
        return answer(all_instruments(person_of(request).own_depot))

    @extend_schema(operation_id="instrument_add", request=InstrumentIn, responses={201: InstrumentOut, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Add an instrument; the same id twice adds it once. Leads only."""
        return answer(one_instrument(keep_instrument(body_of(request, InstrumentIn), None, actor=person_of(request))), 201)


class InstrumentView(APIView):
    """One instrument."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="instrument_edit", request=InstrumentIn, responses={200: InstrumentOut, **REFUSALS})
    def put(self, request: Request, instrument_id: int) -> Response:
        """Change it; leads only. What was read on it already keeps the scale it had."""
        return answer(
            one_instrument(keep_instrument(body_of(request, InstrumentIn), instrument_id, actor=person_of(request)))
        )


class ZeroView(APIView):
    """Zero check of one instrument."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instrument_zero", request=ZeroIn, responses={200: InstrumentOut, 400: Problem})
    def post(self, request: Request, instrument_id: int) -> Response:
        """Note a zero check."""
        instrument = _instrument(request, instrument_id)
        return answer(one_instrument(check_zero(instrument, body_of(request, ZeroIn), actor=person_of(request))))


class BiasView(APIView):
    """What paired readings taught of an instrument."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="instrument_bias", request=BiasIn, responses={200: InstrumentOut, **REFUSALS})
    def post(self, request: Request, instrument_id: int) -> Response:
        """Correct what it reads from now on by its bias against another instrument, or take that back. Leads only."""
        instrument, person = _instrument(request, instrument_id), person_of(request)
        return answer(one_instrument(learn_bias(instrument, body_of(request, BiasIn).against_id, actor=person)))


class TakeView(APIView):
    """An instrument that reads by itself."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instrument_take", request=TakeIn, responses={200: Taken, **REFUSALS})
    def post(self, request: Request, instrument_id: int) -> Response:
        """Take a reading; asked again with the same id the same one comes back. Nothing is recorded by it."""
        instrument, given = _instrument(request, instrument_id), body_of(request, TakeIn)
        if not instrument.address:
            raise CoreError("id", f"{instrument.name} is not connected. Type what it shows.", "no_driver")
        read = driver_of(instrument.address).measure(str(given.id))
        return answer(Taken(id=given.id, value=read.value, sample_c=read.sample_c))


class SampleView(APIView):
    """What lies on the simulated instrument; only where the demo runs."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="instrument_sample", request=SampleIn, responses={204: None, **REFUSALS})
    def put(self, request: Request, instrument_id: int) -> Response:
        """Lay a sample on it."""
        instrument = _instrument(request, instrument_id)
        if settings.PRODUCTION or not instrument.address:
            raise NotFound
        driver_of(instrument.address).ask({"do": "put", **body_of(request, SampleIn).model_dump()})
        return Response(status=204)
