"""Reads of jobs and ledgers; no query per row."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import timedelta
from functools import lru_cache

from django.db.models import QuerySet
from django.utils import timezone

from catalogue.queries import product_out, products_of
from depots.models import Depot
from fleet.models import Loop
from fleet.shapes import MachineOut
from jobs.models import Draft, Entry, JobLoop
from jobs.shapes import (
    Bench,
    Board,
    Choice,
    DraftOut,
    EntryOut,
    Finished,
    FrostScale,
    Ledger,
    LoopOut,
    ScaleMark,
    SignedResult,
    Strip,
)
from people.api import person_out
from people.models import Person
from temper_core.chemistry import Fluid
from temper_core.entries import Entry as CoreEntry
from temper_core.entries import Voided
from temper_core.glycol import COLDEST_TARGET_C, Glycol, curve_doubt_k, freeze_point
from temper_core.glycol.data import TURNED_BACK
from temper_core.judge.chemistry import ORDER, judge_product
from temper_core.loop import fold
from temper_core.policy import SHIPPED, Policy
from temper_core.quantity import MassFraction
from temper_core.state import LoopState

FINISHED_DAYS = 7


def entries_of(loop: Loop) -> QuerySet[Entry]:
    """A loop's ledger in order, people at hand."""
    return Entry.objects.filter(loop=loop).select_related("person")


def state_of(loop: Loop, policy: Policy) -> LoopState:
    """The loop folded from its ledger."""
    return fold(loop.core, [entry.core for entry in entries_of(loop)], policy)


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


def choices_for(loop: Loop, inside: Fluid, policy: Policy) -> list[Choice]:
    """All products of the depot with their verdicts, best first."""
    choices = [
        Choice(product=product_out(p), judged=judge_product(p.core, loop.requirement, inside, policy))
        for p in products_of(loop.machine.depot)
    ]
    return sorted(choices, key=lambda choice: (ORDER[choice.judged.verdict], choice.product.form.value, choice.product.name))


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
    state = fold(loop.core, core, policy)
    opener = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).select_related("job__opened_by").first()
    recent = [line for line in entry_outs(rows, core) if str(line.job_id) == state.job_id and not line.voided]
    return Bench(
        machine=_machine_out(loop),
        loop=_loop_out(loop),
        state=state,
        choices=choices_for(loop, state.found, policy),
        drafts=[
            DraftOut.model_validate(draft, from_attributes=True)
            for draft in Draft.objects.filter(loop=loop, person=person).order_by("stage")
        ],
        by=person_out(opener.job.opened_by) if opener else None,
        recent=[line for line in recent if line.kind != "voided"][:12],
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


def board_of(depot: Depot) -> Board:
    """Loops in work, and what was signed off in the last days."""
    policy = depot.policy
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
            state=fold(row.loop.core, [entry.core for entry in ledgers[row.loop_id]], policy),
            by=person_out(row.job.opened_by),
        )
        for row in in_work
    ]
    since = timezone.now() - timedelta(days=FINISHED_DAYS)
    finished = [_finished(row) for row in part.filter(signed_at__gte=since).order_by("-signed_at")[:12]]
    return Board(strips=sorted(strips, key=_urgency), finished=finished, server_time=timezone.now())


def _finished(row: JobLoop) -> Finished:
    state = row.result["state"]
    proof = state["proof"]
    return Finished(
        machine=_machine_out(row.loop),
        loop_id=row.loop_id,
        loop_name=row.loop.name,
        signed_at=row.signed_at,
        proof=proof["verdict"] if proof else "glycol_free",
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
        state=fold(loop.core, core, loop.machine.depot.policy),
        entries=entry_outs(rows, core),
        signed=[
            SignedResult(
                job_id=row.job_id,
                signed_at=row.signed_at,
                signed_by=person_out(row.signed_by),
                core_version=row.result["core_version"],
                state=row.result["state"],
            )
            for row in signed
        ],
    )
