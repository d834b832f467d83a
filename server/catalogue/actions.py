"""Writes of the catalogue; each in one transaction, the actor required."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.shortcuts import get_object_or_404

from catalogue.models import Agent, Product, WaterSource
from catalogue.schemas import AgentIn, ProductIn, WaterIn
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError, check_between

Line = Product | Agent | WaterSource
AnyLine = ProductIn | AgentIn | WaterIn
MODEL_OF: dict[type[AnyLine], Any] = {ProductIn: Product, AgentIn: Agent, WaterIn: WaterSource}


def keep_line(given: AnyLine, pk: int | None, *, actor: Person) -> Line:
    """Add a line of the catalogue (pk None; sent twice it is added once), or change one. A lead's work.

    What was poured already keeps its composition as it was. Raises CoreError for what cannot be, Conflict for a name that is
    taken or a line that somebody edited meanwhile.
    """
    model: Any = MODEL_OF[type(given)]
    line: Line
    name = given.name.strip()
    if not name:
        raise CoreError("name", "The name is empty. Enter one.", "required")
    for i, size in enumerate(getattr(given, "container_sizes_l", [])):
        check_between(f"container_sizes_l.{i}", size, 0.05, 1500, "L", "Litres in one container.")
    if given.minimum_l is not None:
        check_between("minimum_l", given.minimum_l, 0, 100_000, "L", "Order below this much.")
    with transaction.atomic():
        if pk is None:
            existing = model.objects.filter(depot=actor.own_depot, added_as=given.id).first() if given.id else None
            if existing:
                found: Line = existing
                return found
            line = model(depot=actor.own_depot, added_as=given.id)
        else:
            line = get_object_or_404(model.objects.select_for_update(), pk=pk, depot=actor.own_depot)
            if given.seen != line.edited_at:
                raise Conflict("seen", "Someone else changed this. Reload, then enter your change.", "moved")
        if model.objects.filter(depot=actor.own_depot, name__iexact=name).exclude(pk=line.pk).exists():
            raise Conflict("name", f"{name} is in Products already. Choose another name.", "taken")
        for field, value in given.model_dump(exclude={"id", "seen"}).items():
            setattr(line, field, value)
        line.name = name
        line.clean()
        line.save()
    return line
