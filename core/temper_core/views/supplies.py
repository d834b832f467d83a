"""What a job will need, said before anything is opened, and whether it is here."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.policy import Policy
from temper_core.job.job_types import JobType, Stage
from temper_core.job.loop import Loop
from temper_core.job.mix.cost import ChangeCost
from temper_core.job.stages import STAGES_OF
from temper_core.machine.circuit import BleederKind
from temper_core.products.agents import Agent, dose
from temper_core.products.chemistry import Product


class SupplyKind(StrEnum):
    """What is needed."""

    COOLANT = "coolant"
    MIX_WATER = "mix_water"
    RINSE_WATER = "rinse_water"
    CLEANER = "cleaner"
    SEALS = "seals"
    CONTAINERS = "containers"


@dataclass(frozen=True, slots=True)
class Supply:
    """One thing a job will need: litres, or pieces. have_l: on the shelf; None: nobody counts it there. name: of the line.

    short_l: what is missing; None where it is here or not counted.
    """

    kind: SupplyKind
    name: str
    need_l: float | None
    need_pieces: int | None
    have_l: float | None
    short_l: float | None


@dataclass(frozen=True, slots=True)
class Stock:
    """Litres on the shelf of each coolant and each agent by its number, and of demineralised water.

    None for whatever the depot keeps no container of, so that nothing is called short that nobody counts.
    """

    coolants: Mapping[str, float] | None = None
    agents: Mapping[str, float] | None = None
    water_l: float | None = None


def supplies(
    loop: Loop,
    job_type: JobType,
    product: Product,
    cost: ChangeCost,
    cleaners: Mapping[str, Agent],
    stock: Stock,
    policy: Policy,
) -> tuple[Supply, ...]:
    """All a job will need, in the order it is used; cleaners: of the depot, by their number. Never raises."""
    return tuple(_all(loop, job_type, product, cost, cleaners, stock, policy))


def _all(
    loop: Loop,
    job_type: JobType,
    product: Product,
    cost: ChangeCost,
    cleaners: Mapping[str, Agent],
    stock: Stock,
    policy: Policy,
) -> Iterator[Supply]:
    flushed = Stage.FLUSH in STAGES_OF[job_type]
    waste_l = cost.waste_l if flushed else min(cost.waste_l, loop.capacity_l)
    size = policy["waste_container_l"]
    yield _pieces(SupplyKind.CONTAINERS, f"empty containers of {size:g} L", max(1, math.ceil(waste_l / size)))
    seals = len(loop.layout.drains) + sum(1 for row in loop.layout.bleeders if row.kind is BleederKind.SCREW)
    if seals:
        yield _pieces(SupplyKind.SEALS, "seals of drains and bleed screws, and the cap's", seals + 1)
    last_l = 0.0
    if flushed and cost.rinse_water_l > 0:
        last_l = cost.rinse_water_l / max(1, cost.rinses or int(policy["most_rounds"]))
        rest_l = cost.rinse_water_l - last_l
        if rest_l > 0:
            yield _held(SupplyKind.RINSE_WATER, "rinse water", rest_l, None)
    if job_type is JobType.CLEAN:
        yield _cleaner(loop, cleaners, stock)
    water_l = cost.mix_water_l + last_l
    if water_l > 0:
        yield _held(SupplyKind.MIX_WATER, "demineralised water, with the last rinse", water_l, stock.water_l)
    have = None if stock.coolants is None else stock.coolants.get(product.id, 0.0)
    yield _held(SupplyKind.COOLANT, product.name, cost.product_l, have)


def _cleaner(loop: Loop, cleaners: Mapping[str, Agent], stock: Stock) -> Supply:
    """The cleaner of which most is here; a dose in litres."""
    rows = [
        (
            0.0 if stock.agents is None else stock.agents.get(key, 0.0),
            agent.name,
            dose(agent, loop.capacity_l).exact_ml / 1000,
        )
        for key, agent in cleaners.items()
    ]
    if not rows:
        return _pieces(SupplyKind.CLEANER, "cleaner, by its label", 1)
    have, name, need = max(rows, key=lambda row: row[0] - row[2])
    return _held(SupplyKind.CLEANER, name, need, None if stock.agents is None else have)


def _held(kind: SupplyKind, name: str, need_l: float, have_l: float | None) -> Supply:
    short = need_l - have_l if have_l is not None and have_l < need_l - 0.05 else None
    return Supply(kind, name, need_l, None, have_l, short)


def _pieces(kind: SupplyKind, name: str, pieces: int) -> Supply:
    return Supply(kind, name, None, pieces, None, None)
