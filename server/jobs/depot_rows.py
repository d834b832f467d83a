"""Rows of a depot's lists out of the database, as entries need them."""

from __future__ import annotations

from typing import TypeVar

from django.db.models import Model
from shelf.models import Can

from catalogue.models import Agent, Product, WaterSource
from config.refusals import NotFound
from depots.models import Depot
from instruments.models import Instrument
from jobs.entry_facts import ListedInstrument, ListedWater
from temper_core.instruments import InstrumentKind
from temper_core.products.agents import Agent as CoreAgent
from temper_core.products.chemistry import Product as CoreProduct
from temper_core.products.shelf import Can as CoreCan
from temper_core.products.water import WaterKind, judge_water

M = TypeVar("M", bound=Model)


class DatabaseRows:
    """See jobs.entry_facts.DepotRows."""

    def __init__(self, depot: Depot) -> None:
        self._depot = depot

    def _row(self, model: type[M], pk: int) -> M:
        row = model._default_manager.filter(pk=pk, depot=self._depot).first()
        if row is None:
            raise NotFound
        return row

    def product(self, pk: int) -> CoreProduct:
        """A coolant."""
        return self._row(Product, pk).core

    def agent(self, pk: int) -> CoreAgent:
        """A cleaner or an additive."""
        return self._row(Agent, pk).core

    def can(self, pk: int) -> CoreCan:
        """A container on the shelf."""
        return self._row(Can, pk).core

    def instrument(self, pk: int) -> ListedInstrument:
        """An instrument."""
        row = self._row(Instrument, pk)
        return ListedInstrument(row.name, InstrumentKind(row.kind), row.core if row.scale else None, row.zero)

    def water(self, pk: int) -> ListedWater:
        """A water source."""
        row, kind = self._row(WaterSource, pk), WaterKind(self._row(WaterSource, pk).kind)
        return ListedWater(row.name, kind, row.solids_mg_l, judge_water(kind, row.analysis, self._depot.policy))
