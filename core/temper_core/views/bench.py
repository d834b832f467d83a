"""The bench: everything that one loop's page shows of its record, built from plain data.

No database and no clock in it: whoever has the facts (a server, a browser, a test) builds the same bench.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from temper_core.basis.message import Message
from temper_core.basis.policy import SHIPPED, Policy
from temper_core.job.dose.offer import AdditiveOffer, offered
from temper_core.job.entries import Entry, PhotoAdded, standing
from temper_core.job.flush.ahead import RoundAhead, rounds_ahead
from temper_core.job.flush.facts import SWEEPS, Method
from temper_core.job.flush.methods import FlushMethodPlan, plan_methods
from temper_core.job.fold import state_of
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Opens, opens
from temper_core.job.job_types import CLOSED_TYPES, JobType, Stage
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.life.taught import taught_words
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.mix.cost import ChangeCost, Prices, change_cost
from temper_core.job.stages import STAGES_OF
from temper_core.job.waiting.state import Wait
from temper_core.job.waiting.view import wait_of
from temper_core.machine.bleed_recipes import shipped_recipes
from temper_core.machine.bleeding import BleedRecipe
from temper_core.machine.drain_points import DrainPlan, drain_plan
from temper_core.machine.equipment import level_words
from temper_core.products.agents import Agent, Dose, Runs, dose, runs
from temper_core.products.chemistry import Product
from temper_core.products.compatibility import ORDER, Judged, Verdict, judge_product
from temper_core.products.conductivity import ConductivityLimit, limit_for
from temper_core.science import Glycol
from temper_core.views.cautions import CautionPlace, cautions_at
from temper_core.views.frost_scale import FrostScale, frost_scale
from temper_core.views.supplies import Stock, Supply, supplies

MOST_RECENT = 80  # of one job; a flush over days has dozens


@dataclass(frozen=True, slots=True)
class Offer:
    """A coolant of the depot, with what it costs."""

    product: Product
    prices: Prices


@dataclass(frozen=True, slots=True)
class BenchFacts:
    """What a bench is built from. entries: of this loop, all of them. now: the depot's clock. cleaners: of the depot, by
    their number, and its additives; stock: what stands on its shelf.
    """

    loop: Loop
    entries: Sequence[Entry]
    policy: Policy
    now: datetime
    offers: Sequence[Offer]
    cleaners: Mapping[str, Agent]
    stock: Stock
    additives: Mapping[str, Agent] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class BenchChoice:
    """A coolant with its verdict for this loop, and what the change costs; None where it may not go in, or is no choice.

    supplies: all that this job will need with it, and whether it is here; none where it costs nothing yet.
    """

    product_id: str
    judged: Judged
    cost: ChangeCost | None
    supplies: tuple[Supply, ...]


@dataclass(frozen=True, slots=True)
class BenchCleaner:
    """A cleaner with its dose for this loop, its run times and its limit."""

    dose: Dose
    runs: Runs


@dataclass(frozen=True, slots=True)
class BenchFlush:
    """What a flush is planned with: the methods side by side, rounds ahead of the usual one, cleaners in their order.

    sweeps: the methods that sweep vessels while they run out, instead of filling the loop.
    """

    sweeps: tuple[Method, ...]
    methods: tuple[FlushMethodPlan, ...]
    ahead: tuple[RoundAhead, ...]
    cleaners: tuple[BenchCleaner, ...]


@dataclass(frozen=True, slots=True)
class Told:
    """One entry in words."""

    entry_id: str
    said: Message


@dataclass(frozen=True, slots=True)
class BenchPhoto:
    """A picture of an entry; its file is named by its hash."""

    entry_id: str
    sha256: str


@dataclass(frozen=True, slots=True)
class BenchView:
    """One loop's page.

    flushing: None where the job has no flush, or it is over. dosing: the additives, where the job doses. recent: this job's
    last standing entries, newest first.
    level_opens: the level of this loop is only seen with its cap off. conductivity_limit: None where none is known.
    taught: what its jobs say of each stage, as a lead took it over.
    """

    state: LoopState
    choices: tuple[BenchChoice, ...]
    wait: Wait
    drain: DrainPlan
    flushing: BenchFlush | None
    dosing: tuple[AdditiveOffer, ...]
    recent: tuple[Told, ...]
    photos: tuple[BenchPhoto, ...]
    recipes: tuple[BleedRecipe, ...]
    level: Message
    cautions: Mapping[CautionPlace, tuple[Message, ...]]
    stated_in: str
    wants_conductivity: bool
    conductivity_limit: ConductivityLimit | None
    level_opens: bool
    taught: Mapping[Stage, tuple[Message, ...]]
    frost_scales: tuple[FrostScale, ...]
    coldest_c: float
    altitude_m: float
    policy: Mapping[str, float]


def bench(facts: BenchFacts) -> BenchView:
    """The bench of a loop; never raises on a record whose entries were validated."""
    loop, policy = facts.loop, facts.policy
    fold = walk(loop, facts.entries, policy, now=facts.now)
    state, built, need = state_of(fold), loop.equipment, loop.need
    return BenchView(
        state=state,
        choices=tuple(_choices(facts, fold)),
        wait=wait_of(state, facts.now),
        drain=drain_plan(loop.layout, built, policy),
        flushing=_flushing(facts, fold, state),
        dosing=offered(fold, facts.additives),
        recent=tuple(_recent(facts.entries, state.job_id)),
        photos=photos_of(facts.entries),
        recipes=tuple(shipped_recipes(loop.layout)),
        level=level_words(built),
        cautions={place: tuple(cautions_at(place, built, need, loop.high_voltage)) for place in CautionPlace},
        stated_in=need.stated_in,
        wants_conductivity=need.low_conductivity and state.stage is Stage.VERIFY,
        conductivity_limit=limit_for(need.use, built.conductivity_limit_us_cm, policy),
        level_opens=opens(Opens.LEVEL, built),
        taught=taught_words(loop),
        frost_scales=tuple(frost_scale(glycol) for glycol in Glycol),
        coldest_c=loop.coldest_c,
        altitude_m=loop.altitude_m,
        policy={rule.key: policy[rule.key] for rule in SHIPPED},
    )


def _choices(facts: BenchFacts, t: LedgerFold) -> list[BenchChoice]:
    """All coolants with their verdicts and, until something is drained, what the change costs; best first."""
    topping_up, planned = t.job.job_type is JobType.TOP_UP, t.job.mix.planned
    coldest_c = planned.coldest_c if planned else facts.loop.coldest_c
    costed = t.job.drained is None and not t.job.pours and not topping_up
    rows = []
    for offer in facts.offers:
        product = offer.product
        judged, cost = judge_product(product, facts.loop.need, t.found, facts.policy, topping_up=topping_up), None
        if judged.verdict is not Verdict.NO and costed:
            cost = change_cost(facts.loop, t.contents, product, judged, facts.policy, offer.prices, coldest_c)
        needs: tuple[Supply, ...] = ()
        if cost is not None and t.job.job_type is not None and t.job.job_type not in CLOSED_TYPES:
            needs = supplies(facts.loop, t.job.job_type, product, cost, facts.cleaners, facts.stock, facts.policy)
        rows.append((ORDER[judged.verdict], product.form.value, product.name, BenchChoice(product.id, judged, cost, needs)))
    return [row[3] for row in sorted(rows, key=lambda row: row[:3])]


def _flushing(facts: BenchFacts, t: LedgerFold, state: LoopState) -> BenchFlush | None:
    """From the drain on and until the flush is ended."""
    if state.job_id is None or state.signed_at is not None or state.job_type is None:
        return None
    if Stage.FLUSH not in STAGES_OF[state.job_type] or state.stage in (None, Stage.IDENTIFY):
        return None
    if state.flush is not None and state.flush.ended:
        return None
    cleaners = (
        BenchCleaner(dose(agent, facts.loop.capacity_l), runs(agent, facts.policy)) for agent in facts.cleaners.values()
    )
    return BenchFlush(tuple(sorted(SWEEPS)), tuple(plan_methods(t)), tuple(rounds_ahead(t)), tuple(cleaners))


def _recent(entries: Sequence[Entry], job_id: str | None) -> list[Told]:
    """This job's standing entries, newest first, in words."""
    own = [entry for entry in standing(entries) if entry.job_id == job_id]
    return [Told(entry.id, REGISTRY.sentence(entry.facts)) for entry in own[: -MOST_RECENT - 1 : -1]] if job_id else []


def photos_of(entries: Sequence[Entry]) -> tuple[BenchPhoto, ...]:
    """Photos that stand, of entries that stand."""
    alive = standing(entries)
    known = {entry.id for entry in alive}
    return tuple(
        BenchPhoto(entry.facts.entry_id, entry.facts.sha256)
        for entry in alive
        if isinstance(entry.facts, PhotoAdded) and entry.facts.entry_id in known
    )
