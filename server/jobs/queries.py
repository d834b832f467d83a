"""Reads of jobs and ledgers; no query per row."""

from __future__ import annotations

import logging
from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import fields
from datetime import datetime
from functools import lru_cache, partial
from typing import Any, TypeVar
from uuid import UUID

from django.utils import timezone

from catalogue.models import Agent, Product
from catalogue.queries import cleaners_of, prices_of, product_out, products_of, water_out, water_price
from catalogue.schemas import AgentOut
from depots.models import Depot
from fleet.models import Loop
from fleet.schemas import MachineOut
from instruments.queries import doubtful_entries
from jobs.models import Draft, Entries, Entry, JobLoop, Photo, cores_of
from jobs.record_schemas import EntryOut, line_of, unreadable
from jobs.results import STATE, state_then
from jobs.schemas import (
    Bench,
    Choice,
    CleanerChoice,
    DraftOut,
    FlushBench,
    InspectionWords,
    Ledger,
    LoopHistory,
    LoopOut,
    PhotoOut,
    SignedResult,
    SpotRow,
)
from jobs.then import state_told
from people.models import Person
from people.schemas import person_out
from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.job.editing.outcome import editable
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.entries import facts_now
from temper_core.job.fact import Fact
from temper_core.job.fold import fold
from temper_core.job.inspect.facts import CHECKS, LOOKS, SPOT_NAMES, Spot
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop_state import LoopState
from temper_core.views.bench import BenchFacts, BenchFlush, BenchPhoto, BenchView, Offer, bench, photos_of
from temper_core.views.history import history

logger = logging.getLogger(__name__)


def entries_of(loop: Loop) -> Entries:
    """A loop's ledger in order, people at hand."""
    return Entry.objects.acting().filter(loop=loop).prefetch_related("person")


T = TypeVar("T")
NOT_DIGESTED = "This loop's record cannot be calculated. Open the record and undo the last entry."


def guarded(loop: Loop, make: Callable[[], T]) -> T | None:
    """What is made of one loop's record, or None where that cannot be worked out: a list of many survives it."""
    try:
        return make()
    except Exception:
        logger.exception("loop %s cannot be calculated", loop.pk)
        return None


def folded(loop: Loop, core: list[CoreEntry]) -> LoopState:
    """The loop folded from its ledger, by its depot's clock; raises Conflict where that cannot be worked out."""
    state = guarded(loop, lambda: fold(loop.core, core, loop.machine.depot.policy, loop.machine.depot.now))
    if state is None:
        raise Conflict("loop", NOT_DIGESTED, "not_digested")
    return state


def core_of(loop: Loop, rows: Iterable[Entry]) -> list[CoreEntry]:
    """Entries as the core knows them; raises Conflict where one cannot be read."""
    core = guarded(loop, lambda: cores_of(rows))
    if core is None:
        raise Conflict("loop", NOT_DIGESTED, "not_digested")
    return core


def state_of(loop: Loop, policy: Policy) -> LoopState:
    """The loop folded from its ledger, by its depot's clock."""
    return fold(loop.core, cores_of(entries_of(loop)), policy, loop.machine.depot.now)


def machine_out(loop: Loop) -> MachineOut:
    """Its machine, as shown."""
    return MachineOut.model_validate(loop.machine, from_attributes=True)


def _loop_out(loop: Loop) -> LoopOut:
    return LoopOut(
        id=loop.id,
        name=loop.name,
        position=loop.position,
        loops_on_machine=loop.machine.loops.count(),
        capacity_l=loop.capacity_l,
        capacity_source=loop.core.capacity_source,
        layout=loop.core.layout,
        high_voltage=loop.high_voltage,
        low_conductivity=loop.low_conductivity,
        cap_gauge_kpa=loop.cap_gauge_kpa,
        room_l=loop.core.layout.room_l,
    )


