"""Waste to its end: what stands full, who took it, the register by month."""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from django.db import transaction
from django.shortcuts import get_object_or_404

from config import clock
from depots.models import Depot
from jobs.models import Entry, cores_of
from jobs.pictures import keep, reencoded
from jobs.rules import happened
from people.models import Person
from people.shown import person_out
from shelf.models import HandedOver, Handover
from shelf.waste_schemas import HandoverIn, HandoverOut, Waste, WasteMonth, WasteRow
from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entries import counting_now
from temper_core.job.flush.facts import WASTE_NAMES, WasteKept, WasteKind

MOST_HANDOVERS = 200
Kept = dict[UUID, tuple[Entry, WasteKept]]


def kept_in(depot: Depot) -> Kept:
    """Every entry of waste that stands, as it counts now; coolant kept for reuse is none."""
    found: Kept = {}
    by_loop: dict[int, list[Entry]] = defaultdict(list)
    kinds = ("waste_kept", "voided", "edited")
    rows = Entry.objects.filter(loop__machine__depot=depot, kind__in=kinds).select_related("person", "loop__machine")
    for row in rows:
        by_loop[row.loop_id].append(row)
    for own in by_loop.values():
        stored = {str(row.pk): row for row in own}
        for entry, facts in counting_now(cores_of(own)):
            if isinstance(facts, WasteKept) and not facts.reuse:
                found[stored[entry.id].pk] = (stored[entry.id], facts)
    return found


def handed(depot: Depot) -> dict[UUID, datetime]:
    """When the waste of an entry was handed over."""
    rows = HandedOver.objects.filter(handover__depot=depot, handover__undone_at=None)
    return dict(rows.values_list("entry_id", "handover__at"))


def waste_of(depot: Depot) -> Waste:
    """What stands full, oldest first; handovers, newest first; the register, newest month first."""
    kept, gone, now = kept_in(depot), handed(depot), depot.now
    allowed = depot.policy["waste_days"]
    rows = {key: _row(entry, facts, now, allowed) for key, (entry, facts) in kept.items()}
    stands = sorted((row for key, row in rows.items() if key not in gone), key=lambda row: row.at)
    handovers = Handover.objects.filter(depot=depot).select_related("person").prefetch_related("rows")[:MOST_HANDOVERS]
    return Waste(
        standing=stands,
        handovers=[_handover(one, rows) for one in handovers],
        months=_months(rows, gone, now),
        too_long=sum(row.containers for row in stands if row.too_long),
        days_allowed=allowed,
    )


def _row(entry: Entry, facts: WasteKept, now: datetime, allowed: float) -> WasteRow:
    days = max(0, (now - entry.happened_at).days)
    return WasteRow(
        entry_id=entry.pk,
        kind=facts.kind,
        litres=facts.litres,
        containers=facts.containers,
        stands=facts.stands,
        at=entry.happened_at,
        days=days,
        too_long=days > allowed,
        loop_id=entry.loop_id,
        fleet_number=entry.loop.machine.fleet_number,
        loop_name=entry.loop.name,
        person=person_out(entry.person),
    )


def _handover(one: Handover, rows: dict[UUID, WasteRow]) -> HandoverOut:
    own = [rows[row.entry_id] for row in one.rows.all() if row.entry_id in rows]
    return HandoverOut(
        id=one.pk,
        at=one.at,
        taken_by=one.taken_by,
        paper=one.paper,
        note=one.note,
        photo=one.photo,
        person=person_out(one.person),
        litres=sum(row.litres for row in own),
        undone=one.undone_at is not None,
        rows=own,
    )


@dataclass
class _Sums:
    filled_l: float = 0.0
    handed_l: float = 0.0


def _months(rows: dict[UUID, WasteRow], gone: dict[UUID, datetime], now: datetime) -> list[WasteMonth]:
    """By month and kind, by the depot's clock; a month in which nothing happened is left out."""

    def month_of(at: datetime) -> date:
        return at.astimezone(now.tzinfo).date().replace(day=1)

    sums: dict[tuple[date, WasteKind], _Sums] = defaultdict(_Sums)
    for key, row in rows.items():
        sums[month_of(row.at), row.kind].filled_l += row.litres
        if key in gone:
            sums[month_of(gone[key]), row.kind].handed_l += row.litres
    stands: dict[WasteKind, float] = defaultdict(float)
    found = []
    for (month, kind), one in sorted(sums.items(), key=lambda item: (item[0][0], item[0][1].value)):
        stands[kind] += one.filled_l - one.handed_l
        found.append(
            WasteMonth(month=month, kind=kind, filled_l=one.filled_l, handed_l=one.handed_l, stands_l=max(0.0, stands[kind]))
        )
    return sorted(found, key=lambda row: (row.month, row.kind.value), reverse=True)


def hand_over(given: HandoverIn, *, actor: Person) -> Handover:
    """Somebody took these containers away; the same id twice is one handover.

    Raises CoreError for nobody's name or for what is no waste here, Conflict for what is gone already.
    """
    depot = actor.own_depot
    taken_by = given.taken_by.strip()
    if not taken_by:
        raise CoreError("taken_by", "Who took it? Enter the carrier's name.", "required")
    with transaction.atomic():
        known = Handover.objects.filter(pk=given.id, depot=depot).first()
        if known is not None:
            return known
        kept, gone = kept_in(depot), handed(depot)
        wanted = list(dict.fromkeys(given.entry_ids))
        for n, entry_id in enumerate(wanted):
            if entry_id not in kept:
                raise CoreError(f"entry_ids.{n}", "That is no waste of this depot. Reload, then choose again.", "no_waste")
            if entry_id in gone:
                raise Conflict(f"entry_ids.{n}", "Somebody handed that over already. Reload, then choose again.", "gone")
        at = happened(given.at, clock.now())
        early = [entry for entry, _ in (kept[entry_id] for entry_id in wanted) if entry.happened_at > at]
        if early:
            raise CoreError("at", "It was filled after that time. Check when it was taken.", "too_early")
        one = Handover.objects.create(
            id=given.id,
            depot=depot,
            at=at,
            taken_by=taken_by,
            paper=given.paper.strip(),
            note=given.note.strip(),
            person=actor,
        )
        HandedOver.objects.bulk_create(HandedOver(handover=one, entry_id=entry_id) for entry_id in wanted)
    return one


def undo_handover(handover_id: UUID, *, actor: Person) -> None:
    """It was entered wrongly: its containers stand here again, and it stays in the list, struck."""
    one = get_object_or_404(Handover, pk=handover_id, depot=actor.own_depot)
    if one.undone_at is None:
        one.undone_at = clock.now()
        one.save()


def add_paper_photo(handover_id: UUID, data: bytes, *, actor: Person) -> None:
    """The photo of its paper, written again without metadata; raises CoreError for what is no photo."""
    one = get_object_or_404(Handover, pk=handover_id, depot=actor.own_depot)
    one.photo = keep(reencoded(data))
    one.save()


def register_csv(rows: Iterable[WasteMonth]) -> str:
    """The register by month as CSV."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["month", "kind", "filled_l", "handed_over_l", "stands_at_its_end_l"])
    for row in rows:
        figures = (f"{value:.1f}" for value in (row.filled_l, row.handed_l, row.stands_l))
        writer.writerow([f"{row.month:%Y-%m}", WASTE_NAMES[row.kind], *figures])
    return out.getvalue()
