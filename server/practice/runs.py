"""Runs: begun, acted in, run forward, ended. The world of a run is built again from its lesson, its seed and its acts."""

from __future__ import annotations

import threading
import uuid
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from random import SystemRandom

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone
from pydantic import TypeAdapter

from config.apart import apart
from depots.models import Depot
from fleet.models import Loop
from jobs.models import cores_of
from jobs.queries import entries_of
from people.models import Person
from practice.depot import file_of, forget, set_up
from practice.lessons import lesson_named, text_of
from practice.models import Did, Offered, Run
from temper_core.basis.errors import Conflict, check_between
from temper_core.practice.acts import Act, Found
from temper_core.practice.free import LARGEST_SEED, free
from temper_core.practice.lesson import Lesson, lesson_of
from temper_core.practice.looking_back import LookingBack, Recorded, look_back
from temper_core.practice.world import LONGEST_RUN_MIN, LONGEST_WAIT_MIN, World, world

ACT: TypeAdapter[Act] = TypeAdapter(Act)
LOOKING_BACK: TypeAdapter[LookingBack] = TypeAdapter(LookingBack)
NOBODY_THERE = timedelta(minutes=10)  # longer without a request, and the clock of a run stands meanwhile
KEPT = timedelta(days=60)  # what was begun and never ended
MOST_WORLDS = 32
MOST_OPEN = 10  # runs of one person that wait to be gone on with
OVER = timedelta(days=1)

_worlds: OrderedDict[uuid.UUID, tuple[int, World]] = OrderedDict()
_lock = threading.RLock()


def begin(
    depot: Depot, pk: uuid.UUID, key: str, seed: int | None, *, actor: Person, layout: tuple[str, float] | None
) -> Run:
    """A run of a lesson, or of free practice on a layout; sent twice, begun once. Raises CoreError."""
    existing = Run.objects.filter(pk=pk).first()
    if existing is not None:
        if existing.person_id != actor.pk:
            raise Conflict("id", "Another run has this id already. Send a new one.", "id_taken")
        return existing
    drawn = seed if seed is not None else SystemRandom().randint(1, LARGEST_SEED)
    check_between("seed", drawn, 1, LARGEST_SEED, "", "Any whole number.")
    lesson = free(*layout, drawn) if layout is not None else lesson_named(depot, key)
    now = timezone.now()
    run = Run(
        id=pk, depot=depot, person=actor, lesson=lesson.key, name=lesson.name[:80], seed=drawn, started_at=now, clock_at=now,
        seen_at=now, text="" if layout is not None else text_of(depot, key),
        free=None if layout is None else {"layout": layout[0], "capacity_l": layout[1]},
    )  # fmt: skip
    _tidy(actor, now)
    set_up(run, lesson)
    run.save(force_insert=True)
    return run


def _tidy(person: Person, now: datetime) -> None:
    """Databases of runs that are over, and runs that were begun and left long ago, or by the dozen."""
    for over in Run.objects.filter(person=person, ended_at__lt=now - OVER):
        forget(over)
    left = Run.objects.filter(person=person, ended_at=None).order_by("-started_at")
    for number, run in enumerate(left):
        if number >= MOST_OPEN or run.started_at < now - KEPT:
            forget(run)
            run.delete()


def own(person: Person, pk: uuid.UUID) -> Run:
    """One's own run; Http404 for any other."""
    return get_object_or_404(Run.objects.select_related("depot", "person"), pk=pk, person=person)


def offered(person: Person) -> None:
    """They were offered their first lesson: they are not asked again."""
    Offered.objects.get_or_create(person=person)


def lesson_in(run: Run) -> Lesson:
    """The lesson as it was when the run began."""
    return free(run.free["layout"], run.free["capacity_l"], run.seed) if run.free else lesson_of(run.text)


def clock_of(run: Run, real: datetime) -> datetime:
    """The run's own time: as it was seen last, and on from there; it stands while nobody is there."""
    gone = max(timedelta(0), real - run.seen_at)
    return run.clock_at + (gone if gone < NOBODY_THERE else timedelta(0))


def seen(run: Run, real: datetime) -> timedelta:
    """Somebody is there: the clock goes on from now. How far it is ahead."""
    at = clock_of(run, real)
    if real - run.seen_at > timedelta(seconds=20):
        _set_clock(run, at, real)
    return at - real


