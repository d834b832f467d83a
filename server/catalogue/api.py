"""The catalogue."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from catalogue.queries import ProductOut, product_out, products_of
from config.boundary import Answer, answer
from people.permissions import IsOfADepot


class Products(Answer):
    """The depot's products."""

    products: list[ProductOut]


class ProductsView(APIView):
    """Products of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="products_list", responses={200: Products})
    def get(self, request: Request) -> Response:
        """All products, by name."""
        return answer(Products(products=[product_out(product) for product in products_of(request.user.depot)]))
