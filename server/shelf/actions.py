"""Writes of the shelf; each in one transaction, the actor required."""

from __future__ import annotations

import re
import uuid
from typing import Any

from django.db import transaction
from django.shortcuts import get_object_or_404

from config import clock
from depots.models import Depot
from fleet.models import Loop
from jobs.models import Entry, cores_of
from people.models import Person
from shelf.models import Can, Count, Draw
from shelf.schemas import CanIn, CountIn
from temper_core.basis.errors import Conflict, CoreError, check_between
from temper_core.job.entries import counting_now
from temper_core.products.shelf import LARGEST_CAN_L, CanKind

TAKING = ("poured", "strength_adjusted", "dosed", "round_filled")  # the kinds of entry that take out of containers
_HELD = {CanKind.COOLANT: "product", CanKind.AGENT: "agent", CanKind.WATER: "water", CanKind.RECOVERED: "product"}


def keep_can(given: CanIn, pk: int | None, *, actor: Person) -> Can:
    """Put a container on the shelf (pk None; sent twice it is added once), or change one.

    Raises CoreError for what cannot be, Conflict for a number that is taken or a container somebody edited meanwhile.
    """
    depot = actor.own_depot
    check_between("size_l", given.size_l, 0.05, LARGEST_CAN_L, "L", "What it holds when full.")
    if given.strength_percent is not None:
        check_between("strength_percent", given.strength_percent, 0, 100, "%", "By volume, as measured.")
    with transaction.atomic():
        if pk is None:
            known = Can.objects.filter(depot=depot, added_as=given.id).first() if given.id else None
            if known:
                return known
            can = Can(depot=depot, added_as=given.id)
        else:
            can = get_object_or_404(Can.objects.select_for_update(), pk=pk, depot=depot)
            if given.seen != can.edited_at:
                raise Conflict("seen", "Someone else changed this. Reload, then enter your change.", "moved")
        _set(can, given, depot)
        if Can.objects.filter(depot=depot, number__iexact=can.number).exclude(pk=can.pk).exists():
            raise Conflict("number", f"{can.number} is on the shelf already. Choose another number.", "taken")
        can.save()
        if pk is None:
            full = given.size_l if given.left_l is None else given.left_l
            _check_count(can, full)
            counted_as = uuid.uuid5(given.id or uuid.uuid4(), "counted")
            Count.objects.create(id=counted_as, can=can, litres=full, at=clock.now(), person=actor)
    return can


def _set(can: Can, given: CanIn, depot: Depot) -> None:
    """The figures of a container; raises CoreError."""
    held = _HELD[given.kind]
    row_id = getattr(given, f"{held}_id")
    if row_id is None and given.kind is not CanKind.RECOVERED:
        raise CoreError(f"{held}_id", "What is in it? Choose it from Products.", "required")
    lists: dict[str, Any] = {"product": depot.products, "agent": depot.agents, "water": depot.waters}
    for name, rows in lists.items():
        setattr(can, name, get_object_or_404(rows, pk=row_id) if name == held and row_id is not None else None)
    if given.kind is CanKind.RECOVERED and given.loop_id is not None:
        can.loop = get_object_or_404(Loop, pk=given.loop_id, machine__depot=depot)
    can.number = (given.number or "").strip() or can.number or next_number(depot)
    can.kind, can.lot, can.size_l, can.place = given.kind.value, given.lot.strip(), given.size_l, given.place.strip()
    can.strength_percent, can.opened_on, can.since = given.strength_percent, given.opened_on, given.since
    can.emptied_at = (can.emptied_at or clock.now()) if given.emptied else None


def next_number(depot: Depot) -> str:
    """One more than the highest of the depot's own numbers."""
    own = (re.fullmatch(r"C-(\d+)", number) for number in Can.objects.filter(depot=depot).values_list("number", flat=True))
    return f"C-{max((int(found[1]) for found in own if found), default=0) + 1:03d}"


def count_can(can_id: int, given: CountIn, *, actor: Person) -> Can:
    """Count what is in a container; the same id twice counts once. Raises CoreError for more than it holds."""
    with transaction.atomic():
        can = get_object_or_404(Can.objects.select_for_update(), pk=can_id, depot=actor.own_depot)
        if not Count.objects.filter(pk=given.id, can=can).exists():
            _check_count(can, given.litres)
            Count.objects.create(id=given.id, can=can, litres=given.litres, at=clock.now(), person=actor)
    return can


def _check_count(can: Can, litres: float) -> None:
    check_between("litres", litres, 0, can.size_l * 1.05, "L", f"{can.number} holds {can.size_l:g} L when full.")


def sync_draws(loop: Loop) -> None:
    """What this loop's entries took out of containers follows its record: undone, it stands in them again."""
    rows = {str(row.pk): row for row in Entry.objects.filter(loop=loop, kind__in=(*TAKING, "voided", "edited"))}
    wanted = {
        (int(taken.can.id), rows[entry.id].pk): (taken.litres, entry.happened_at)
        for entry, facts in counting_now(cores_of(rows.values()))
        for taken in getattr(facts, "taken", ())
    }
    kept = {(row.can_id, row.entry_id): row for row in Draw.objects.filter(entry__loop=loop)}
    gone = [row.pk for key, row in kept.items() if key not in wanted or wanted[key] != (row.litres, row.at)]
    Draw.objects.filter(pk__in=gone).delete()
    new = {key: row for key, row in wanted.items() if key not in kept or kept[key].pk in gone}
    Draw.objects.bulk_create(
        Draw(can_id=can_id, entry_id=entry_id, litres=litres, at=at) for (can_id, entry_id), (litres, at) in new.items()
    )
