"""Reads of jobs and ledgers; no query per row."""

from __future__ import annotations

import json
import logging
from collections import defaultdict
from collections.abc import Callable, Iterable
from functools import lru_cache, partial
from typing import TypeVar

from django.db.models import Q
from shelf.models import Handover
from shelf.stock import stock_of

from catalogue.queries import product_out, products_of, water_out
from catalogue.schemas import AgentOut
from config import clock
from depots.models import Depot
from fleet.models import Loop
from fleet.schemas import MachineOut
from instruments.queries import doubtful_entries
from jobs.models import Draft, Entries, Entry, JobLoop, Photo, cores_of
from jobs.pages import Lists, LoopRecord, bench_page, history_page, ledger_page
from jobs.results import STATE, state_then
from jobs.schemas import (
    Bench,
    DraftOut,
    InspectionWords,
    Ledger,
    LoopHistory,
    LoopOut,
    SignedResult,
    SpotRow,
)
from jobs.then import state_told
from people.models import Person
from people.shown import person_out
from temper_core.basis.errors import Conflict
from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.fold import fold
from temper_core.job.inspect.facts import CHECKS, LOOKS, SPOT_NAMES, Spot
from temper_core.job.loop_state import LoopState
from temper_core.machine.layouts import is_usual

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
        uuid=loop.uuid,
        name=loop.name,
        position=loop.position,
        loops_on_machine=loop.machine.loops.count(),
        capacity_l=loop.capacity_l,
        capacity_source=loop.core.capacity_source,
        layout=loop.core.layout,
        high_voltage=loop.core.high_voltage,
        low_conductivity=loop.low_conductivity,
        cap_gauge_kpa=loop.cap_gauge_kpa,
        room_l=loop.core.layout.room_l,
        usual_layout=is_usual(loop.core.layout),
    )


def photo_is_of(depot: Depot, sha256: str) -> bool:
    """Whether a photo was taken at a loop of this depot, or of a paper of its waste."""
    taken = Photo.objects.filter(sha256=sha256, loop__machine__depot=depot).exists()
    return taken or Handover.objects.filter(photo=sha256, depot=depot).exists()


@lru_cache
def inspection_words() -> InspectionWords:
    """The words of the guided inspection, as the core has them."""
    return InspectionWords(
        spots=[SpotRow(spot=spot, name=SPOT_NAMES[spot]) for spot in Spot], looks=list(LOOKS), checks=list(CHECKS)
    )


def lists_of(depot: Depot) -> Lists:
    """The depot's lists as they are now; three queries."""
    return Lists(
        products=[product_out(row) for row in products_of(depot)],
        agents=[AgentOut.model_validate(row, from_attributes=True) for row in depot.agents.all()],
        waters=[water_out(source, depot.policy) for source in depot.waters.all()],
        currency=depot.currency,
        stock=stock_of(depot),
    )


def record_of(loop: Loop, person: Person | None = None, entries: Entries | None = None) -> LoopRecord:
    """One loop with its record. person: whose drafts are wanted; entries: all that act on the loop, where left out."""
    depot = loop.machine.depot
    rows = (entries if entries is not None else Entry.objects.acting().filter(loop=loop)).stored()
    opener = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).values_list("job__opened_by", flat=True).first()
    wanted = {row.person_id for row in rows} | ({opener} if opener else set())
    people = Person.objects.filter(Q(depot=depot) | Q(pk__in=wanted))
    drafts = Draft.objects.filter(loop=loop, person=person).order_by("stage") if person is not None else []
    return LoopRecord(
        loop=loop.core,
        machine=machine_out(loop),
        shown=_loop_out(loop),
        rows=rows,
        people={row.pk: person_out(row) for row in people},
        opener=opener,
        drafts=[DraftOut.model_validate(draft, from_attributes=True) for draft in drafts],
        in_doubt=doubtful_entries(loop),
        policy=depot.policy,
        now=depot.now,
    )


def bench_of(loop: Loop, person: Person) -> Bench:
    """Everything one loop's page needs."""
    record, lists = record_of(loop, person), lists_of(loop.machine.depot)
    page = guarded(loop, lambda: bench_page(record, lists, clock.now()))
    if page is None:
        raise Conflict("loop", NOT_DIGESTED, "not_digested")
    return page


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
    record = record_of(loop)
    core = guarded(loop, lambda: record.core) or []
    state = guarded(loop, lambda: folded(loop, record.core))
    proofs = {str(row.job_id): json.loads(row.facts).get("proof", "") for row in record.rows if row.kind == "signed_off"}
    rows = JobLoop.objects.filter(loop=loop, signed_at__isnull=False).select_related("signed_by", "loop__machine__depot")
    signed = [
        SignedResult(
            job_id=row.job_id,
            signed_at=row.left_at,
            signed_by=person_out(row.signer),
            core_version=row.stored["core_version"],
            proof=proofs.get(str(row.job_id), ""),
            state=guarded(loop, partial(state_told, row, core, loop.machine.depot.policy))
            or STATE.validate_python(state_then(row.named)),
        )
        for row in rows.order_by("-signed_at")
    ]
    return ledger_page(record, core, state, NOT_DIGESTED, signed)


def history_of(loop: Loop) -> LoopHistory:
    """A loop's life on one line, and how it stands today."""
    record = record_of(loop, entries=Entry.objects.filter(loop=loop))
    page = guarded(loop, lambda: history_page(record))
    if page is None:
        raise Conflict("loop", NOT_DIGESTED, "not_digested")
    return page
