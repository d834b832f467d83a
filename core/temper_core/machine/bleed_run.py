"""A bleed recipe as it is run: its timed steps follow from its start and its pauses alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from enum import StrEnum

from temper_core.machine.bleeding import BleedRecipe, BleedStep


class Mark(StrEnum):
    """What a hand did to a running bleed."""

    STEPPED = "stepped"
    HELD = "held"
    GOES_ON = "goes_on"


@dataclass(slots=True)
class BleedRun:
    """A bleed under way. may_open: the neck was open and cold when it began."""

    entry_id: str
    recipe: BleedRecipe
    started_at: datetime
    by: str
    may_open: bool
    marks: list[tuple[datetime, Mark, int]] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Segment:
    """A step as it ran. ends_at None: a hand ends it, or it is held. left_s: of a timed step."""

    step: int
    began_at: datetime
    ends_at: datetime | None
    left_s: float | None
    held_at: datetime | None = None
    gate: bool = False  # over, and the next step opens something on a warm loop
    over: bool = False  # the last step's time is over


def segments(run: BleedRun, now: datetime) -> Iterator[Segment]:
    """The steps that have begun until now, the last of them as it stands; see Segment."""
    marks = [row for row in sorted(run.marks, key=lambda row: row[0]) if row[0] <= now]
    step, began, left, since, held = 0, run.started_at, run.recipe.steps[0].seconds, run.started_at, None
    hot_shut = False  # it has run with the neck shut

    for at, mark, number in [*marks, (now, None, 0)]:
        while held is None and left is not None and since + timedelta(seconds=left) <= at:
            current = run.recipe.steps[step]
            hot_shut = hot_shut or (current.heats and not current.neck_open)
            ends = since + timedelta(seconds=left)
            after = step + 1
            if after >= len(run.recipe.steps) or _blocked(run, after, hot_shut):
                break
            yield Segment(step, began, ends, 0.0)
            step, began, since, left = after, ends, ends, run.recipe.steps[after].seconds
        if mark is None:
            break
        if mark is Mark.STEPPED:
            yield Segment(step, began, at, left)
            current = run.recipe.steps[step]
            hot_shut = hot_shut or (current.heats and not current.neck_open)
            step, began, since, held = min(number, len(run.recipe.steps) - 1), at, at, None
            left = run.recipe.steps[step].seconds
            if run.recipe.steps[step].opens_after(run.recipe.steps[step - 1] if step else None):
                hot_shut = False  # opened through the gate
        elif mark is Mark.HELD and held is None:
            left = None if left is None else max(0.0, left - (at - since).total_seconds())
            held = at
        elif mark is Mark.GOES_ON and held is not None:
            since, held = at, None
    yield _last(run, step, began, since, left, held, hot_shut, now)


def _last(
    run: BleedRun,
    step: int,
    began: datetime,
    since: datetime,
    left: float | None,
    held: datetime | None,
    hot_shut: bool,
    now: datetime,
) -> Segment:
    ends = since + timedelta(seconds=left) if left is not None and held is None else None
    remaining = left if held is not None or left is None else max(0.0, left - (now - since).total_seconds())
    done = ends is not None and ends <= now
    current, after = run.recipe.steps[step], step + 1
    has_next = after < len(run.recipe.steps)
    gate = has_next and _blocked(run, after, hot_shut or (current.heats and not current.neck_open))
    return Segment(step, began, ends, remaining, held, gate and (done or left is None), done and not has_next)


def _blocked(run: BleedRun, after: int, hot_shut: bool) -> bool:
    """The next step opens something, and the loop has run shut: only the gate lets it go on."""
    steps = run.recipe.steps
    return steps[after].opens_after(steps[after - 1]) and (hot_shut or not run.may_open)


def heated(run: BleedRun, now: datetime) -> list[BleedStep]:
    """The steps begun until now in which the engine ran."""
    return [run.recipe.steps[row.step] for row in segments(run, now) if run.recipe.steps[row.step].heats]


def clock_of(run: BleedRun, now: datetime | None) -> datetime:
    """The time a bleed is worked out for: never before its last mark."""
    last = run.marks[-1][0] if run.marks else run.started_at
    return max(last, now) if now is not None else last
