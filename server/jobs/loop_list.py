"""The list of loops: what is inside each and what is due on it; as many queries for one loop as for hundreds."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from functools import partial
from typing import Any
from uuid import UUID

from django.db.models import FloatField, OuterRef, Subquery
from django.db.models.fields.json import KT
from django.db.models.functions import Cast

from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from fleet.schemas import MachineListed
from jobs.board import open_ledgers, was_handed_on
from jobs.models import Entry, JobLoop, cores_of
from jobs.queries import guarded
from jobs.row_cache import RowCache, key_of, midnight_after
from jobs.schemas import LoopRow, Loops
from temper_core.basis.policy import Policy
from temper_core.job.ledger import walk
from temper_core.job.life.snapshot import LoopSnapshot
from temper_core.views.board.row import RowClaim
from temper_core.views.loop_line import LoopLine, loop_line

LINES: RowCache[LoopLine] = RowCache()
_CLAIM = "result__state__claim__"


class _Version:
    """The version of a loop: its last entry, and when its last job was signed."""

    def __init__(self, loop: Any) -> None:
        self.last_entry = f"{loop.last_entry} {loop.signed_at} {loop.open_part}"
        self.edited_at: datetime = loop.edited_at
        self.machine_edited_at: datetime = loop.machine.edited_at


def loops_listed(depot: Depot) -> Loops:
    """All loops by their machine's number; a loop that cannot be calculated has no line."""
    now, policy = depot.now, depot.policy
    parts = JobLoop.objects.filter(loop=OuterRef("pk"))
    last = parts.filter(signed_at__isnull=False).order_by("-signed_at")
    loops = list(
        loops_of(depot)
        .annotate(
            last_entry=Subquery(Entry.objects.filter(loop=OuterRef("pk")).order_by("-seq").values("pk")[:1]),
            signed_at=Subquery(last.values("signed_at")[:1]),
            last_part=Subquery(last.values("pk")[:1]),
            open_part=Subquery(parts.filter(signed_at__isnull=True).values("pk")[:1]),
        )
        .order_by("machine__fleet_number", "position")
    )
    keys = {loop.id: key_of(_Version(loop), depot, policy) for loop in loops}
    known = {loop.id: LINES.kept(loop.id, keys[loop.id], now) for loop in loops}
    stale = [loop for loop in loops if known[loop.id] is None]
    left = _left(stale)
    handed_on = was_handed_on(stale)
    ledgers = open_ledgers([loop.id for loop in stale], _jobs_in_work(stale), handed_on)
    rows = []
    for loop in loops:
        kept = known[loop.id]
        line = kept.value if kept else None
        if line is None:
            snapshot = handed_on.get(loop.id)
            make = partial(_line, loop, ledgers[loop.id], snapshot, left.get(loop.id), policy, now)
            made = partial(LINES.make, loop.id, keys[loop.id], now, make)
            line = guarded(loop, made)
        rows.append(
            LoopRow(
                machine=MachineListed.model_validate(loop.machine, from_attributes=True),
                loop_id=loop.id,
                loop_name=loop.name,
                capacity_l=loop.capacity_l,
                capacity_source=loop.core.capacity_source,
                signed_at=loop.signed_at,
                line=line,
            )
        )
    return Loops(loops=rows)


def _jobs_in_work(loops: Sequence[Loop]) -> list[UUID]:
    rows = JobLoop.objects.filter(loop__in=[loop.id for loop in loops], signed_at__isnull=True)
    return list(rows.values_list("job_id", flat=True))


def _left(loops: list[Any]) -> dict[int, RowClaim]:
    """How far each protected when its last job was signed off."""
    rows = JobLoop.objects.filter(pk__in=[loop.last_part for loop in loops if loop.last_part]).annotate(
        why=KT(f"{_CLAIM}why"),
        freeze_c=Cast(KT(f"{_CLAIM}freeze_c"), FloatField()),
        safe_c=Cast(KT(f"{_CLAIM}safe_to_c"), FloatField()),
    )
    return {
        loop_id: RowClaim(why, freeze_c, safe_c)
        for loop_id, why, freeze_c, safe_c in rows.values_list("loop_id", "why", "freeze_c", "safe_c")
        if why
    }


def _line(
    loop: Loop,
    entries: list[Entry],
    snapshot: LoopSnapshot | None,
    left: RowClaim | None,
    policy: Policy,
    now: datetime,
) -> tuple[LoopLine, datetime]:
    fold = walk(loop.core, cores_of(entries), policy, snapshot, now=now)
    return loop_line(fold, left, now), midnight_after(now)
