"""Reads of the catalogue."""

from __future__ import annotations

from collections import Counter

from catalogue.models import Product, WaterSource
from catalogue.schemas import AgentOut, Catalogue, Fits, ProductLine, ProductOut, WaterOut
from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from temper_core.basis.policy import Policy
from temper_core.products.compatibility import Verdict, judge_product
from temper_core.products.water import WaterKind, judge_water

MOST_NAMES = 6


def product_out(product: Product) -> ProductOut:
    """A product as shown."""
    return ProductOut.model_validate(product, from_attributes=True)


def products_of(depot: Depot) -> list[Product]:
    """All coolants, by name."""
    return list(depot.products.all())


def _fits(product: Product, loops: list[Loop], policy: Policy) -> Fits:
    verdicts = [(loop, judge_product(product.core, loop.requirement, loop.core.believed, policy).verdict) for loop in loops]
    count = Counter(verdict for _, verdict in verdicts)
    where = [f"{loop.machine.fleet_number}" for loop, verdict in verdicts if verdict is Verdict.FITS]
    return Fits(
        fits=count[Verdict.FITS],
        after_change_out=count[Verdict.FITS_AFTER_CHANGE_OUT],
        emergency=count[Verdict.EMERGENCY_ONLY],
        no=count[Verdict.NO],
        where=where[:MOST_NAMES],
    )


def water_out(source: WaterSource, policy: Policy) -> WaterOut:
    """A water source with what it may be used for."""
    plain = {name: getattr(source, name) for name in WaterOut.model_fields if name != "judged"}
    return WaterOut(**plain, judged=judge_water(WaterKind(source.kind), source.analysis, policy))


def catalogue_of(depot: Depot) -> Catalogue:
    """Every line, with the loops each coolant may go into by what is believed inside them."""
    loops, policy = list(loops_of(depot).order_by("machine__fleet_number", "position")), depot.policy
    return Catalogue(
        products=[
            ProductLine(product=product_out(product), fits=_fits(product, loops, policy), edited_at=product.edited_at)
            for product in products_of(depot)
        ],
        agents=[AgentOut.model_validate(agent, from_attributes=True) for agent in depot.agents.all()],
        waters=[water_out(source, policy) for source in depot.waters.all()],
    )
