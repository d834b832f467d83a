"""Reads of the bay board: as many queries for one job as for hundreds, and no more work for a loop with a long life."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import partial
from typing import Any
from uuid import UUID

from django.db.models import F, FloatField, OuterRef, Q, QuerySet, Subquery
from django.db.models.fields.json import KT
from django.db.models.functions import Cast

from config import clock
from depots.models import Depot
from depots.nights import tonight
from fleet.models import Loop
from fleet.schemas import MachineOut
from jobs.board_strips import Placed, RowInWork, strips_of
from jobs.comeback import MOST_SHOWN, coming_back, resting, seasonal, since_signed, snapshot_in
from jobs.models import Entry, JobLoop, cores_of
from jobs.queries import NOT_DIGESTED, guarded, ledgers_of, machine_out, people_of
from jobs.rejudging import rejudged_of
from jobs.row_cache import RowCache, key_of
from jobs.schemas import Board, Broken, Finished, FrostNote, OverrideOut
from people.models import Person
from people.shown import person_out
from temper_core.basis.policy import Policy
from temper_core.job.fold_state import LedgerFold
from temper_core.job.ledger import walk
from temper_core.job.life.snapshot import LoopSnapshot
from temper_core.views.board.row import LoopOnBoard, good_until, loop_on_board

FINISHED_DAYS = 7


def was_handed_on(loops: Iterable[Loop]) -> dict[int, LoopSnapshot | None]:
    """What the last signed-off job of each loop handed on; None where one did not keep it, and the whole life counts."""
    found: dict[int, LoopSnapshot | None] = {}
    rows = JobLoop.objects.filter(loop__in=[x.id for x in loops], signed_at__isnull=False).order_by("signed_at")
    for row in rows.defer("result"):
        found[row.loop_id] = snapshot_in(row.handed_on, row.left_at, None)
    return found


def open_ledgers(loops: list[int], jobs: list[UUID], snapshot: dict[int, LoopSnapshot | None]) -> dict[int, list[Entry]]:
    """Entries of the jobs in work and of what was done since the last one left; where that handed nothing on, all."""
    whole = [loop_id for loop_id in loops if loop_id in snapshot and snapshot[loop_id] is None]
    wanted = Q(loop__in=whole) | Q(loop__in=loops, job__in=jobs)
    found: dict[int, list[Entry]] = defaultdict(list)
    for entry in Entry.objects.acting().filter(wanted).select_related("person"):
        found[entry.loop_id].append(entry)
    signed = {key: kept.signed_at for key, kept in snapshot.items() if kept is not None and kept.signed_at is not None}
    for loop_id, since in since_signed([key for key in loops if key not in whole], signed).items():
        found[loop_id] = [*since, *found[loop_id]]
    return found


@dataclass(frozen=True, slots=True)
class Made:
    """A row with the id of who took the job over last."""

    row: LoopOnBoard
    hands_id: str


ROWS: RowCache[Made] = RowCache()
_FREEZE_C = Cast(KT("result__state__claim__freeze_c"), FloatField())
_TARGET_C = Cast(KT("result__state__plan__target_freeze_c"), FloatField())
LAST_ENTRY = Subquery(Entry.objects.filter(loop=OuterRef("loop")).order_by("-seq").values("pk")[:1])


def board_of(depot: Depot, lead: bool = False) -> Board:
    """Loops in work, and what was signed off in the last days; as many queries for one job as for hundreds.

    lead: with what waits for a lead.
    """
    now = depot.now
    part = JobLoop.objects.filter(loop__machine__depot=depot).select_related("loop__machine__depot", "job__opened_by")
    people = people_of(depot)
    rows, broken = _rows(depot, part, people, now)
    since = clock.now() - timedelta(days=FINISHED_DAYS)
    left_as = {"freeze_c": _FREEZE_C, "target_c": _TARGET_C}
    done = list(
        part.filter(signed_at__gte=since).defer("result", "handed_on").annotate(**left_as).order_by("-signed_at")[:12]
    )
    signs = Entry.objects.filter(kind="signed_off", job__in=[row.job_id for row in done])
    signed = {(row.job_id, row.loop_id): str(row.facts["proof"]) for row in signs.order_by("seq")}
    finished = [_finished(row, signed.get((row.job_id, row.loop_id), "")) for row in done]
    left, night = resting(depot, now), tonight(depot)
    frost = seasonal(depot, now, left)
    overrides = overrides_of(depot) if lead else []
    broken += [row.loop for row in left if row.broken]
    return Board(
        strips=strips_of(depot, rows, left, night.low, now),
        overrides=overrides,
        finished=finished,
        coming=coming_back(depot, now, left)[:MOST_SHOWN],
        frost=FrostNote(
            season=frost.dates.season,
            starts_on=frost.dates.starts_on,
            machines=len(frost.rows),
            loud=sum(row.plan.loud for row in frost.rows),
        ),
        broken=[
            Broken(machine=machine_out(loop), loop_id=loop.pk, loop_name=loop.name, message=NOT_DIGESTED) for loop in broken
        ],
        rejudged=rejudged_of(depot) if lead else [],
        night=night,
        server_time=clock.now(),
    )


_SHOWN = {  # columns of a loop in work, of its machine and of its job that a strip shows, or that tell a version
    "loop_id": "loop_id",
    "job_id": "job_id",
    "name": "loop__name",
    "position": "loop__position",
    "capacity_l": "loop__capacity_l",
    "edited_at": "loop__edited_at",
    "machine_id": "loop__machine_id",
    "fleet_number": "loop__machine__fleet_number",
    "kind": "loop__machine__kind",
    "description": "loop__machine__description",
    "year": "loop__machine__year",
    "machine_edited_at": "loop__machine__edited_at",
    "opened_by": "job__opened_by_id",
}


@dataclass(frozen=True, slots=True)
class InWork:
    """A loop in work, as far as it is read for every board."""

    loop_id: int
    job_id: UUID
    name: str
    position: int
    capacity_l: float
    edited_at: datetime
    machine_id: int
    fleet_number: str
    kind: str
    description: str
    year: int | None
    machine_edited_at: datetime
    opened_by: int
    last_entry: UUID


def _rows(
    depot: Depot, part: QuerySet[JobLoop], people: dict[str, Person], now: datetime
) -> tuple[list[RowInWork], list[Loop]]:
    """Rows of the loops in work, and the loops that cannot be worked out.

    Rows whose record did not change come from memory; only of the others more than a version is read.
    """
    open_parts = part.filter(signed_at__isnull=True)
    in_work = [InWork(*row) for row in open_parts.annotate(last=LAST_ENTRY).values_list(*_SHOWN.values(), "last")]
    on_machine = Counter(Loop.objects.filter(machine__depot=depot).values_list("machine_id", flat=True))
    gone = {row.opened_by for row in in_work} - {person.pk for person in people.values()}  # they left the depot
    people |= {str(person.pk): person for person in Person.objects.filter(pk__in=gone)} if gone else {}
    policy = depot.policy
    keys = {row.loop_id: key_of(row, depot, policy) for row in in_work}
    kept = {row.loop_id: ROWS.kept(row.loop_id, keys[row.loop_id], now) for row in in_work}
    stale = [loop_id for loop_id, found in kept.items() if found is None]
    reread = {row.loop_id: row for row in open_parts.filter(loop__in=stale)} if stale else {}
    snapshot = was_handed_on([row.loop for row in reread.values()])
    ledgers = open_ledgers(list(reread), [row.job_id for row in reread.values()], snapshot)
    found, broken = [], []
    for row in in_work:
        key, known = keys[row.loop_id], kept[row.loop_id]
        made = known.value if known is not None else None
        if made is None:
            if row.loop_id not in reread:  # signed off a moment ago
                continue
            loop = reread[row.loop_id].loop
            make = partial(_row, loop, ledgers[row.loop_id], snapshot.get(row.loop_id), policy, now)
            made = guarded(loop, partial(ROWS.make, row.loop_id, key, now, make))
            if made is None:
                broken.append(loop)
                continue
        machine = MachineOut(
            id=row.machine_id,
            fleet_number=row.fleet_number,
            kind=row.kind,
            description=row.description,
            year=row.year,
        )
        by = person_out(people.get(made.hands_id) or people[str(row.opened_by)])
        place = Placed(machine, row.loop_id, row.name, row.position, on_machine[row.machine_id], row.capacity_l)
        found.append(RowInWork(place, made.row, by))
    return found, broken


def _row(
    loop: Loop, entries: list[Entry], snapshot: LoopSnapshot | None, policy: Policy, now: datetime
) -> tuple[Made, datetime | None]:
    """The row, and until when it is good."""
    fold = walk(loop.core, cores_of(entries), policy, snapshot, now=now)
    row, hands = loop_on_board(fold), fold.job.waiting.hands
    return Made(row, hands[0] if hands else ""), good_until(fold, row.row)


def overrides_of(depot: Depot) -> list[OverrideOut]:
    """Decisions against the advice, and products for emergencies, that no lead has seen; newest first, three queries."""
    against = Q(kind="job_type_chosen") & ~Q(facts__job_type=F("facts__advised"))
    urgent = Q(kind="planned", facts__has_key="reason") & ~Q(facts__reason="")
    rows = Entry.objects.filter(against | urgent, loop__machine__depot=depot)
    loops = {row.loop_id: row.loop for row in rows.select_related("loop__machine__depot")}
    about = Entry.objects.filter(loop__in=loops, kind__in=("acknowledged", "voided"))
    named = list(about.values_list("id", "kind", "facts__entry_id"))
    taken_back = {of for _, kind, of in named if kind == "voided"}
    seen = {of for key, kind, of in named if kind == "acknowledged" and str(key) not in taken_back}
    waiting = {str(row.id) for row in rows} - seen
    ledgers = ledgers_of(loops[loop_id] for loop_id in {row.loop_id for row in rows if str(row.id) in waiting})
    found = []
    for loop_id, entries in ledgers.items():
        loop = loops[loop_id]
        t = guarded(loop, partial(_walked, loop, entries, depot))
        if t is None:
            continue
        machine, name = machine_out(loops[loop_id]), loops[loop_id].name
        found += [
            OverrideOut(machine=machine, loop_id=loop_id, loop_name=name, override=row)
            for row in t.life.overrides
            if not row.acknowledged
        ]
    return sorted(found, key=lambda row: row.override.at, reverse=True)


def _walked(loop: Loop, entries: list[Entry], depot: Depot) -> LedgerFold:
    return walk(loop.core, cores_of(entries), depot.policy)


def _finished(row: Any, signed: str) -> Finished:
    return Finished(
        machine=machine_out(row.loop),
        loop_id=row.loop_id,
        loop_name=row.loop.name,
        signed_at=row.signed_at,
        proof=signed,
        freeze_c=row.freeze_c,
        target_c=row.target_c,
    )
