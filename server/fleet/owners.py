"""Owners of customers' machines: found or made when a machine is taken in, erased on request."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from django.conf import settings
from django.db import transaction

from depots.models import Depot
from fleet.erasures import note_erased
from fleet.models import Erased, Loop, Machine, Owner
from fleet.queries import entries_of_depot
from fleet.schemas import NamedIn, OwnerIn
from fleet.taking_in import owner_said
from people.models import Person

SHORTEST = 4  # of what is looked for in free text: shorter words stand in any sentence
MOST_NAMED = 100


def set_owner(machine: Machine, given: OwnerIn | None) -> None:
    """Whom a machine belongs to from now on; the caller saves the machine. In the caller's transaction.

    The same name is the same owner, whose telephone and e-mail are corrected for all their machines; another name is
    another owner. Nobody stays in the table without a machine.
    """
    before, given = machine.owner, owner_said(given)
    if given is None:
        machine.owner = None
    elif before is not None and before.name.casefold() == given.name.casefold():
        before.name, before.telephone, before.email = given.name, given.telephone, given.email
        before.save()
        return
    else:
        known = Owner.objects.filter(depot=machine.depot, name__iexact=given.name)
        machine.owner = known.filter(telephone=given.telephone, email__iexact=given.email).first()
        if machine.owner is None:
            machine.owner = Owner.objects.create(depot=machine.depot, **given.model_dump())
    if before is not None and not before.machines.exclude(pk=machine.pk).exists():
        before.delete()


def erase_owner(owner: Owner, *, actor: Person) -> list[NamedIn]:
    """Erase somebody on their request; what stays of them in older free text. A lead's work.

    A backup that is restored later applies it again.
    """
    with transaction.atomic():
        left = named_in(owner)
        kept = Erased.objects.create(depot=owner.depot, owner_uuid=owner.uuid, by=actor)
        row = {"owner_uuid": str(owner.uuid), "depot_id": owner.depot_id, "by_id": actor.pk, "at": kept.at.isoformat(" ")}
        transaction.on_commit(lambda: note_erased(Path(settings.DATA), row))
        machines = list(owner.machines.all())
        owner.delete()
        for machine in machines:
            machine.refresh_from_db()
            machine.save(update_fields=["edited_at"])  # who keeps it in a list sees that it changed
    return left


def machines_of_owner(depot: Depot, words: str) -> list[int]:
    """Numbers of the machines whose owner has every word in name, telephone or e-mail; a telephone in any grouping."""
    asked = words.casefold().split()
    digits = re.sub(r"\D", "", words)
    found = []
    for pk, name, telephone, email in Machine.objects.filter(depot=depot, owner__isnull=False).values_list(
        "pk", "owner__name", "owner__telephone", "owner__email"
    ):
        text = f"{name} {telephone} {email}".casefold()
        dialled = len(digits) >= SHORTEST and digits in re.sub(r"\D", "", telephone)
        if asked and (all(word in text for word in asked) or dialled):
            found.append(pk)
    return found


def named_in(owner: Owner) -> list[NamedIn]:
    """Free text of the depot that names an owner by name, telephone or e-mail; at most MOST_NAMED."""
    words = [re.escape(text) for text in (owner.name, owner.telephone, owner.email) if len(text) >= SHORTEST]
    if not words:
        return []
    named = re.compile("|".join(words), re.IGNORECASE)
    found = []
    for where, said, to in _free_text(owner.depot):
        if named.search(said):
            found.append(NamedIn(where=where, said=said[:300], to=to))
        if len(found) == MOST_NAMED:
            break
    return found


def _free_text(depot: Depot) -> Iterator[tuple[str, str, str]]:
    for machine in Machine.objects.filter(depot=depot):
        yield f"{machine.fleet_number}, description", f"{machine.kind} {machine.description}", f"/machines/{machine.pk}"
    for loop in Loop.objects.filter(machine__depot=depot).select_related("machine"):
        said = f"{loop.name} {loop.capacity_note} {loop.maker_stated_in}"
        yield f"{loop.machine.fleet_number}, {loop.name}", said, f"/machines/{loop.machine_id}"
    for entry in entries_of_depot(depot).select_related("loop__machine").iterator(chunk_size=2000):
        texts = [text for text in entry.facts.values() if isinstance(text, str) and len(text) >= SHORTEST]
        if texts:
            where = f"{entry.loop.machine.fleet_number}, record, no. {entry.seq}"
            yield where, " ".join(texts), f"/loops/{entry.loop_id}/record"
