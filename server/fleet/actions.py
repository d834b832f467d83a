"""Writes about machines and loops; each in one transaction, the actor required."""

from __future__ import annotations

from datetime import datetime
from uuid import uuid5

from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.shortcuts import get_object_or_404

from config import clock
from fleet.models import EQUIPMENT, LAYOUT, Loop, Machine
from fleet.owners import set_owner
from fleet.queries import SPEC_WORDS, entries_of_machine, parts_of_jobs
from fleet.schemas import LoopAdd, LoopEdit, MachineEdit, MachineIn
from fleet.taking_in import NewLoop, check_named, check_one_way, loops_of_kind, new_loop
from people.models import Person, Role
from temper_core.basis.errors import Conflict, under
from temper_core.job.loop import CapacitySource
from temper_core.job.loop_state import LoopState
from temper_core.machine.circuit import resized
from temper_core.machine.joined import check_joined

SAME_L = 0.005
NUMBER_MAX = 16


def take_over_capacity(loop: Loop, state: LoopState, capacity_l: float, *, actor: Person) -> Loop:
    """Believe the capacity that the last job's readings taught; the loop's vessels follow. A lead's decision.

    Raises Conflict while a job is open (its litres stand on the old figure), when nothing was learned, or when what was
    learned is no longer what the person saw.
    """
    if state.job_id is not None and state.signed_at is None:
        raise Conflict("job", "A job is open on this loop and uses the old capacity. Finish it first.", "job_open")
    if state.learned is None:
        raise Conflict("capacity_l", "The last job gives no new capacity.", "nothing_learned")
    combined = state.learned.combined
    if abs(combined.value - capacity_l) > SAME_L:
        raise Conflict("capacity_l", f"It is now {combined.value:.2f} L, not {capacity_l:.2f} L. Reload the page.", "moved")
    with transaction.atomic():
        before = loop.capacity_l
        loop.capacity_l, loop.capacity_sd_l = combined.value, combined.sd
        loop.capacity_source, loop.capacity_known_at = CapacitySource.LEARNED.value, clock.now()
        loop.capacity_note = f"learned from a reading, before {before:.2f} L; accepted by {actor.name}"[:160]
        loop.layout = LAYOUT.dump_python(resized(LAYOUT.validate_python(loop.layout), combined.value), mode="json")
        loop.__dict__.pop("core", None)  # cached
        loop.clean()
        loop.save()
    return loop


COPIED = (  # what a sister machine shares; what was learned of one loop is not known of another
    *("name", "position", "capacity_l", "capacity_source", "layout", "equipment", "coldest_c", "cap_gauge_kpa"),
    *("maker_families", "maker_standards", "maker_stated_in", "materials", "glycol_forbidden", "low_conductivity"),
    *("use", "high_voltage", "believed_base", "believed_family"),
)


def add_machine(given: MachineIn, *, actor: Person) -> Machine:
    """A new machine: as its kind usually is, with one loop from a generic layout, or with the loops of a sister machine.

    Whoever receives it takes it in; a technician's stays unchecked until a lead looked it over. Sent twice it is added once.
    Raises CoreError for what cannot be, Conflict for a fleet number that is taken.
    """
    number = check_named(given.fleet_number, given.kind)
    check_one_way(given)
    with transaction.atomic():
        existing = Machine.objects.filter(uuid=given.id, depot=actor.own_depot).first()
        if existing:
            return existing
        if given.apart:
            number = _free_number(number, actor)
        _check_free(number, actor)
        machine = Machine.objects.create(
            depot=actor.own_depot,
            fleet_number=number,
            kind=given.kind.strip(),
            description=given.description.strip(),
            year=given.year,
            uuid=given.id,
            taken_in_by=actor,
            taken_in_at=clock.now(),
            checked_by=actor if actor.role == Role.LEAD else None,
            checked_at=clock.now() if actor.role == Role.LEAD else None,
        )
        if given.owner is not None:
            set_owner(machine, given.owner)
            machine.save(update_fields=["owner"])
        for loop in _new_loops(given, actor):
            loop.machine, loop.uuid = machine, uuid5(given.id, str(loop.position))
            with under("loop"):
                loop.clean()
            loop.save()
    return machine


def check_machine(machine: Machine, *, actor: Person) -> Machine:
    """A lead looked over what a technician took in. A lead's work; a second time changes nothing."""
    with transaction.atomic():
        fresh = Machine.objects.select_for_update().get(pk=machine.pk)
        if fresh.unchecked:
            fresh.checked_by, fresh.checked_at = actor, clock.now()
            fresh.save()
    return fresh


def check_may_edit(machine: Machine, actor: Person) -> None:
    """A lead, or who took it in until its first entry; raises PermissionDenied."""
    if actor.role == Role.LEAD:
        return
    if machine.taken_in_by_id != actor.pk or not machine.unchecked:
        raise PermissionDenied("A lead edits machines; who took one in, until a lead has checked it.")
    if entries_of_machine(machine).exists():
        raise PermissionDenied("Work on this machine has begun: a lead edits it from here on.")


