"""What a lead asks for: a lesson, reached, before somebody works on high voltage or with a cleaner."""

from __future__ import annotations

from config.apart import is_apart
from depots.models import Depot
from jobs.doors import Work
from people.models import Person
from practice.lessons import lessons_of
from practice.models import AskedLesson, Run
from temper_core.basis.errors import Conflict, CoreError

WORK_NAMES = {Work.HIGH_VOLTAGE: "a high-voltage loop", Work.CLEANER: "a cleaner"}


def check_lesson(person: Person, work: Work) -> None:
    """Refuse whoever has not reached the lesson that is asked for; raises Conflict. Nothing is asked within practice."""
    if is_apart() or person.depot is None:
        return
    asked = AskedLesson.objects.filter(depot=person.depot, work=work.value).first()
    if asked is None or Run.objects.filter(person=person, lesson=asked.lesson, reached=True).exists():
        return
    names = {row.key: row.name for row in lessons_of(person.depot)}
    name = names.get(asked.lesson, asked.lesson)
    message = f"Before {WORK_NAMES[work]} a lead asks for the lesson “{name}”. Reach its aims under Practice first."
    raise Conflict("lesson", message, "lesson_asked")


def ask_for(depot: Depot, work: Work, lesson: str | None, *, actor: Person) -> None:
    """Ask for a lesson before this work from now on; None: for nothing any more. Raises CoreError for one not there."""
    if lesson is None:
        AskedLesson.objects.filter(depot=depot, work=work.value).delete()
        return
    keys = [row.key for row in lessons_of(depot)]
    if lesson not in keys:
        raise CoreError("lesson", f"'{lesson}' is no lesson: {', '.join(keys)} are.", "not_there")
    AskedLesson.objects.update_or_create(depot=depot, work=work.value, defaults={"lesson": lesson, "person": actor})
