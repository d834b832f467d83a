"""Coolant kept for reuse stands on the shelf: a labelled container with the strength it was read at, and its age."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from config import clock
from fleet.models import Loop
from jobs.models import Entry, cores_of
from shelf.actions import next_number
from shelf.models import Can, Count
from temper_core.job.entries import counting_now
from temper_core.job.flush.facts import WasteKept
from temper_core.job.loop_state import LoopState
from temper_core.products.shelf import CanKind


def sync_recovered(loop: Loop, state_now: Callable[[], LoopState | None]) -> None:
    """Containers of recovered coolant follow the record: kept, they stand on the shelf; undone, they are off it.

    state_now: of the loop as it was kept, for what it is and how strong; asked only where something new is put there.
    """
    rows = {str(row.pk): row for row in Entry.objects.filter(loop=loop, kind__in=("waste_kept", "voided", "edited"))}
    stands: dict[uuid.UUID, tuple[Entry, WasteKept]] = {}
    for entry, facts in counting_now(cores_of(rows.values())):
        if isinstance(facts, WasteKept) and facts.reuse:
            stands[uuid.uuid5(rows[entry.id].pk, "recovered")] = (rows[entry.id], facts)
    known = {can.added_as: can for can in Can.objects.filter(loop=loop, kind=CanKind.RECOVERED)}
    for key, (row, facts) in stands.items():
        if key in known:
            Count.objects.filter(pk=uuid.uuid5(key, "counted")).update(litres=facts.litres)
        elif (state := state_now()) is not None:
            _put(key, loop, row, facts, state)
    kept = Entry.objects.filter(loop=loop, kind="waste_kept").values_list("pk", flat=True)
    made = {uuid.uuid5(pk, "recovered") for pk in kept}
    for added_as, can in known.items():
        if added_as in made and added_as not in stands and can.emptied_at is None:
            can.emptied_at = clock.now()
            can.save()


def _put(key: uuid.UUID, loop: Loop, row: Entry, facts: WasteKept, state: LoopState) -> None:
    """A container with what was kept: its chemistry is that of a product of the same family, if there is one."""
    depot, found = loop.machine.depot, state.found
    of_kind = depot.products.filter(base=found.base, family=found.family).order_by("form", "name")
    can = Can.objects.create(
        depot=depot,
        number=next_number(depot),
        kind=CanKind.RECOVERED,
        product=of_kind.first() if found.base and found.family else None,
        loop=loop,
        size_l=facts.litres,
        strength_percent=found.strength_percent,
        since=state.inspection.reported.changed_on if state.inspection.reported is not None else None,
        opened_on=row.happened_at.astimezone(depot.now.tzinfo).date(),
        place=facts.stands[:60],
        added_as=key,
    )
    counted_as = uuid.uuid5(key, "counted")
    Count.objects.create(id=counted_as, can=can, litres=facts.litres, at=row.happened_at, person=row.person)
