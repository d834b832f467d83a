"""Reads of jobs and ledgers; no query per row."""

from __future__ import annotations

import logging
from collections import defaultdict
from collections.abc import Callable, Iterable
from functools import lru_cache
from typing import TypeVar

from django.db.models import QuerySet
from django.utils import timezone

from catalogue.queries import prices_of, product_out, products_of, water_out, water_price
from catalogue.shapes import AgentOut
from depots.models import Depot
from fleet.models import Loop
from fleet.shapes import MachineOut
from instruments.queries import doubtful_entries
from jobs.models import Draft, Entry, JobLoop, Photo, cores_of
from jobs.results import state_then
from jobs.shapes import (
    Bench,
    Choice,
    CleanerChoice,
    DraftOut,
    EntryOut,
    FlushBench,
    FrostScale,
    InspectionWords,
    Ledger,
    LoopHistory,
    LoopOut,
    PhotoOut,
    ScaleMark,
    SignedResult,
    SpotRow,
)
from people.api import person_out
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import Message, say
from temper_core.basis.policy import SHIPPED, Policy
from temper_core.basis.quantity import MassFraction
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.entries import PhotoAdded, standing
from temper_core.job.flush.ahead import rounds_ahead
from temper_core.job.flush.methods import plan_schools
from temper_core.job.fold import fold
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import CHECKS, LOOKS, SPOT_NAMES, Opens, Spot, opens
from temper_core.job.job_types import JobType, Stage
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.loop_state import LoopState
from temper_core.job.mix.cost import change_cost
from temper_core.job.stages import STAGES_OF
from temper_core.job.waiting.view import wait_of
from temper_core.machine.bleed_recipes import shipped_recipes
from temper_core.machine.drain_points import drain_plan
from temper_core.machine.equipment import level_words
from temper_core.products.agents import AgentKind, dose, runs
from temper_core.products.compatibility import ORDER, Verdict, judge_product
from temper_core.products.conductivity import limit_for
from temper_core.science import COLDEST_TARGET_C, Glycol, curve_doubt_k, freeze_point
from temper_core.science.data import TURNED_BACK
from temper_core.views.cautions import CautionPlace, cautions_at
from temper_core.views.history import history

logger = logging.getLogger(__name__)
MOST_RECENT = 80  # of one job; a flush over days has dozens


def entries_of(loop: Loop) -> QuerySet[Entry]:
    """A loop's ledger in order, people at hand."""
    return Entry.objects.acting().filter(loop=loop).select_related("person")


T = TypeVar("T")
NOT_DIGESTED = "This loop's record cannot be worked out. Open its record and undo the last entry."


def guarded(loop: Loop, make: Callable[[], T]) -> T | None:
    """What is made of one loop's record, or None where that cannot be worked out: a list of many survives it."""
    try:
        return make()
    except Exception:
        logger.exception("loop %s cannot be worked out", loop.pk)
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


def choices_for(loop: Loop, t: LedgerFold, policy: Policy) -> list[Choice]:
    """All products of the depot with their verdicts and, until something is drained, what the change costs; best first."""
    topping_up, planned = t.job.job_type is JobType.TOP_UP, t.job.mix.planned
    coldest_c = planned.coldest_c if planned else loop.core.coldest_c
    water_per_l = water_price(loop.machine.depot)
    choices = []
    for p in products_of(loop.machine.depot):
        judged, cost = judge_product(p.core, loop.requirement, t.found, policy, topping_up=topping_up), None
        if judged.verdict is not Verdict.NO and t.job.drained is None and not t.job.pours and not topping_up:
            prices = prices_of(p, water_per_l)
            cost = change_cost(loop.core, t.contents, p.core, judged, policy, prices, coldest_c)
        choices.append(Choice(product=product_out(p), judged=judged, cost=cost))
    return sorted(choices, key=lambda choice: (ORDER[choice.judged.verdict], choice.product.form.value, choice.product.name))


def photos_of(core: list[CoreEntry]) -> list[PhotoOut]:
    """Photos that stand, of entries that stand."""
    alive = standing(core)
    known = {entry.id for entry in alive}
    return [
        PhotoOut(entry_id=entry.facts.entry_id, sha256=entry.facts.sha256)
        for entry in alive
        if isinstance(entry.facts, PhotoAdded) and entry.facts.entry_id in known
    ]


def photo_is_of(depot: Depot, sha256: str) -> bool:
    """Whether a photo was taken at a loop of this depot."""
    return Photo.objects.filter(sha256=sha256, loop__machine__depot=depot).exists()


@lru_cache
def inspection_words() -> InspectionWords:
    """The words of the guided inspection, as the core has them."""
    return InspectionWords(
        spots=[SpotRow(spot=spot, name=SPOT_NAMES[spot]) for spot in Spot], looks=list(LOOKS), checks=list(CHECKS)
    )


UNREADABLE = say("unreadable", "This entry cannot be read. Take it back.")


def _told(row: Entry) -> Message:
    """The entry in words; one that cannot be read says so."""
    try:
        return REGISTRY.sentence(row.core.facts)
    except (CoreError, ValueError):
        return UNREADABLE


def entry_outs(rows: list[Entry]) -> list[EntryOut]:
    """Ledger lines, newest first; taken-back ones are marked."""
    voided = {str(row.facts.get("entry_id")) for row in rows if row.kind == "voided"}
    return [
        EntryOut(
            id=row.id,
            kind=row.kind,
            facts=row.facts,
            said=_told(row),
            happened_at=row.happened_at,
            recorded_at=row.recorded_at,
            person=person_out(row.person),
            job_id=row.job_id,
            voided=str(row.id) in voided,
        )
        for row in reversed(rows)
    ]


