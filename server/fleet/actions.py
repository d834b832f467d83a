"""Writes about machines and loops; each in one transaction, the actor required."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from fleet.models import LAYOUT, Loop
from people.models import Person
from temper_core.admit import Conflict
from temper_core.circuit import resized
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