def photo_outs(photos: Iterable[BenchPhoto]) -> list[PhotoOut]:
    """Photos as shown."""
    return [PhotoOut(entry_id=UUID(row.entry_id), sha256=row.sha256) for row in photos]


def photo_is_of(depot: Depot, sha256: str) -> bool:
    """Whether a photo was taken at a loop of this depot."""
    return Photo.objects.filter(sha256=sha256, loop__machine__depot=depot).exists()


@lru_cache
def inspection_words() -> InspectionWords:
    """The words of the guided inspection, as the core has them."""
    return InspectionWords(
        spots=[SpotRow(spot=spot, name=SPOT_NAMES[spot]) for spot in Spot], looks=list(LOOKS), checks=list(CHECKS)
    )


UNREADABLE = say("unreadable", "This entry cannot be read. Undo it.")


def entry_out(row: Entry, facts: Fact | None = None, **more: Any) -> EntryOut:
    """A line of the record; one that cannot be read says so. facts: as they count now, where the entry was edited."""
    more |= {
        "id": row.id,
        "happened_at": row.happened_at,
        "recorded_at": row.recorded_at,
        "person": person_out(row.person),
        "job_id": row.job_id,
    }
    more.setdefault("voided", False)
    try:
        facts = facts or row.core.facts
        return line_of(row.kind, facts, said=REGISTRY.sentence(facts), **more)
    except (CoreError, ValueError):
        return unreadable(row.kind, row.facts, said=UNREADABLE, **more)


def entry_outs(rows: list[Entry], core: list[CoreEntry], now: datetime) -> list[EntryOut]:
    """Lines of the record, newest first, as they were recorded; those that were undone or edited are marked."""
    gone = {str(row.facts.get("entry_id")) for row in rows if row.kind == "voided"}
    brought = {str(row.facts["by"]): row for row in rows if row.kind == "edited"}
    edits = [row for row in rows if row.kind == "edited" and str(row.id) not in gone]
    newest = {str(row.facts["entry_id"]): str(row.facts["by"]) for row in sorted(edits, key=lambda row: row.seq)}
    open_ = editable(core, now)
    found = []
    for row in sorted(rows, key=lambda row: row.seq, reverse=True):
        key = str(row.id)
        edit = brought.get(key)
        about = edit.facts["entry_id"] if edit is not None else None
        struck = key in gone or key in newest or (about is not None and newest.get(str(about)) != key)
        may = not struck and (about or key) in open_
        found.append(entry_out(row, voided=struck, edits=about, editable=may))
    return found


def bench_facts(loop: Loop, core: list[CoreEntry], products: Iterable[Product], cleaners: Iterable[Agent]) -> BenchFacts:
    """What a bench is built from, out of the database: the loop, its record, the depot's lists."""
    depot = loop.machine.depot
    water_per_l = water_price(depot)
    return BenchFacts(
        loop=loop.core,
        entries=core,
        policy=depot.policy,
        now=depot.now,
        offers=[Offer(p.core, prices_of(p, water_per_l)) for p in products],
        cleaners=[row.core for row in cleaners],
    )


def bench_of(loop: Loop, person: Person) -> Bench:
    """Everything one loop's page needs."""
    depot, core = loop.machine.depot, core_of(loop, entries_of(loop))
    products, cleaners = products_of(depot), cleaners_of(depot)
    view = guarded(loop, lambda: bench(bench_facts(loop, core, products, cleaners)))
    if view is None:
        raise Conflict("loop", NOT_DIGESTED, "not_digested")
    opener = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).select_related("job__opened_by").first()
    product_by_id = {str(row.pk): row for row in products}
    by_id = {str(row.pk): row for row in entries_of(loop).filter(pk__in=[row.entry_id for row in view.recent])}
    plain = {name: getattr(view, name) for name in _AS_VIEWED}
    edited = facts_now(core)
    return Bench(
        **plain,
        machine=machine_out(loop),
        loop=_loop_out(loop),
        choices=[
            Choice(product=product_out(product_by_id[row.product_id]), judged=row.judged, cost=row.cost)
            for row in view.choices
        ],
        drafts=[
            DraftOut.model_validate(draft, from_attributes=True)
            for draft in Draft.objects.filter(loop=loop, person=person).order_by("stage")
        ],
        by=person_out(hands_of(view.state, people_of(depot), opener.job.opened_by)) if opener else None,
        flushing=_flush_bench(depot, view.flushing, cleaners) if view.flushing else None,
        recent=[entry_out(by_id[row.entry_id], edited.get(row.entry_id)) for row in view.recent],
        photos=photo_outs(view.photos),
        in_doubt=doubtful_entries(loop),
        currency=depot.currency,
        server_time=timezone.now(),
    )