def _set_clock(run: Run, at: datetime, real: datetime) -> None:
    run.clock_at, run.seen_at = at, real
    Run.objects.filter(pk=run.pk).update(clock_at=at, seen_at=real)


@contextmanager
def in_the_depot_of(run: Run) -> Iterator[None]:
    """The run's database, by the run's clock. Raises Conflict where it is gone."""
    if not file_of(run).exists():
        raise Conflict("run", "This run is over. Begin it again.", "over")
    with apart(file_of(run), seen(run, timezone.now())):
        yield


def minutes(run: Run, at: datetime) -> float:
    """Minutes since the machine came in."""
    return max(0.0, (at - run.started_at).total_seconds() / 60)


def world_of(run: Run) -> World:
    """As it is after every act so far; from within the run's database. Held by _lock."""
    count = Did.objects.count()
    kept = _worlds.get(run.pk)
    if kept is not None and kept[0] == count:
        _worlds.move_to_end(run.pk)
        return kept[1]
    made = world(lesson_in(run), run.seed)
    for row in Did.objects.all():
        made.do(ACT.validate_python(row.act), row.at_min)
    _keep(run, count, made)
    return made


def _keep(run: Run, count: int, made: World) -> None:
    _worlds[run.pk] = (count, made)
    _worlds.move_to_end(run.pk)
    while len(_worlds) > MOST_WORLDS:
        _worlds.popitem(last=False)


def act(run: Run, pk: uuid.UUID, given: Act) -> Found | None:
    """A hand does it now; sent twice, done once (None then). Raises CoreError for what cannot be done now."""
    _check_open(run)
    with _lock, in_the_depot_of(run):
        if Did.objects.filter(pk=pk).exists():
            return None
        made, real = world_of(run), timezone.now()
        at = max(minutes(run, clock_of(run, real)), made.at_min)
        try:
            with transaction.atomic():
                count = Did.objects.count()
                found = made.do(given, at)
                Did.objects.create(id=pk, number=count, at_min=at, act=ACT.dump_python(given, mode="json"))
        except BaseException:
            _worlds.pop(run.pk, None)  # what was half done is built again
            raise
        _keep(run, count + 1, made)
        after = run.started_at + timedelta(minutes=made.at_min)
    _set_clock(run, after, real)
    return found


def run_forward(run: Run, by_min: float) -> None:
    """The run's clock goes on at once. Raises CoreError."""
    _check_open(run)
    check_between("minutes", by_min, 1, LONGEST_WAIT_MIN, "minutes", "Wait less at once.")
    real = timezone.now()
    after = clock_of(run, real) + timedelta(minutes=by_min)
    if minutes(run, after) > LONGEST_RUN_MIN:
        days = LONGEST_RUN_MIN / 1440
        raise Conflict("minutes", f"A practice runs over {days:.0f} days at most. Finish it, or begin again.", "too_long")
    _set_clock(run, after, real)


def end(run: Run) -> LookingBack:
    """The truth beside the record; kept with the run, and the same when asked again."""
    with _lock:
        if run.ended_at is not None:
            return LOOKING_BACK.validate_python(run.result)
        with in_the_depot_of(run):
            policy = Depot.objects.get().policy
            made = world_of(run)
            now = minutes(run, clock_of(run, timezone.now()))
            _worlds.pop(run.pk, None)
            made.until(now)
            records = [_recorded(run, loop) for loop in Loop.objects.order_by("position")]
            back = look_back(made, records, policy)
        run.ended_at, run.reached, run.unsafe = timezone.now(), back.reached, len(back.unsafe)
        run.result = LOOKING_BACK.dump_python(back, mode="json")
        run.save(update_fields=["ended_at", "reached", "unsafe", "result"])
    return back


def _recorded(run: Run, loop: Loop) -> Recorded:
    entries = tuple(cores_of(entries_of(loop)))
    return Recorded(loop.core, entries, tuple(minutes(run, entry.happened_at) for entry in entries))


def _check_open(run: Run) -> None:
    if run.ended_at is not None:
        raise Conflict("run", "This run is over: its truth is shown. Begin it again.", "over")
