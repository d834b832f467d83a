"""Reads of the fleet."""

from __future__ import annotations

from typing import Any

from django.db.models import DateField, FloatField, OuterRef, Prefetch, QuerySet, Subquery
from django.db.models.fields.json import KT
from django.db.models.functions import Cast

from depots.models import Depot
from fleet.models import Loop, Machine
from fleet.schemas import LoopDetail, LoopSpec, MachineDetail, MachineListed, OwnerOut
from temper_core.machine.bleed_recipes import shipped_recipes
from temper_core.machine.equipment import cautions, level_words
from temper_core.machine.layouts import is_usual

_DUE_ON = Cast(KT("result__state__due__on"), DateField())
_FREEZE_C = Cast(KT("result__state__claim__freeze_c"), FloatField())


def loops_of(depot: Depot) -> QuerySet[Loop]:
    """Loops of a depot with machine and depot at hand."""
    return Loop.objects.filter(machine__depot=depot).select_related("machine__depot", "machine__owner")


def machines_in(depot: Depot) -> QuerySet[Machine]:
    """Machines of a depot with the depot at hand."""
    return Machine.objects.filter(depot=depot).select_related("depot", "taken_in_by", "owner")


def parts_of_jobs() -> QuerySet[Any]:
    """Loops' parts of jobs, by the relation that jobs lay to them: they stand above the fleet and are not imported."""
    model: Any = Loop._meta.get_field("job_loops").related_model
    found: QuerySet[Any] = model.objects.all()
    return found


def entries_of_machine(machine: Machine) -> QuerySet[Any]:
    """What was recorded of a machine, by the relation that entries lay to its loops."""
    model: Any = Loop._meta.get_field("entries").related_model
    found: QuerySet[Any] = model.objects.filter(loop__machine=machine)
    return found


def entries_of_depot(depot: Depot) -> QuerySet[Any]:
    """What was recorded at a depot, by the relation that entries lay to its loops."""
    model: Any = Loop._meta.get_field("entries").related_model
    found: QuerySet[Any] = model.objects.filter(loop__machine__depot=depot)
    return found


def machines_of(depot: Depot) -> QuerySet[Machine]:
    """Machines with their loops; each loop knows whether it is in work and how its last job ended."""
    last = parts_of_jobs().filter(loop=OuterRef("pk"), signed_at__isnull=False).order_by("-signed_at")
    in_work = parts_of_jobs().filter(loop=OuterRef("pk"), signed_at__isnull=True)
    loops = Loop.objects.annotate(
        open_job=Subquery(in_work.values("pk")[:1]),
        last_signed_at=Subquery(last.values("signed_at")[:1]),
        due_on=Subquery(last.annotate(due_on=_DUE_ON).values("due_on")[:1]),
        last_freeze_c=Subquery(last.annotate(freeze_c=_FREEZE_C).values("freeze_c")[:1]),
    )
    return depot.machines.select_related("owner").prefetch_related(Prefetch("loops", queryset=loops))


def owner_out(machine: Machine) -> OwnerOut | None:
    """Whom a machine belongs to, as shown."""
    return OwnerOut.model_validate(machine.owner, from_attributes=True) if machine.owner is not None else None


def machine_detail(machine: Machine) -> MachineDetail:
    """A machine with all that is entered of its loops."""
    in_work = set(parts_of_jobs().filter(loop__machine=machine, signed_at__isnull=True).values_list("loop_id", flat=True))
    return MachineDetail(
        machine=MachineListed.model_validate(machine, from_attributes=True),
        owner=owner_out(machine),
        edited_at=machine.edited_at,
        loops=[_loop_detail(loop, loop.id in in_work) for loop in loops_of(machine.depot).filter(machine=machine)],
    )


SPEC_WORDS = (  # what a lead enters and the model keeps as it is
    *("name", "capacity_l", "capacity_source", "cap_gauge_kpa", "coldest_c", "maker_families", "maker_standards"),
    *(
        "maker_stated_in",
        "materials",
        "glycol_forbidden",
        "low_conductivity",
        "use",
        "high_voltage",
        "believed_strength_percent",
    ),
)


def _loop_detail(loop: Loop, in_work: bool) -> LoopDetail:
    core = loop.core
    spec = LoopSpec(
        **{name: getattr(loop, name) for name in SPEC_WORDS},
        layout=core.layout,
        equipment=core.equipment,
        believed_base=core.believed.base,
        believed_family=core.believed.family,
    )
    return LoopDetail(
        id=loop.id,
        uuid=loop.uuid,
        position=loop.position,
        spec=spec,
        edited_at=loop.edited_at,
        open=in_work,
        capacity_note=loop.capacity_note,
        room_l=core.layout.room_l,
        usual=is_usual(core.layout),
        level=level_words(core.equipment),
        cautions=list(cautions(core.equipment, core.high_voltage)),
        recipes=list(shipped_recipes(core.layout)),
    )
