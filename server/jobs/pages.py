"""The pages of one loop, put together from plain data; no Django in here.

A server reads that data out of its database, a browser without a network out of what it keeps: the page is the same.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, fields
from datetime import datetime
from functools import cached_property
from uuid import UUID

from catalogue.schemas import AgentOut, ProductOut, WaterOut
from fleet.schemas import MachineOut
from jobs.lines import entry_out, entry_outs
from jobs.schemas import (
    AdditiveChoice,
    Bench,
    Choice,
    CleanerChoice,
    DraftOut,
    FlushBench,
    Ledger,
    LoopHistory,
    LoopOut,
    PhotoOut,
    SignedResult,
)
from jobs.stored import Stored, cores_of_stored
from people.shown import PersonOut
from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry, facts_now
from temper_core.job.fold import fold
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.mix.cost import Prices
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.chemistry import Product
from temper_core.products.water import WaterKind
from temper_core.views.bench import BenchFacts, BenchFlush, BenchPhoto, BenchView, Offer, bench, photos_of
from temper_core.views.history import history
from temper_core.views.supplies import Stock


@dataclass(frozen=True)
class Lists:
    """A depot's lists as they are now, its currency, and what stands on its shelf."""

    products: Sequence[ProductOut]
    agents: Sequence[AgentOut]
    waters: Sequence[WaterOut]
    currency: str
    stock: Stock

    @property
    def cleaners(self) -> list[AgentOut]:
        """The cleaners among the agents."""
        return [row for row in self.agents if row.kind is AgentKind.CLEANER]

    @property
    def additives(self) -> list[AgentOut]:
        """The additives among the agents."""
        return [row for row in self.agents if row.kind is AgentKind.ADDITIVE]

    @property
    def water_per_l(self) -> float | None:
        """What a litre of demineralised water costs at least; None where nobody entered it."""
        prices = [row.price_per_l for row in self.waters if row.kind is WaterKind.DEMINERALISED]
        known = [float(price) for price in prices if price is not None]
        return min(known, default=None)


@dataclass(frozen=True)
class LoopRecord:
    """One loop with its record. opener: who opened the job in work, None where there is none; now: the depot's clock.

    people: everybody who recorded something here or works at the depot, by number.
    """

    loop: Loop
    machine: MachineOut
    shown: LoopOut
    rows: Sequence[Stored]
    people: Mapping[int, PersonOut]
    opener: int | None
    drafts: Sequence[DraftOut]
    in_doubt: Sequence[UUID]
    policy: Policy
    now: datetime

    @cached_property
    def core(self) -> list[Entry]:
        """Its entries as the core knows them; raises CoreError or ValueError where one cannot be read."""
        return cores_of_stored(self.rows)

    @property
    def state(self) -> LoopState:
        """Folded from its record."""
        return fold(self.loop, self.core, self.policy, self.now)


def core_product(product: ProductOut) -> Product:
    """A product as the core knows it: composition only."""
    return Product(
        id=str(product.id),
        name=product.name,
        base=product.base,
        family=product.family,
        form=product.form,
        glycol_mass_percent=product.glycol_mass_percent,
        standards=product.standards,
    )


def core_agent(agent: AgentOut) -> Agent:
    """A cleaner or an additive as the core knows it."""
    return Agent(
        name=agent.name,
        kind=agent.kind,
        container_ml=agent.container_ml,
        treats_l=agent.treats_l,
        light_min=agent.light_min,
        heavy_min=agent.heavy_min,
        limit_min=agent.limit_min,
        rinse_below_percent=agent.rinse_below_percent,
        nitrite_mg_l=agent.nitrite_mg_l,
        molybdate_mg_l=agent.molybdate_mg_l,
        families=tuple(agent.families),
    )


def bench_facts(record: LoopRecord, lists: Lists) -> BenchFacts:
    """What the core builds a bench from."""
    water = lists.water_per_l
    offers = [
        Offer(core_product(row), Prices(float(row.price_per_l) if row.price_per_l is not None else None, water))
        for row in lists.products
    ]
    cleaners = {str(row.id): core_agent(row) for row in lists.cleaners}
    additives = {str(row.id): core_agent(row) for row in lists.additives}
    return BenchFacts(record.loop, record.core, record.policy, record.now, offers, cleaners, lists.stock, additives)


