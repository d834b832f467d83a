"""The depot's lists out of a kit, as entries and pages need them; no Django in here."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeVar

from bay.kit import KitDepot, KitInstrument
from catalogue.schemas import AgentOut, ProductOut, WaterOut
from config.refusals import NotFound
from jobs.entry_facts import ListedInstrument, ListedWater
from jobs.pages import Lists, core_agent, core_product
from temper_core.products.agents import Agent
from temper_core.products.chemistry import Product
from temper_core.products.shelf import Can

Row = TypeVar("Row", ProductOut, AgentOut, WaterOut, KitInstrument)


def _of(rows: Iterable[Row], pk: int) -> Row:
    found = next((row for row in rows if row.id == pk), None)
    if found is None:
        raise NotFound
    return found


class KitRows:
    """See jobs.entry_facts.DepotRows."""

    def __init__(self, depot: KitDepot) -> None:
        self._depot = depot
        self.lists = Lists(depot.products, depot.agents, depot.waters, depot.currency, depot.stock)

    def product(self, pk: int) -> Product:
        """A coolant."""
        return core_product(_of(self._depot.products, pk))

    def agent(self, pk: int) -> Agent:
        """A cleaner or an additive."""
        return core_agent(_of(self._depot.agents, pk))

    def can(self, pk: int) -> Can:
        """A container on the shelf."""
        found = next((row for row in self._depot.cans if row.id == str(pk)), None)
        if found is None:
            raise NotFound
        return found

    def instrument(self, pk: int) -> ListedInstrument:
        """An instrument."""
        row = _of(self._depot.instruments, pk)
        return ListedInstrument(row.name, row.kind, row.core, row.zero)

    def water(self, pk: int) -> ListedWater:
        """A water source."""
        row = _of(self._depot.waters, pk)
        return ListedWater(row.name, row.kind, row.solids_mg_l, row.judged)
