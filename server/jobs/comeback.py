"""Reads of what comes after a job: rechecks, services due, frost; as many queries for one loop as for hundreds."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, fields, replace
from datetime import datetime
from functools import partial
from typing import Any

from django.db.models import Exists, FloatField, OuterRef, Subquery
from django.db.models.fields.json import KT
from django.db.models.functions import Cast, Coalesce

from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from jobs.back_schemas import ComingBack, Seasonal, SeasonRow
from jobs.models import Entry, JobLoop, cores_of
from jobs.queries import guarded, machine_out
from jobs.results import job_type_of
from jobs.row_cache import RowCache, key_of, midnight_after
from jobs.stored import SNAPSHOT
from temper_core.job.between.season import Season, frost_dates
from temper_core.job.fold import AtRest, at_rest
from temper_core.job.life.snapshot import LoopSnapshot
from temper_core.views.coming import Coming, coming, frost_asks, order

MOST_SHOWN = 14
_JOB_TYPE = Coalesce(KT("result__state__job_type"), KT("result__state__route"))  # route: as it was called up to 0.6.0
_SAFE_C = Cast(KT("result__state__claim__safe_to_c"), FloatField())


@dataclass(frozen=True, slots=True)
class Resting:
    """A loop with what its last signed job left. rest None: that job handed nothing on, or there was none.

    broken: its record cannot be calculated.
    """

    loop: Loop
    safe_c: float | None
    rest: AtRest | None
    broken: bool = False


def snapshot_in(stored: object, signed_at: datetime, job_type: str | None) -> LoopSnapshot | None:
    """What a signed job handed on; jobs of before did not keep when they were signed."""
    if not stored:
        return None
    kept = SNAPSHOT.validate_python(stored)
    return replace(kept, signed_at=signed_at, job_type=kept.job_type or job_type_of(job_type))


def since_signed(loop_ids: list[int], signed: dict[int, datetime]) -> dict[int, list[Entry]]:
    """Entries without a job, made after the last sign-off of their loop; one query."""
    found: dict[int, list[Entry]] = defaultdict(list)
    rows = Entry.objects.acting().filter(job__isnull=True, loop__in=loop_ids)
    for entry in rows.select_related("person"):
        after = signed.get(entry.loop_id)
        if after is None or entry.happened_at >= after:
            found[entry.loop_id].append(entry)
    return found


@dataclass(frozen=True, slots=True)
class _Version:
    """The version of a loop at rest: its last entry, and when its last job was signed."""

    loop: Any

    @property
    def last_entry(self) -> str:
        """Both as one."""
        return f"{self.loop.last_entry} {self.loop.signed_at}"

    @property
    def edited_at(self) -> datetime:
        """Of the loop."""
        found: datetime = self.loop.edited_at
        return found

    @property
    def machine_edited_at(self) -> datetime:
        """Of its machine."""
        found: datetime = self.loop.machine.edited_at
        return found


RESTS: RowCache[AtRest | None] = RowCache()
_LAST_ENTRY = Subquery(Entry.objects.filter(loop=OuterRef("pk")).order_by("-seq").values("pk")[:1])


def resting(depot: Depot, now: datetime) -> list[Resting]:
    """Every loop of the depot that is not in work, with how its last job left it; as many queries for one as for hundreds.

    What was worked out once stays in memory until something is recorded on the loop, or the day is over.
    """
    last = JobLoop.objects.filter(loop=OuterRef("pk"), signed_at__isnull=False).order_by("-signed_at")
    in_work = JobLoop.objects.filter(loop=OuterRef("pk"), signed_at__isnull=True)
    every = loops_of(depot).annotate(
        last=Subquery(last.values("pk")[:1]),
        signed_at=Subquery(last.values("signed_at")[:1]),
        last_entry=_LAST_ENTRY,
    )
    loops = list(every.exclude(Exists(in_work)))
    policy, until = depot.policy, midnight_after(now)
    keys = {loop.id: key_of(_Version(loop), depot, policy) for loop in loops}
    signed = JobLoop.objects.filter(pk__in=[loop.last for loop in loops if loop.last]).annotate(safe_c=_SAFE_C)
    safe_c = dict(signed.values_list("loop_id", "safe_c"))
    known = {loop.id: RESTS.kept(loop.id, keys[loop.id], now) for loop in loops}
    stale = [loop for loop in loops if known[loop.id] is None]
    parts = {
        row["loop_id"]: row
        for row in JobLoop.objects.filter(pk__in=[loop.last for loop in stale if loop.last])
        .annotate(job_type=_JOB_TYPE)
        .values("loop_id", "signed_at", "handed_on", "job_type")
    }
    between = since_signed([loop.id for loop in stale], {key: row["signed_at"] for key, row in parts.items()})
    found = []
    for loop in loops:
        kept = known[loop.id]
        if kept is not None:
            found.append(Resting(loop, safe_c.get(loop.id), kept.value))
            continue
        row = parts.get(loop.id)
        if row is None or not row["handed_on"]:
            found.append(Resting(loop, safe_c.get(loop.id), None))
            RESTS.put(loop.id, keys[loop.id], now, until, None)
            continue
        rest = guarded(loop, partial(_rest, loop, row, between[loop.id], now))
        found.append(Resting(loop, safe_c.get(loop.id), rest, broken=rest is None))
        if rest is not None:
            RESTS.put(loop.id, keys[loop.id], now, until, rest)
    return found


def _rest(loop: Loop, row: dict[str, Any], between: list[Entry], now: datetime) -> AtRest | None:
    snapshot = snapshot_in(row["handed_on"], row["signed_at"], row["job_type"])
    if snapshot is None:
        return None
    return at_rest(loop.core, cores_of(between), snapshot, loop.machine.depot.policy, now)


def coming_back(depot: Depot, now: datetime, loops: list[Resting] | None = None) -> list[ComingBack]:
    """Checks and services due, overdue first, then the soonest; loops in work are on the board already."""
    found: list[tuple[Coming, Loop]] = []
    for row in resting(depot, now) if loops is None else loops:
        if row.rest is not None:
            found += [(one, row.loop) for one in coming(row.loop.core, row.rest, now)]
    found.sort(key=lambda pair: order(pair[0], now.date()))
    return [
        ComingBack(
            machine=machine_out(loop),
            loop_id=loop.id,
            loop_name=loop.name,
            **{part.name: getattr(one, part.name) for part in fields(Coming)},
        )
        for one, loop in found
    ]


def seasonal(depot: Depot, now: datetime, loops: list[Resting] | None = None) -> Seasonal:
    """What frost asks of each loop of the depot; those in work are on the board with their own frost risk."""
    dates, rows = frost_dates(now.date(), depot.policy), []
    if dates.season is not Season.FREE:
        for row in resting(depot, now) if loops is None else loops:
            plan = frost_asks(row.loop.core, row.rest, row.safe_c, dates)
            if plan is not None:
                machine = machine_out(row.loop)
                rows.append(SeasonRow(machine=machine, loop_id=row.loop.id, loop_name=row.loop.name, plan=plan))
    return Seasonal(dates=dates, rows=sorted(rows, key=lambda row: (not row.plan.loud, row.machine.fleet_number)))
