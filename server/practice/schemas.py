"""What the API says of practice."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body, Number
from jobs.doors import Work
from temper_core.instruments.eyepiece import EyepieceMark
from temper_core.practice.acts import Act, Found
from temper_core.practice.looking_back import LookingBack


class PracticeLesson(Answer):
    """A lesson as it is offered. own: a lead of the depot added it. reached: by whoever asks, at least once."""

    key: str
    name: str
    story: str
    learn: list[str]
    machine: str
    loops: int
    own: bool
    reached: bool


class PracticeRun(Answer):
    """A run in a list. reached: every aim met and nobody put at risk; null: not ended."""

    id: UUID
    lesson: str
    name: str
    seed: int
    started_at: datetime
    ended_at: datetime | None
    reached: bool | None
    unsafe: int


class AskedFor(Answer):
    """A lesson that is asked for before some work; null: none."""

    work: Work
    lesson: str | None


class Practice(Answer):
    """Lessons in rising order, one's own runs, what leads ask for. offer: this person was never offered the first one."""

    lessons: list[PracticeLesson]
    runs: list[PracticeRun]
    asked: list[AskedFor]
    offer: bool


class PracticeRunIn(Body):
    """Begin a lesson (its key), or free practice on a layout with a seed (left out: one is drawn). id is the client's."""

    id: UUID
    lesson: str | None = Field(default=None, max_length=60)
    layout: str | None = Field(default=None, max_length=40)
    capacity_l: Number | None = None
    seed: int | None = None


class PointAt(Answer):
    """Something on the machine: how it is marked, and what it belongs to."""

    mark: str
    name: str


class LoopAtHand(Answer):
    """What hands find at one loop. loop_id: its number in the run's depot. by_hand: vessels that no drain reaches."""

    loop_id: int
    name: str
    running: bool
    cap_open: bool
    drains_open: list[str]
    heater: bool
    sample: bool
    drains: list[PointAt]
    by_hand: list[PointAt]
    bleeders: list[PointAt]


class GlassAtHand(Answer):
    """A refractometer that lies there, and the marks of its scale."""

    name: str
    scale: str
    marks: list[EyepieceMark]


class DoneOut(Answer):
    """What was done, when by the run's clock, and what was found."""

    at: datetime
    act: Act
    found: Found


class PracticeBench(Answer):
    """A run: its story, its clock, what stands at hand, what was done last (the last first)."""

    run: PracticeRun
    machine_id: int
    story: str
    learn: list[str]
    now: datetime
    loops: list[LoopAtHand]
    coolants: list[str]
    waters: list[str]
    cleaner: str
    glasses: list[GlassAtHand]
    done: list[DoneOut]


class ActIn(Body):
    """A hand does something. id is the client's: sent twice, done once."""

    id: UUID
    act: Act


class WaitIn(Body):
    """So many minutes run forward at once."""

    minutes: Number


class PracticeTruth(Answer):
    """What came of a run: the truth beside the record."""

    run: PracticeRun
    loops: list[str]
    truth: LookingBack


class AskIn(Body):
    """Which lesson is asked for; null: none any more."""

    lesson: str | None = Field(max_length=60)


class LessonText(Body):
    """A lesson in its form (TOML), see docs/lessons.md."""

    text: str = Field(max_length=60_000)


class RecordRow(Answer):
    """A run for the lead. said: what should be done differently, as it was told."""

    person: str
    lesson: str
    name: str
    seed: int
    started_at: datetime
    ended_at: datetime | None
    reached: bool | None
    unsafe: int
    said: list[str]


class PracticeRecord(Answer):
    """Everybody's runs, the last first."""

    rows: list[RecordRow]
