"""Reads of jobs and ledgers; no query per row."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import timedelta
from functools import lru_cache
from typing import Any

from django.db.models import F, QuerySet
from django.utils import timezone

from catalogue.queries import prices_of, product_out, products_of, water_price
from depots.models import Depot
from fleet.models import Loop
from fleet.shapes import MachineOut
from jobs.models import Draft, Entry, JobLoop, Photo
from jobs.shapes import (
    Bench,
    Board,
    Choice,
    DraftOut,
    EntryOut,
    Finished,
    FrostScale,
    InspectionWords,
    Ledger,
    LoopHistory,
    LoopOut,
    OverrideOut,
    PhotoOut,
    ScaleMark,
    SignedResult,
    SpotRow,
    Strip,
)
from people.api import person_out
from people.models import Person, Role
from temper_core.cost import change_cost
from temper_core.entries import Entry as CoreEntry
from temper_core.entries import PhotoAdded, Route, Voided
from temper_core.equipment import cautions, level_words
from temper_core.glycol import COLDEST_TARGET_C, Glycol, curve_doubt_k, freeze_point
from temper_core.glycol.data import TURNED_BACK
from temper_core.history import history
from temper_core.inspection import CHECKS, LOOKS, SPOT_NAMES, Spot
from temper_core.judge.chemistry import ORDER, Verdict, judge_product
from temper_core.ledger import standing, tally
from temper_core.loop import fold
from temper_core.policy import SHIPPED, Policy
from temper_core.quantity import MassFraction
from temper_core.state import LoopState

FINISHED_DAYS = 7


def entries_of(loop: Loop) -> QuerySet[Entry]:
    """A loop's ledger in order, people at hand."""
    return Entry.objects.filter(loop=loop).select_related("person")


def state_of(loop: Loop, policy: Policy) -> LoopState:
    """The loop folded from its ledger, by its depot's clock."""
    return fold(loop.core, [entry.core for entry in entries_of(loop)], policy, loop.machine.depot.now)


def _machine_out(loop: Loop) -> MachineOut:
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
        cap_gauge_kpa=loop.cap_gauge_kpa,
        room_l=loop.core.layout.room_l,
    )


def choices_for(loop: Loop, entries: list[CoreEntry], policy: Policy) -> list[Choice]:
    """All products of the depot with their verdicts and, until something is drained, what the change costs; best first."""
    t = tally(loop.core, entries, policy)
    topping_up, coldest_c = t.route is Route.TOP_UP, t.planned.coldest_c if t.planned else loop.core.coldest_c
    water_per_l = water_price(loop.machine.depot)
    choices = []
    for p in products_of(loop.machine.depot):
        judged, cost = judge_product(p.core, loop.requirement, t.found, policy, topping_up=topping_up), None
        if judged.verdict is not Verdict.NO and t.drained is None and not t.pours and not topping_up:
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


