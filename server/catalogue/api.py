"""The catalogue: parse, permit, call, serialise."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from catalogue.actions import AnyLine, keep_line
from catalogue.queries import catalogue_of, product_out, products_of
from catalogue.schemas import AgentIn, Catalogue, ProductIn, ProductOut, WaterIn
from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.refusals import Problem
from config.shapes import Answer
from people.permissions import IsLead, IsOfADepot, person_of


class Products(Answer):
    """The depot's coolants."""

    products: list[ProductOut]


class CatalogueView(APIView):
    """The whole catalogue."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="catalogue_get", responses={200: Catalogue, 401: Problem, 403: Problem})
    def get(self, request: Request) -> Response:
        """Coolants with the loops they may go into, cleaners and additives, water with what it may be used for."""
        return answer(catalogue_of(person_of(request).own_depot))


class ProductsView(APIView):
    """Coolants of the depot."""

    def get_permissions(self) -> list[IsOfADepot]:
        """Members read, leads add."""
        return [IsLead() if self.request.method == "POST" else IsOfADepot()]

    @extend_schema(operation_id="products_list", responses={200: Products})
    def get(self, request: Request) -> Response:
        """All coolants, by name."""
        return answer(Products(products=[product_out(product) for product in products_of(person_of(request).own_depot)]))

    @extend_schema(operation_id="product_add", request=ProductIn, responses={201: Catalogue, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Add a coolant; leads only."""
        keep_line(body_of(request, ProductIn), None, actor=person_of(request))
        return answer(catalogue_of(person_of(request).own_depot), 201)


def _editor(noun: str, shape: type[AnyLine]) -> type[APIView]:
    class LineView(APIView):
        permission_classes = [IsLead]

        @extend_schema(operation_id=f"{noun}_edit", request=shape, responses={200: Catalogue, **REFUSALS})
        def put(self, request: Request, line_id: int) -> Response:
            """Change it; leads only. What was poured already keeps its composition as it was."""
            keep_line(body_of(request, shape), line_id, actor=person_of(request))
            return answer(catalogue_of(person_of(request).own_depot))

    LineView.__doc__ = f"One product line: {noun}."
    return LineView


def _adder(noun: str, shape: type[AnyLine]) -> type[APIView]:
    class LinesView(APIView):
        permission_classes = [IsLead]

        @extend_schema(operation_id=f"{noun}_add", request=shape, responses={201: Catalogue, **REFUSALS})
        def post(self, request: Request) -> Response:
            """Add it; the same id twice adds it once. Leads only."""
            keep_line(body_of(request, shape), None, actor=person_of(request))
            return answer(catalogue_of(person_of(request).own_depot), 201)

    LinesView.__doc__ = f"Product lines: {noun}."
    return LinesView


ProductView = _editor("product", ProductIn)
AgentView = _editor("agent", AgentIn)
WaterView = _editor("water", WaterIn)
AgentsView = _adder("agent", AgentIn)
WatersView = _adder("water", WaterIn)
