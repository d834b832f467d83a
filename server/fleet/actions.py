"""Writes about machines and loops; each in one transaction, the actor required."""

from __future__ import annotations

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone

from fleet.models import LAYOUT, Loop, Machine
from fleet.shapes import LoopIn, MachineIn
from people.models import Person
from temper_core.admit import Conflict
from temper_core.circuit import resized
from temper_core.errors import CoreError, under
from temper_core.layouts import generic_layout
from temper_core.state import CapacitySource, LoopState

SAME_L = 0.005


def take_over_capacity(loop: Loop, state: LoopState, capacity_l: float, *, actor: Person) -> Loop:
    """Believe the capacity that the last job's readings taught; the loop's vessels follow. A lead's decision.

    Raises Conflict while a job is open (its litres stand on the old figure), when nothing was learned, or when what was
    learned is no longer what the person saw.
    """
    if state.job_id is not None and state.signed_at is None:
        raise Conflict("job", "A job is open on this loop and stands on the old capacity: finish it first.", "job_open")
    if state.learned is None:
        raise Conflict("capacity_l", "The last job teaches nothing new of the capacity.", "nothing_learned")
    combined = state.learned.combined
    if abs(combined.value - capacity_l) > SAME_L:
        raise Conflict("capacity_l", f"It is now {combined.value:.2f} L, not {capacity_l:.2f} L: look again.", "moved")
    with transaction.atomic():
        before = loop.capacity_l
        loop.capacity_l, loop.capacity_sd_l = combined.value, combined.sd
        loop.capacity_source, loop.capacity_known_at = CapacitySource.LEARNED.value, timezone.now()
        loop.capacity_note = f"learned from a reading, before {before:.2f} L; taken over by {actor.name}"[:160]
        loop.layout = LAYOUT.dump_python(resized(LAYOUT.validate_python(loop.layout), combined.value), mode="json")
        loop.__dict__.pop("core", None)  # cached
        loop.clean()
        loop.save()
    return loop


COPIED = (  # what a sister machine shares; what was learned of one loop is not known of another
    *("name", "position", "capacity_l", "capacity_source", "layout", "coldest_c", "cap_gauge_kpa"),
    *("maker_families", "maker_standards", "maker_stated_in", "materials", "glycol_forbidden", "low_conductivity"),
    *("high_voltage", "believed_base", "believed_family"),
)


def add_machine(given: MachineIn, *, actor: Person) -> Machine:
    """A new machine with one loop from a generic layout, or with the loops of a sister machine. A lead's work.

    Sent twice it is added once. Raises CoreError for what cannot be, Conflict for a fleet number that is taken.
    """
    number = given.fleet_number.strip()
    for name, text in (("fleet_number", number), ("kind", given.kind.strip())):
        if not text:
            raise CoreError(name, f"The {name.replace('_', ' ')} is empty: it is how people find the machine.", "required")
    if (given.loop is None) == (given.copy_of is None):
        raise CoreError("loop", "Say either a loop or the machine it is like, one of them.", "one_of_them")
    with transaction.atomic():
        existing = Machine.objects.filter(added_as=given.id, depot=actor.depot).first()
        if existing:
            return existing
        if Machine.objects.filter(depot=actor.depot, fleet_number__iexact=number).exists():
            raise Conflict("fleet_number", f"{number} is in the fleet already: look there, or give another.", "taken")
        machine = Machine.objects.create(
            depot=actor.depot,
            fleet_number=number,
            kind=given.kind.strip(),
            description=given.description.strip(),
            added_as=given.id,
        )
        for loop in _new_loops(given, actor):
            loop.machine = machine
            with under("loop"):
                loop.clean()
            loop.save()
    return machine


def _new_loops(given: MachineIn, actor: Person) -> list[Loop]:
    if given.loop is not None:
        with under("loop"):
            return [_loop_of(given.loop)]
    sister = get_object_or_404(Machine, pk=given.copy_of, depot=actor.depot)
    copies = [Loop(**{name: getattr(loop, name) for name in COPIED}) for loop in sister.loops.all()]
    for copy in copies:
        if copy.capacity_source == CapacitySource.LEARNED.value:
            copy.capacity_source = CapacitySource.REMEMBERED.value
    return copies


def _loop_of(given: LoopIn) -> Loop:
    layout = generic_layout(given.layout, given.capacity_l)
    plain = given.model_dump(mode="json", exclude={"layout", "believed_base", "believed_family"})
    return Loop(
        layout=LAYOUT.dump_python(layout, mode="json"),
        believed_base=given.believed_base.value if given.believed_base else "",
        believed_family=given.believed_family.value if given.believed_family else "",
        **plain,
    )