def _mark(w: float, freeze_c: float, warmer_c: float | None) -> ScaleMark:
    return ScaleMark(glycol_mass_percent=100 * w, freeze_c=freeze_c, warmer_c=warmer_c)


@lru_cache
def frost_scale(glycol: Glycol) -> FrostScale:
    """Marks of the frost rule, from the core's curves."""
    whole = [w / 100 for w in range(0, 60)]
    lean = [(w, freeze_point(glycol, MassFraction(w)).at_most_c) for w in whole]
    rich = TURNED_BACK.points if glycol is Glycol.ETHYLENE else ()
    return FrostScale(
        glycol=glycol.value,
        coldest_c=COLDEST_TARGET_C[glycol],
        lean=[_mark(w, t, t + curve_doubt_k(glycol, w) if rich else None) for w, t in lean if t >= COLDEST_TARGET_C[glycol]],
        rich=[_mark(w, t, None) for w, t in rich],
    )


def bench_of(loop: Loop, person: Person) -> Bench:
    """Everything one loop's page needs."""
    policy = loop.machine.depot.policy
    rows = list(entries_of(loop))
    core = core_of(loop, rows)
    state = folded(loop, core)
    walked = walk(loop.core, core, policy)
    opener = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).select_related("job__opened_by").first()
    recent = [line for line in entry_outs(rows) if str(line.job_id) == state.job_id and not line.voided]
    return Bench(
        machine=machine_out(loop),
        loop=_loop_out(loop),
        state=state,
        choices=choices_for(loop, walked, policy),
        drafts=[
            DraftOut.model_validate(draft, from_attributes=True)
            for draft in Draft.objects.filter(loop=loop, person=person).order_by("stage")
        ],
        by=person_out(hands_of(state, people_of(loop.machine.depot), opener.job.opened_by)) if opener else None,
        wait=wait_of(state, loop.machine.depot.now),
        drain=drain_plan(loop.core.layout, loop.core.equipment, policy),
        flushing=_flushing(loop, walked, state, policy),
        recent=[line for line in recent if line.kind != "voided"][:MOST_RECENT],
        photos=photos_of(core),
        in_doubt=doubtful_entries(loop),
        recipes=list(shipped_recipes(loop.core.layout)),
        level=level_words(loop.core.equipment),
        cautions=cautions_of(loop),
        stated_in=loop.maker_stated_in,
        wants_conductivity=loop.requirement.low_conductivity and state.stage is Stage.VERIFY,
        conductivity_limit=limit_for(loop.requirement.use, loop.core.equipment.conductivity_limit_us_cm, policy),
        level_opens=opens(Opens.LEVEL, loop.core.equipment),
        frost_scales=[frost_scale(glycol) for glycol in Glycol],
        coldest_c=loop.core.coldest_c,
        altitude_m=loop.machine.depot.altitude_m,
        currency=loop.machine.depot.currency,
        policy={rule.key: policy[rule.key] for rule in SHIPPED},
        server_time=timezone.now(),
    )


def cautions_of(loop: Loop) -> dict[CautionPlace, list[Message]]:
    """What must be known of this loop, at each place of its job."""
    built, need, live = loop.core.equipment, loop.requirement, loop.high_voltage
    return {place: list(cautions_at(place, built, need, live)) for place in CautionPlace}


def _flushing(loop: Loop, t: LedgerFold, state: LoopState, policy: Policy) -> FlushBench | None:
    """What a flush is planned with, from the drain on and until it is ended."""
    in_work = state.job_id is not None and state.signed_at is None
    if (
        not in_work
        or state.job_type is None
        or Stage.FLUSH not in STAGES_OF[state.job_type]
        or state.stage in (None, Stage.IDENTIFY)
    ):
        return None
    if state.flush is not None and state.flush.ended:
        return None
    depot = loop.machine.depot
    return FlushBench(
        schools=list(plan_schools(t)),
        ahead=list(rounds_ahead(t)),
        cleaners=[
            CleanerChoice(
                agent=AgentOut.model_validate(row, from_attributes=True),
                dose=dose(row.core, loop.capacity_l),
                runs=runs(row.core, policy),
            )
            for row in depot.agents.filter(kind=AgentKind.CLEANER.value)
        ],
        waters=[water_out(source, policy) for source in depot.waters.all()],
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
    state = guarded(loop, lambda: folded(loop, core_of(loop, rows)))
    proofs = {str(row.job_id): row.facts.get("proof", "") for row in rows if row.kind == "signed_off"}
    signed = JobLoop.objects.filter(loop=loop, signed_at__isnull=False).select_related("signed_by").order_by("-signed_at")
    return Ledger(
        machine=machine_out(loop),
        loop=_loop_out(loop),
        state=state,
        broken=NOT_DIGESTED if state is None else "",
        entries=entry_outs(rows),
        signed=[
            SignedResult(
                job_id=row.job_id,
                signed_at=row.signed_at,
                signed_by=person_out(row.signed_by),
                core_version=row.result["core_version"],
                proof=proofs.get(str(row.job_id), ""),
                state=state_then(row.result),
            )
            for row in signed
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
        photos=photos_of(core),
    )