def _new_loops(given: MachineIn, actor: Person) -> list[Loop]:
    if given.loop is not None:
        with under("loop"):
            return [_loop_of(new_loop(given.loop))]
    if given.of_kind is not None:
        return [_loop_of(made) for made in loops_of_kind(given.of_kind)]
    sister = get_object_or_404(Machine, pk=given.copy_of, depot=actor.own_depot)
    copies = []
    for loop in sister.loops.all():
        copy = Loop(**{name: getattr(loop, name) for name in COPIED})
        if copy.capacity_source == CapacitySource.LEARNED.value:
            copy.capacity_source = CapacitySource.REMEMBERED.value
        if copy.capacity_source == CapacitySource.KIND.value:  # nobody knows it of either: as wide as of the sister
            copy.capacity_sd_l, copy.capacity_note = loop.capacity_sd_l, loop.capacity_note
        copies.append(copy)
    return copies


def _loop_of(made: NewLoop) -> Loop:
    """As it is stored."""
    given = made.given
    plain = given.model_dump(mode="json", exclude={"layout", "equipment", "believed_base", "believed_family"})
    return Loop(
        position=made.position,
        equipment=EQUIPMENT.dump_python(made.equipment, mode="json"),
        layout=LAYOUT.dump_python(made.layout, mode="json"),
        capacity_sd_l=made.capacity_sd_l,
        capacity_note=made.capacity_note,
        believed_base=given.believed_base.value if given.believed_base else "",
        believed_family=given.believed_family.value if given.believed_family else "",
        **plain,
    )


def _free_number(number: str, actor: Person) -> str:
    """The number, or with a count behind it where it is taken: what was taken in without a network is not lost.

    A lead finds both, and joins them where they are one machine.
    """
    free, n = number, 1
    while Machine.objects.filter(depot=actor.own_depot, fleet_number__iexact=free).exists():
        n += 1
        free = f"{number[: NUMBER_MAX - len(str(n)) - 3]} ({n})"
    return free


def _check_free(number: str, actor: Person, besides: Machine | None = None) -> None:
    taken = Machine.objects.filter(depot=actor.own_depot, fleet_number__iexact=number)
    if besides:
        taken = taken.exclude(pk=besides.pk)
    if taken.exists():
        raise Conflict("fleet_number", f"{number} is in use already. Choose another number.", "taken")


def _check_seen(thing: Machine | Loop, seen: datetime) -> None:
    if thing.edited_at != seen:
        raise Conflict("seen", "Someone else changed this. Reload, then enter your change.", "moved")


def edit_machine(machine: Machine, given: MachineEdit, *, actor: Person) -> Machine:
    """Number, kind, description, year. A lead's work, or of who took it in, until the first entry.

    Raises CoreError, or Conflict when it has moved on.
    """
    number = check_named(given.fleet_number, given.kind)
    with transaction.atomic():
        fresh = Machine.objects.select_for_update().get(pk=machine.pk)
        check_may_edit(fresh, actor)
        _check_seen(fresh, given.seen)
        _check_free(number, actor, fresh)
        fresh.fleet_number, fresh.kind, fresh.year = number, given.kind.strip(), given.year
        fresh.description = given.description.strip()
        if "owner" in given.model_fields_set:
            set_owner(fresh, given.owner)
        fresh.save()
    return fresh


def edit_loop(loop: Loop, given: LoopEdit, *, actor: Person) -> Loop:
    """A loop as it shall be. A lead's work; signed-off jobs keep what they had.

    Raises CoreError for what cannot be, Conflict while a job is open (its litres stand on the old figures) or when somebody
    edited it meanwhile.
    """
    spec = given.spec
    with transaction.atomic():
        fresh = Loop.objects.select_for_update().select_related("machine__depot").get(pk=loop.pk)
        check_may_edit(fresh.machine, actor)
        _check_seen(fresh, given.seen)
        if fresh.high_voltage is not False and spec.high_voltage is False and actor.role != Role.LEAD:
            raise PermissionDenied("High voltage: yes, or not known. Only a lead says that there is none.")
        if parts_of_jobs().filter(loop=fresh, signed_at__isnull=True).exists():
            raise Conflict("job", "A job is open on this loop and uses these figures. Finish it first.", "job_open")
        plain = spec.model_dump(mode="json", include=set(SPEC_WORDS))
        if (fresh.capacity_l, fresh.capacity_source) != (spec.capacity_l, spec.capacity_source.value):
            fresh.capacity_sd_l, fresh.capacity_known_at = None, None
            fresh.capacity_note = f"{spec.capacity_source.value}, before {fresh.capacity_l:.2f} L; entered by {actor.name}"[
                :160
            ]
        for name, value in plain.items():
            setattr(fresh, name, value)
        with under("spec.layout"):
            check_joined(spec.layout)
        fresh.layout = LAYOUT.dump_python(spec.layout, mode="json")
        fresh.equipment = EQUIPMENT.dump_python(spec.equipment, mode="json")
        fresh.believed_base = spec.believed_base.value if spec.believed_base else ""
        fresh.believed_family = spec.believed_family.value if spec.believed_family else ""
        with under("spec"):
            fresh.clean()
        fresh.save()
    return fresh


def add_loop(machine: Machine, given: LoopAdd, *, actor: Person) -> Loop:
    """One more loop on a machine; sent twice it is added once. A lead's work."""
    with transaction.atomic():
        existing = Loop.objects.filter(machine=machine, uuid=given.id).first()
        if existing:
            return existing
        last = machine.loops.order_by("-position").first()
        with under("loop"):
            loop = _loop_of(new_loop(given.loop))
            loop.machine, loop.uuid = machine, given.id
            loop.position = last.position + 1 if last else 1
            loop.clean()
        loop.save()
    return loop
