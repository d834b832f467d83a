"""Writes of the catalogue; each in one transaction, the actor required."""

from __future__ import annotations

from typing import Any
from uuid import UUID, uuid4

from django.db import transaction
from django.shortcuts import get_object_or_404

from catalogue.models import Agent, Product, WaterSource
from catalogue.schemas import AgentIn, ProductIn, WaterIn
from depots.models import Depot
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError, check_between
from temper_core.products.label import usual_glycol
from temper_core.starter.products import starter_coolants, starter_waters

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
            existing = model.objects.filter(depot=actor.own_depot, uuid=given.id).first() if given.id else None
            if existing:
                found: Line = existing
                return found
            line = model(depot=actor.own_depot, uuid=given.id or uuid4())
        else:
            line = get_object_or_404(model.objects.select_for_update(), pk=pk, depot=actor.own_depot)
            if given.seen != line.edited_at:
                raise Conflict("seen", "Someone else changed this. Reload, then enter your change.", "moved")
        if model.objects.filter(depot=actor.own_depot, name__iexact=name).exclude(pk=line.pk).exists():
            raise Conflict("name", f"{name} is in Products already. Choose another name.", "taken")
        for field, value in given.model_dump(exclude={"id", "seen"}).items():
            setattr(line, field, value)
        if isinstance(given, ProductIn):
            _as_labelled(line, given)
        line.name = name
        line.clean()
        line.save()
    return line


def _as_labelled(line: Any, given: ProductIn) -> None:
    """What the label states; where it is silent of the glycol, what is usual, marked as such."""
    line.label_entered, line.glycol_stated = True, given.glycol_mass_percent is not None
    if given.glycol_mass_percent is None:
        line.glycol_mass_percent = usual_glycol(given.base, given.form).percent


def add_from_list(depot: Depot, key: str, id_: UUID) -> Product | WaterSource:
    """A line of the starter list: a coolant whose label nobody has entered yet, or a water. The same name twice is one line.

    Raises CoreError for a key that the list does not have.
    """
    coolant = next((row for row in starter_coolants() if row.key == key), None)
    if coolant is not None:
        usual = usual_glycol(coolant.base, coolant.form)
        product, _ = Product.objects.get_or_create(
            depot=depot,
            name=coolant.name,
            defaults={
                "uuid": id_,
                "base": coolant.base.value,
                "family": coolant.family.value,
                "form": coolant.form.value,
                "glycol_mass_percent": usual.percent,
                "glycol_stated": False,
                "label_entered": False,
                "standards": list(coolant.standards),
                "container_sizes_l": list(coolant.sizes_l),
            },
        )
        return product
    water = next((row for row in starter_waters() if row.key == key), None)
    if water is None:
        raise CoreError("picks", f"The starter list has no line '{key}'. Reload the page.", "unknown_line")
    source, _ = WaterSource.objects.get_or_create(
        depot=depot, name=water.name, defaults={"uuid": id_, "kind": water.kind.value}
    )
    return source
