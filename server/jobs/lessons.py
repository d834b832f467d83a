"""What a machine's measured jobs taught, pooled with its sisters'; a lead takes it over as the next prediction or not."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from django.db import transaction
from django.shortcuts import get_object_or_404

from config import clock
from fleet.models import Loop
from jobs.lesson_schemas import LessonIn, LessonRow, Lessons
from jobs.models import JobLoop
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.life.lesson import Lesson, Offer, offers

SAME = 0.0005  # of a share, or of the minutes


def sisters_of(loop: Loop) -> list[Loop]:
    """Loops of the same name and layout on machines of the same kind in the depot."""
    machine = loop.machine
    rows = Loop.objects.filter(machine__depot=machine.depot, machine__kind__iexact=machine.kind, name=loop.name)
    return [row for row in rows.exclude(pk=loop.pk) if row.layout == loop.layout and row.capacity_l == loop.capacity_l]


def _lessons(loops: list[Loop]) -> dict[int, list[Lesson]]:
    """What the signed jobs of these loops measured, oldest first."""
    rows = JobLoop.objects.filter(loop__in=loops, signed_at__isnull=False, result__lesson__isnull=False)
    found: dict[int, list[Lesson]] = defaultdict(list)
    for loop_id, lesson in rows.order_by("signed_at").values_list("loop_id", "result__lesson"):
        if lesson:
            found[loop_id].append(lesson)
    return found


def offered(loop: Loop) -> list[Offer]:
    """What can be offered of a loop now."""
    sisters = sisters_of(loop)
    found = _lessons([loop, *sisters])
    return offers(loop.core, found[loop.pk], [found[row.pk] for row in sisters])


def lessons_of(loop: Loop) -> Lessons:
    """The offers with what was decided of each; a decision is asked for again once more jobs have come."""
    return Lessons(rows=[_row(offer, loop.taught.get(offer.key)) for offer in offered(loop)])


def _row(offer: Offer, decided: dict[str, Any] | None) -> LessonRow:
    kept = decided or {}
    fresh = decided is None or kept["jobs"] < offer.jobs
    return LessonRow(
        key=offer.key,
        value=offer.value,
        likely=offer.likely,
        jobs=offer.jobs,
        own=offer.own,
        sisters=offer.sisters,
        said=offer.said,
        taken=None if fresh else kept["taken"],
        taken_value=kept.get("value") if kept.get("taken") else None,
        by=kept.get("by", ""),
        at=kept.get("at"),
    )


def decide_lesson(loop: Loop, given: LessonIn, *, actor: Person) -> None:
    """Take a figure over, or refuse it; a lead's decision. Refused, what was taken over before counts no more.

    Raises CoreError for a figure that is not offered, Conflict while a job is open or where it has moved since.
    """
    with transaction.atomic():
        loop = get_object_or_404(Loop.objects.select_for_update().select_related("machine__depot"), pk=loop.pk)
        offer = next((row for row in offered(loop) if row.key == given.key), None)
        if offer is None:
            raise CoreError("key", "The jobs teach nothing of that yet. Two measured jobs are needed.", "nothing_learned")
        if abs(offer.value - given.value) > SAME * max(1.0, offer.value):
            raise Conflict("value", f"It is now {offer.value:.3f}, not {given.value:.3f}. Reload the page.", "moved")
        if JobLoop.objects.filter(loop=loop, signed_at__isnull=True).exists():
            raise Conflict("job", "A job is open on this loop and counts with the old figure. Finish it first.", "job_open")
        loop.taught = loop.taught | {
            offer.key: {
                "value": offer.value,
                "sd": offer.sd,
                "jobs": offer.jobs,
                "taken": given.take,
                "by": actor.name,
                "at": clock.now().isoformat(),
            }
        }
        loop.save(update_fields=["taught"])
