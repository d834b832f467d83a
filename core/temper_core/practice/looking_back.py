"""The truth at the end: side by side what was believed and what was so, at each step that was recorded."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Interval
from temper_core.job.between.facts import LevelSeen
from temper_core.job.drain.facts import Drained
from temper_core.job.entries import Entry, JobOpened, standing
from temper_core.job.fact import Fact
from temper_core.job.fill.facts import Poured, StrengthAdjusted
from temper_core.job.flush.facts import RoundFilled, VesselRinsed
from temper_core.job.fold import fold
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.open.facts import EngineRun
from temper_core.job.read.facts import Place, Read
from temper_core.job.verify.facts import Level, SignedOff
from temper_core.practice.deviations import Deviation, deviations_of
from temper_core.practice.habits import Habit, habits_of
from temper_core.practice.lesson import Aim, Goal
from temper_core.practice.shelf import PRODUCTS
from temper_core.practice.world import World

STEPS: tuple[type[Fact], ...] = (
    *(JobOpened, Drained, RoundFilled, VesselRinsed, Poured, StrengthAdjusted, EngineRun, Read, SignedOff),
)
SENTENCES = 3


@dataclass(frozen=True, slots=True)
class BesideTruth:
    """One figure at a step: believed (its 95 % interval), what was true, and whether the interval holds it."""

    believed: Interval
    true: float
    within: bool


@dataclass(frozen=True, slots=True)
class StepBack:
    """One step of the record of a loop: inside [l], old share of the full loop [%], freeze point [degC]; None: no claim."""

    at_min: float
    loop: int
    said: Message
    inside_l: BesideTruth | None
    old_percent: BesideTruth | None
    freeze_c: BesideTruth | None


@dataclass(frozen=True, slots=True)
class AimAnswer:
    """An aim, the true value, and whether it is met."""

    aim: Aim
    value: float
    met: bool


@dataclass(frozen=True, slots=True)
class LookingBack:
    """What came of a run: unsafe acts first, then aims, steps, where it went another way, habits, what to do next time."""

    unsafe: tuple[Deviation, ...]
    aims: tuple[AimAnswer, ...]
    steps: tuple[StepBack, ...]
    deviations: tuple[Deviation, ...]
    habits: tuple[Habit, ...]
    next_time: tuple[str, ...]
    trap: str

    @property
    def reached(self) -> bool:
        """Every aim is met and nobody was put at risk."""
        return not self.unsafe and all(one.met for one in self.aims)


@dataclass(frozen=True, slots=True)
class Recorded:
    """The record of one loop as the screens made it: at_min of each entry, in order."""

    loop: Loop
    entries: tuple[Entry, ...]
    at_min: tuple[float, ...]


def look_back(world: World, records: Sequence[Recorded], policy: Policy) -> LookingBack:
    """Set the record beside the truth."""
    states = [fold(one.loop, one.entries, policy) if one.entries else None for one in records]
    steps = [row for number, one in enumerate(records) for row in _steps(world, number, one, policy)]
    aims = tuple(_aim(world, aim, records, states) for aim in world.lesson.aims)
    unsafe, others = deviations_of(world, [one.entries for one in records])
    missed = [one.aim.instead for one in aims if not one.met and not (unsafe and one.aim.goal is Goal.UNSAFE)]
    said = [*(one.instead for one in unsafe), *missed, *(one.instead for one in others if one.instead)]
    glycols = {one.name for one in PRODUCTS}
    filled = [n for n, loop in enumerate(world.loops) if glycols & set(loop.poured)]
    habits = tuple(habit for n in filled for habit in habits_of(world.lesson, world.seed, n, policy))
    return LookingBack(unsafe, aims, tuple(steps), others, habits, tuple(dict.fromkeys(said))[:SENTENCES], world.lesson.trap)


def _steps(world: World, number: int, record: Recorded, policy: Policy) -> list[StepBack]:
    rows, standing_ids = [], {entry.id for entry in standing(list(record.entries))}
    for index, entry in enumerate(record.entries):
        if not isinstance(entry.facts, STEPS) or entry.id not in standing_ids:
            continue
        state = fold(record.loop, record.entries[: index + 1], policy)
        was = world.was_at(number, record.at_min[index])
        said = REGISTRY.sentence(entry.facts)
        old = _old(state)
        rows.append(
            StepBack(
                record.at_min[index],
                number,
                said,
                _compared(state.inside.likely_l, was.inside_l, 0.05),
                None if old is None else _compared(old, was.old_percent, 0.05),
                _freeze(state, entry, was.freeze_c),
            )
        )
    return rows


def _old(state: LoopState) -> Interval | None:
    return state.flush.finished_likely_percent if state.flush is not None else None


def _freeze(state: LoopState, entry: Entry, true_c: float) -> BesideTruth | None:
    """Of a reading of the finished loop the interval of all of them; else what the litres predict; at the end the claim."""
    if isinstance(entry.facts, SignedOff):
        if state.claim.safe_to_c is None:
            return None
        return BesideTruth(Interval(-90.0, state.claim.safe_to_c), true_c, true_c <= state.claim.safe_to_c + 0.05)
    if isinstance(entry.facts, Read) and entry.facts.place is Place.FINISHED:
        likely = state.repeats.likely if state.repeats is not None else None
    else:
        likely = state.predicted_likely_c
    return None if likely is None else _compared(likely, true_c, 0.05)


def _compared(believed: Interval, true: float, slack: float) -> BesideTruth:
    return BesideTruth(believed, true, believed.low - slack <= true <= believed.high + slack)


def _aim(world: World, aim: Aim, records: Sequence[Recorded], states: Sequence[LoopState | None]) -> AimAnswer:
    loop = world.loops[aim.loop]
    contents = loop.machine.contents
    whole = max(1e-9, contents.total_l)
    state = states[aim.loop] if aim.loop < len(states) else None
    facts = [entry.facts for entry in standing(list(records[aim.loop].entries))] if aim.loop < len(records) else []
    claim = state.claim.safe_to_c if state is not None else None
    value = {
        Goal.FREEZE_C: lambda: loop.machine.freeze_c,
        Goal.OLD_PERCENT: lambda: loop.old_percent,
        Goal.LEVEL_L: lambda: -loop.room_l - loop.air_l,
        Goal.AIR_L: lambda: loop.air_l,
        Goal.CLEANER_PERCENT: lambda: 100 * contents.total.cleaner_l / whole,
        Goal.OTHER_PERCENT: lambda: 100 * contents.total.other_l / whole,
        Goal.UNSAFE: lambda: float(len(world.unsafe)),
        Goal.SIGNED: lambda: float(any(isinstance(one, SignedOff) for one in facts)),
        Goal.ZEROED: lambda: float(any(isinstance(one, Read) and one.zero is not None for one in facts)),
        Goal.CONDUCTS: lambda: loop.conducts_us_cm,
        Goal.FOUND_LOSS: lambda: float(_losses(facts)),
        Goal.MISSED_C: lambda: 99.0 if claim is None else claim - loop.machine.freeze_c,
    }[aim.goal]()
    return AimAnswer(aim, value, aim.met(value))


def _losses(facts: Sequence[Fact]) -> int:
    """Low levels that were recorded after something was poured."""
    poured = next((n for n, one in enumerate(facts) if isinstance(one, Poured)), len(facts))
    return sum(1 for one in facts[poured:] if isinstance(one, LevelSeen) and one.level is Level.LOW)
