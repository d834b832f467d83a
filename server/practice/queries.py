"""What is shown of practice."""

from __future__ import annotations

import csv
import io
from datetime import timedelta

from django.utils import timezone

from depots.models import Depot
from fleet.models import Loop
from jobs.doors import Work
from people.models import Person
from practice.lessons import lessons_of
from practice.models import AskedLesson, Offered, OwnLesson, Run
from practice.runs import _lock, clock_of, in_the_depot_of, lesson_in, world_of
from practice.schemas import (
    AskedFor,
    DoneOut,
    GlassAtHand,
    LoopAtHand,
    PointAt,
    Practice,
    PracticeBench,
    PracticeLesson,
    PracticeRecord,
    PracticeRun,
    RecordRow,
)
from temper_core.instruments.eyepiece import eyepiece
from temper_core.machine.circuit import NodeKind
from temper_core.practice.shelf import CLEANER, GLASSES, PRODUCTS, WATERS
from temper_core.practice.true_loop import TrueLoop

COLUMNS = ["person", "lesson", "name", "seed", "started_at", "ended_at", "aims_reached", "unsafe_acts", "next_time"]
MOST_RUNS, MOST_DONE, MOST_ROWS = 30, 40, 2000


def practice_of(person: Person) -> Practice:
    """Everything of the page of practice."""
    depot = person.own_depot
    own = set(OwnLesson.objects.filter(depot=depot).values_list("key", flat=True))
    reached = set(Run.objects.filter(person=person, reached=True).values_list("lesson", flat=True))
    asked = dict(AskedLesson.objects.filter(depot=depot).values_list("work", "lesson"))
    return Practice(
        lessons=[
            PracticeLesson(
                key=one.key, name=one.name, story=one.story, learn=list(one.learn), machine=one.machine,
                loops=len(one.loops), own=one.key in own, reached=one.key in reached,
            )
            for one in lessons_of(depot)
        ],
        runs=[run_out(run) for run in Run.objects.filter(person=person)[:MOST_RUNS]],
        asked=[AskedFor(work=work, lesson=asked.get(work.value)) for work in Work],
        offer=not Offered.objects.filter(person=person).exists() and not Run.objects.filter(person=person).exists(),
    )  # fmt: skip


def run_out(run: Run) -> PracticeRun:
    """A run in a list."""
    return PracticeRun.model_validate(run, from_attributes=True)


def bench_of(run: Run) -> PracticeBench:
    """What stands at hand in a run, and what was done."""
    lesson = lesson_in(run)
    with _lock, in_the_depot_of(run):
        world = world_of(run)
        rows = list(Loop.objects.order_by("position"))
        loops = [_at_hand(row, world.loops[number], number in world.bench.samples) for number, row in enumerate(rows)]
        done = [
            DoneOut(at=run.started_at + timedelta(minutes=one.at_min), act=one.act, found=one.found)
            for one in reversed(world.done[-MOST_DONE:])
        ]
    return PracticeBench(
        run=run_out(run),
        machine_id=rows[0].machine_id,
        story=lesson.story,
        learn=list(lesson.learn),
        now=clock_of(run, timezone.now()),
        loops=loops,
        coolants=[one.name for one in PRODUCTS],
        waters=list(WATERS),
        cleaner=CLEANER.name,
        glasses=[GlassAtHand(name=one.name, scale=one.scale.value, marks=list(eyepiece(one.scale))) for one in GLASSES],
        done=done,
    )


def _at_hand(row: Loop, true: TrueLoop, sample: bool) -> LoopAtHand:
    layout = row.core.layout
    names = {node.id: node.name for node in layout.nodes}
    reach = layout.reachable_l()
    unreached = [node for node in layout.nodes if node.kind is NodeKind.TANK and node.volume_l > 0 and reach[node.id] == 0]
    return LoopAtHand(
        loop_id=row.pk,
        name=row.name,
        running=true.running,
        cap_open=true.cap_open,
        drains_open=list(true.drains_open),
        heater=true.has_heater,
        sample=sample,
        drains=[PointAt(mark=one.letter, name=names[one.node]) for one in layout.drains],
        by_hand=[PointAt(mark=node.id, name=node.name) for node in unreached],
        bleeders=[PointAt(mark=str(one.number), name=names[one.node]) for one in layout.bleeders],
    )


def record_of(depot: Depot) -> PracticeRecord:
    """Everybody's runs."""
    rows = Run.objects.filter(depot=depot).select_related("person")[:MOST_ROWS]
    return PracticeRecord(
        rows=[
            RecordRow(
                person=run.person.name, lesson=run.lesson, name=run.name, seed=run.seed, started_at=run.started_at,
                ended_at=run.ended_at, reached=run.reached, unsafe=run.unsafe,
                said=list(run.result["next_time"]) if run.result else [],
            )
            for run in rows
        ]
    )  # fmt: skip


def record_csv(record: PracticeRecord) -> str:
    """The record as a file: one line a run."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for row in record.rows:
        reached = "" if row.reached is None else "yes" if row.reached else "no"
        ended = row.ended_at.isoformat() if row.ended_at else ""
        line = [row.person, row.lesson, row.name, row.seed, row.started_at.isoformat(), ended, reached, row.unsafe]
        writer.writerow([_plain(str(cell)) for cell in (*line, " ".join(row.said))])
    return out.getvalue()


def _plain(cell: str) -> str:
    """A spreadsheet takes nothing of it for a formula."""
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@", "\t", "\r") else cell
