"""The world of a run: its loops, its instruments, its clock. Built again from the lesson, the seed and the acts, it is the
same."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from random import Random

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.practice.acts import MINUTES, Act, Do, Found
from temper_core.practice.bench import Bench
from temper_core.practice.hands import HANDS
from temper_core.practice.lesson import Lesson
from temper_core.practice.shelf import GLASSES
from temper_core.practice.true_loop import TrueLoop, true_loop
from temper_core.simulate.truth import EYE_DIVISIONS, Tool

LONGEST_WAIT_MIN = 14 * 24 * 60.0
LONGEST_RUN_MIN = 120 * 24 * 60.0


@dataclass(frozen=True, slots=True)
class Was:
    """What was true of a loop at a moment: litres inside, old coolant as a share of the full loop, its freeze point."""

    at_min: float
    loop: int
    inside_l: float
    old_percent: float
    freeze_c: float


@dataclass(frozen=True, slots=True)
class Done:
    """An act with what it yielded, when it ended."""

    at_min: float
    act: Act
    found: Found


@dataclass(slots=True)
class World:
    """at_min: minutes since the machine came in."""

    lesson: Lesson
    seed: int
    bench: Bench
    at_min: float = 0.0
    done: list[Done] = field(default_factory=list)
    was: list[Was] = field(default_factory=list)

    @property
    def loops(self) -> list[TrueLoop]:
        """Every loop of the machine."""
        return self.bench.loops

    def wait(self, minutes: float) -> None:
        """Time runs forward. Raises CoreError for a time that cannot be."""
        check_between("minutes", minutes, 0, LONGEST_WAIT_MIN, "minutes", "Wait less at once.")
        self.until(self.at_min + minutes)

    def until(self, at_min: float) -> None:
        """Time runs on to this minute, however far; nothing happens where that is over."""
        minutes = at_min - self.at_min
        if minutes <= 0:
            return
        for loop in self.loops:
            loop.pass_minutes(minutes)
        self.at_min = at_min
        self.bench.at_min = at_min

    def do(self, act: Act, at_min: float | None = None) -> Found:
        """A hand does it, not before at_min; raises CoreError for what cannot be done now, and nothing is changed then."""
        if act.loop >= len(self.loops):
            raise CoreError("loop", f"Loop {act.loop} is not there: it has {len(self.loops)}.", "not_there")
        if at_min is not None:
            self.until(at_min)
        found = HANDS[act.do](self.bench, self.loops[act.loop], act)
        self.wait(MINUTES[act.do])
        self.done.append(Done(self.at_min, act, found))
        self._remember()
        return found

    def _remember(self) -> None:
        for number, loop in enumerate(self.loops):
            self.was.append(Was(self.at_min, number, loop.machine.inside_l, loop.old_percent, loop.machine.freeze_c))

    def was_at(self, loop: int, at_min: float) -> Was:
        """What was true of a loop then: after the last act before it."""
        before = [row for row in self.was if row.loop == loop and row.at_min <= at_min + 1e-6]
        return before[-1] if before else next(row for row in self.was if row.loop == loop)

    @property
    def unsafe(self) -> list[tuple[Done, Message]]:
        """Everything that could have hurt somebody, in order."""
        return [(one, said) for one in self.done for said in one.found.unsafe]

    def did(self, do: Do, loop: int | None = None) -> list[Done]:
        """Each time it was done."""
        return [one for one in self.done if one.act.do is do and loop in (None, one.act.loop)]


def world(lesson: Lesson, seed: int, policy: Policy | None = None) -> World:
    """The machine as it comes in: the same lesson and seed give the same."""
    rng = Random(f"{lesson.key}-{seed}")
    rules = policy or Policy()
    loops = [true_loop(lesson, number, rng, rules) for number in range(len(lesson.loops))]
    off = lesson.glass_off_k + rng.gauss(0.0, 0.1)
    tools = {
        glass.name: Tool(glass, off if number == 0 else rng.gauss(0.0, 0.2), rng.gauss(0.0, 0.15), EYE_DIVISIONS)
        for number, glass in enumerate(GLASSES)
    }
    made = World(
        lesson, seed, Bench(loops, tools, 1 + lesson.scale_off_percent / 100, rng, lesson.ambient_c, first_off_k=off)
    )
    made._remember()
    return made


def replayed(lesson: Lesson, seed: int, acts: Iterable[tuple[float, Act]], policy: Policy | None = None) -> World:
    """The world after these acts, each with the minute that it began at."""
    made = world(lesson, seed, policy)
    for at_min, act in acts:
        made.do(act, at_min)
    return made
