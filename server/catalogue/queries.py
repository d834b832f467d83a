"""Reads of the catalogue."""

from __future__ import annotations

from collections import Counter

from catalogue.models import Agent, Product, WaterSource
from catalogue.schemas import AgentOut, Catalogue, Fits, ProductLine, ProductOut, WaterOut
from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from temper_core.basis.policy import Policy
from temper_core.job.mix.cost import Prices
from temper_core.products.agents import AgentKind
from temper_core.products.compatibility import Verdict, judge_product
from temper_core.products.water import WaterKind, judge_water

MOST_NAMES = 6


def product_out(product: Product) -> ProductOut:
    """A product as shown."""
    return ProductOut.model_validate(product, from_attributes=True)


def products_of(depot: Depot) -> list[Product]:
    """All coolants, by name."""
    return list(depot.products.all())


def cleaners_of(depot: Depot) -> list[Agent]:
    """The cleaners among the agents."""
    return list(depot.agents.filter(kind=AgentKind.CLEANER.value))


def water_price(depot: Depot) -> float | None:
    """What a litre of demineralised water costs here; None where nobody entered it."""
    source = (
        depot.waters.filter(kind=WaterKind.DEMINERALISED.value, price_per_l__isnull=False).order_by("price_per_l").first()
    )
    return float(source.price_per_l) if source and source.price_per_l is not None else None


def prices_of(product: Product, water_per_l: float | None) -> Prices:
    """Prices as the core takes them."""
    return Prices(float(product.price_per_l) if product.price_per_l is not None else None, water_per_l)


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