def entry_outs(rows: list[Entry], core: list[CoreEntry]) -> list[EntryOut]:
    """Ledger lines, newest first; taken-back ones are marked."""
    voided = {entry.facts.entry_id for entry in core if isinstance(entry.facts, Voided)}
    return [
        EntryOut(
            id=row.id,
            kind=row.kind,
            facts=row.facts,
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
    core = [row.core for row in rows]
    state = fold(loop.core, core, policy, loop.machine.depot.now)
    opener = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).select_related("job__opened_by").first()
    recent = [line for line in entry_outs(rows, core) if str(line.job_id) == state.job_id and not line.voided]
    return Bench(
        machine=_machine_out(loop),
        loop=_loop_out(loop),
        state=state,
        choices=choices_for(loop, core, policy),
        drafts=[
            DraftOut.model_validate(draft, from_attributes=True)
            for draft in Draft.objects.filter(loop=loop, person=person).order_by("stage")
        ],
        by=person_out(opener.job.opened_by) if opener else None,
        recent=[line for line in recent if line.kind != "voided"][:12],
        photos=photos_of(core),
        level=level_words(loop.core.equipment),
        cautions=list(cautions(loop.core.equipment, loop.high_voltage)),
        stated_in=loop.maker_stated_in,
        conductivity_limit_us_cm=loop.core.equipment.conductivity_limit_us_cm,
        frost_scales=[frost_scale(glycol) for glycol in Glycol],
        coldest_c=loop.core.coldest_c,
        altitude_m=loop.machine.depot.altitude_m,
        currency=loop.machine.depot.currency,
        policy={rule.key: policy[rule.key] for rule in SHIPPED},
        server_time=timezone.now(),
    )


def _ledgers(loops: Iterable[Loop]) -> dict[int, list[Entry]]:
    found: dict[int, list[Entry]] = defaultdict(list)
    for entry in Entry.objects.filter(loop__in=[loop.id for loop in loops]).select_related("person"):
        found[entry.loop_id].append(entry)
    return found


def _urgency(strip: Strip) -> tuple[bool, object]:
    """Frost risk first, then who has waited longest."""
    return (not strip.state.frost_risk, strip.state.changed_at)


def board_of(depot: Depot, person: Person) -> Board:
    """Loops in work, and what was signed off in the last days."""
    policy, now = depot.policy, depot.now
    part = JobLoop.objects.filter(loop__machine__depot=depot).select_related("loop__machine__depot", "job__opened_by")
    in_work = list(part.filter(signed_at__isnull=True).prefetch_related("loop__machine__loops"))
    ledgers = _ledgers(row.loop for row in in_work)
    strips = [
        Strip(
            machine=_machine_out(row.loop),
            loop_id=row.loop_id,
            loop_name=row.loop.name,
            loop_position=row.loop.position,
            loops_on_machine=len(row.loop.machine.loops.all()),
            capacity_l=row.loop.capacity_l,
            state=fold(row.loop.core, [entry.core for entry in ledgers[row.loop_id]], policy, now),
            by=person_out(row.job.opened_by),
        )
        for row in in_work
    ]
    since = timezone.now() - timedelta(days=FINISHED_DAYS)
    finished = [_finished(row) for row in part.filter(signed_at__gte=since).order_by("-signed_at")[:12]]
    overrides = overrides_of(depot) if person.role == Role.LEAD else []
    return Board(strips=sorted(strips, key=_urgency), overrides=overrides, finished=finished, server_time=timezone.now())


def overrides_of(depot: Depot) -> list[OverrideOut]:
    """Decisions against the advice that no lead has seen, newest first; three queries however many there are."""
    rows = Entry.objects.filter(loop__machine__depot=depot, kind="routed").exclude(facts__route=F("facts__advised"))
    loops = {row.loop_id: row.loop for row in rows.select_related("loop__machine__depot")}
    seen = Entry.objects.filter(loop__in=loops, kind="acknowledged").values_list("facts__entry_id", flat=True)
    waiting = {str(row.id) for row in rows} - set(seen)
    ledgers = _ledgers(loops[loop_id] for loop_id in {row.loop_id for row in rows if str(row.id) in waiting})
    found = []
    for loop_id, entries in ledgers.items():
        t = tally(loops[loop_id].core, [entry.core for entry in entries], depot.policy)
        machine, name = _machine_out(loops[loop_id]), loops[loop_id].name
        found += [
            OverrideOut(machine=machine, loop_id=loop_id, loop_name=name, override=row)
            for row in t.overrides
            if not row.acknowledged
        ]
    return sorted(found, key=lambda row: row.override.at, reverse=True)


def _finished(row: JobLoop) -> Finished:
    state = row.result["state"]
    proof = state["proof"]
    return Finished(
        machine=_machine_out(row.loop),
        loop_id=row.loop_id,
        loop_name=row.loop.name,
        signed_at=row.signed_at,
        proof=proof["verdict"] if proof else ("checked" if state["route"] == "check" else "glycol_free"),
        freeze_c=state["claim"]["freeze_c"],
        target_c=state["plan"]["target_freeze_c"] if state["plan"] else None,
    )


def ledger_of(loop: Loop) -> Ledger:
    """Every entry of a loop, newest first, and its signed-off jobs as they were stored."""
    rows = list(entries_of(loop))
    core = [row.core for row in rows]
    signed = JobLoop.objects.filter(loop=loop, signed_at__isnull=False).select_related("signed_by").order_by("-signed_at")
    return Ledger(
        machine=_machine_out(loop),
        loop=_loop_out(loop),
        state=fold(loop.core, core, loop.machine.depot.policy, loop.machine.depot.now),
        entries=entry_outs(rows, core),
        signed=[
            SignedResult(
                job_id=row.job_id,
                signed_at=row.signed_at,
                signed_by=person_out(row.signed_by),
                core_version=row.result["core_version"],
                state=as_now(row.result["state"]),
            )
            for row in signed
        ],
    )


NOT_KEPT_THEN = {  # what jobs signed before these were kept do not hold
    "inspection": {"asked": [], "seen": [], "skipped": [], "told": None, "metered": None, "routed": None},
    "advice": None,
    "due": None,
    "overrides": [],
    "gate": {"open": False, "reasons": [], "asked": [], "observed": False, "observed_at": None, "by": "", "by_id": ""},
}


def as_now(state: dict[str, Any]) -> dict[str, Any]:
    """A stored state with what its time did not keep yet left empty."""
    return NOT_KEPT_THEN | state


def history_of(loop: Loop) -> LoopHistory:
    """A loop's life on one line, and how it stands today."""
    core = [row.core for row in entries_of(loop)]
    depot = loop.machine.depot
    return LoopHistory(
        machine=_machine_out(loop),
        loop=_loop_out(loop),
        state=fold(loop.core, core, depot.policy, depot.now),
        history=history(loop.core, core, depot.policy),
        coldest_c=loop.core.coldest_c,
        photos=photos_of(core),
    )