_OWN = ("choices", "flushing", "dosing", "recent", "photos")
_AS_VIEWED = tuple(row.name for row in fields(BenchView) if row.name not in _OWN)


def bench_page(record: LoopRecord, lists: Lists, server_time: datetime) -> Bench:
    """Everything one loop's page needs. Raises whatever the core does over a record that it cannot digest."""
    view = bench(bench_facts(record, lists))
    product_by_id = {str(row.id): row for row in lists.products}
    agents = {str(row.id): row for row in lists.additives}
    by_id, edited = {str(row.id): row for row in record.rows}, facts_now(record.core)
    return Bench(
        **{name: getattr(view, name) for name in _AS_VIEWED},
        machine=record.machine,
        loop=record.shown,
        choices=[
            Choice(product=product_by_id[row.product_id], judged=row.judged, cost=row.cost, supplies=list(row.supplies))
            for row in view.choices
        ],
        drafts=list(record.drafts),
        by=hands_of(view.state, record) if record.opener is not None else None,
        isolators=isolators_of(record),
        flushing=_flush_bench(view.flushing, lists) if view.flushing else None,
        dosing=[AdditiveChoice(agent=agents[row.agent_id], dose=row.dose, refused=row.refused) for row in view.dosing],
        recent=[entry_out(by_id[row.entry_id], record.people, edited.get(row.entry_id)) for row in view.recent],
        photos=photo_outs(view.photos),
        in_doubt=list(record.in_doubt),
        currency=lists.currency,
        server_time=server_time,
    )


def isolators_of(record: LoopRecord) -> list[PersonOut]:
    """Who may isolate high voltage today, by name; nobody where this loop has none."""
    if not record.loop.high_voltage:
        return []
    today = record.now.date()
    may = [row for row in record.people.values() if row.isolates_until is not None and row.isolates_until >= today]
    return sorted(may, key=lambda row: row.name)


def hands_of(state: LoopState, record: LoopRecord) -> PersonOut | None:
    """Whose hands a job is in: who took it up last, or who opened it."""
    hands = int(state.hands_id) if state.hands_id else None
    return record.people.get(hands if hands in record.people else record.opener)  # type: ignore[arg-type]


def _flush_bench(view: BenchFlush, lists: Lists) -> FlushBench:
    """What a flush is planned with, with the depot's own lines."""
    return FlushBench(
        sweeps=list(view.sweeps),
        methods=list(view.methods),
        ahead=list(view.ahead),
        cleaners=[
            CleanerChoice(agent=row, dose=made.dose, runs=made.runs)
            for row, made in zip(lists.cleaners, view.cleaners, strict=True)
        ],
        waters=list(lists.waters),
    )


def photo_outs(photos: Iterable[BenchPhoto]) -> list[PhotoOut]:
    """Photos as shown."""
    return [PhotoOut(entry_id=UUID(row.entry_id), sha256=row.sha256) for row in photos]


def ledger_page(
    record: LoopRecord, core: list[Entry], state: LoopState | None, broken: str, signed: Sequence[SignedResult]
) -> Ledger:
    """Every entry, newest first, and the signed-off jobs. core: what can be read of it; state None: broken says why."""
    return Ledger(
        machine=record.machine,
        loop=record.shown,
        state=state,
        broken="" if state is not None else broken,
        entries=entry_outs(record.rows, record.people, core, record.now),
        signed=list(signed),
    )


def history_page(record: LoopRecord) -> LoopHistory:
    """A loop's life on one line, and how it stands today."""
    return LoopHistory(
        machine=record.machine,
        loop=record.shown,
        state=record.state,
        history=history(record.loop, record.core, record.policy, record.now),
        coldest_c=record.loop.coldest_c,
        photos=photo_outs(photos_of(record.core)),
    )
