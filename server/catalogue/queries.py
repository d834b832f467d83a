"""Reads of the catalogue."""

from __future__ import annotations

from decimal import Decimal

from catalogue.models import Product
from config.boundary import Answer
from depots.models import Depot
from temper_core.chemistry import Base, Family, Form


class ProductOut(Answer):
    """A product of the depot; strength by volume of the default concentrate (None without glycol); price in its currency."""

    id: int
    name: str
    base: Base
    family: Family
    form: Form
    glycol_mass_percent: float
    strength_percent: float | None
    standards: tuple[str, ...]
    container_sizes_l: tuple[float, ...]
    price_per_l: Decimal | None


def product_out(product: Product) -> ProductOut:
    """A product as shown."""
    return ProductOut.model_validate(product, from_attributes=True)


def products_of(depot: Depot) -> list[Product]:
    """All products, by name."""
    return list(depot.products.all())