_AS_VIEWED = tuple(row.name for row in fields(BenchView) if row.name not in ("choices", "flushing", "recent", "photos"))


def _flush_bench(depot: Depot, view: BenchFlush, agents: list[Agent]) -> FlushBench:
    """What a flush is planned with, with the depot's own lines."""
    return FlushBench(
        sweeps=list(view.sweeps),
        methods=list(view.methods),
        ahead=list(view.ahead),
        cleaners=[
            CleanerChoice(agent=AgentOut.model_validate(row, from_attributes=True), dose=made.dose, runs=made.runs)
            for row, made in zip(agents, view.cleaners, strict=True)
        ],
        waters=[water_out(source, depot.policy) for source in depot.waters.all()],
    )


def hands_of(state: LoopState, people: dict[str, Person], opener: Person) -> Person:
    """Whose hands a job is in: who took it up last, or who opened it."""
    return people.get(state.hands_id or "", opener)


def people_of(depot: Depot) -> dict[str, Person]:
    """Everybody of the depot by id."""
    return {str(person.pk): person for person in Person.objects.filter(depot=depot)}


def ledgers_of(loops: Iterable[Loop]) -> dict[int, list[Entry]]:
    """Whole ledgers of several loops, in one query."""
    found: dict[int, list[Entry]] = defaultdict(list)
    for entry in Entry.objects.acting().filter(loop__in=[loop.id for loop in loops]).select_related("person"):
        found[entry.loop_id].append(entry)
    return found


def ledger_of(loop: Loop) -> Ledger:
    """Every entry of a loop, newest first, and its signed-off jobs as they were stored."""
    rows = list(entries_of(loop))
    core = guarded(loop, lambda: cores_of(rows)) or []
    state = guarded(loop, lambda: folded(loop, core_of(loop, rows)))
    proofs = {str(row.job_id): row.facts.get("proof", "") for row in rows if row.kind == "signed_off"}
    signed = JobLoop.objects.filter(loop=loop, signed_at__isnull=False).select_related("signed_by", "loop__machine__depot")
    return Ledger(
        machine=machine_out(loop),
        loop=_loop_out(loop),
        state=state,
        broken=NOT_DIGESTED if state is None else "",
        entries=entry_outs(rows, core, loop.machine.depot.now),
        signed=[
            SignedResult(
                job_id=row.job_id,
                signed_at=row.left_at,
                signed_by=person_out(row.signer),
                core_version=row.stored["core_version"],
                proof=proofs.get(str(row.job_id), ""),
                state=guarded(loop, partial(state_told, row, core, loop.machine.depot.policy))
                or STATE.validate_python(state_then(row.result)),
            )
            for row in signed.order_by("-signed_at")
        ],
    )


def history_of(loop: Loop) -> LoopHistory:
    """A loop's life on one line, and how it stands today."""
    core = core_of(loop, Entry.objects.filter(loop=loop).select_related("person"))
    depot = loop.machine.depot
    return LoopHistory(
        machine=machine_out(loop),
        loop=_loop_out(loop),
        state=folded(loop, core),
        history=history(loop.core, core, depot.policy),
        coldest_c=loop.core.coldest_c,
        photos=photo_outs(photos_of(core)),
    )
