"""The lessons that somebody can do: those that come with it, and those a lead of the depot added."""

from __future__ import annotations

from depots.models import Depot
from people.models import Person
from practice.models import OwnLesson
from temper_core.basis.errors import Conflict, CoreError
from temper_core.practice.lesson import SHIPPED, Lesson, lesson_of, shipped

LONGEST_TEXT = 40_000
MOST_OWN = 100


def lessons_of(depot: Depot) -> list[Lesson]:
    """In rising order."""
    own = [row.core for row in OwnLesson.objects.filter(depot=depot)]
    return sorted([*shipped(), *own], key=lambda row: (row.order, row.key))


def lesson_named(depot: Depot, key: str) -> Lesson:
    """One of them; raises CoreError."""
    found = next((row for row in lessons_of(depot) if row.key == key), None)
    if found is None:
        raise CoreError("lesson", f"'{key}' is no lesson of this depot.", "not_there")
    return found


def text_of(depot: Depot, key: str) -> str:
    """As it is written; raises CoreError."""
    own = OwnLesson.objects.filter(depot=depot, key=key).first()
    if own is not None:
        return own.text
    lesson = lesson_named(depot, key)
    return (SHIPPED / f"{lesson.order:02d}-{lesson.key}.toml").read_text(encoding="utf-8")


def add_lesson(depot: Depot, text: str, *, actor: Person) -> Lesson:
    """Add a lead's lesson, or put a new one of the same key in its place; raises CoreError for what is no lesson."""
    if len(text) > LONGEST_TEXT:
        raise CoreError("text", f"Longer than {LONGEST_TEXT} characters. Shorten it.", "too_long")
    lesson = lesson_of(text)
    if lesson.key in {row.key for row in shipped()} or lesson.key.startswith("free-"):
        raise Conflict("key", f"'{lesson.key}' comes with Temper. Give yours another key.", "key_taken")
    if OwnLesson.objects.filter(depot=depot).count() >= MOST_OWN:
        raise Conflict("text", f"There are {MOST_OWN} lessons already. Remove one first.", "most_lessons")
    OwnLesson.objects.update_or_create(depot=depot, key=lesson.key, defaults={"text": text, "person": actor})
    return lesson


def remove_lesson(depot: Depot, key: str) -> None:
    """Remove a lead's lesson; its runs stay in the record. Raises CoreError for one that is not theirs."""
    removed, _ = OwnLesson.objects.filter(depot=depot, key=key).delete()
    if not removed:
        raise CoreError("key", f"'{key}' is none of your own lessons.", "not_there")
