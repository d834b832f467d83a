"""What the usual habits would have ended at on this very loop, had nobody reckoned."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.machine.drain_points import still_vessels
from temper_core.practice.lesson import Lesson
from temper_core.practice.seeing import CLEAR_PERCENT
from temper_core.practice.true_loop import TrueLoop
from temper_core.practice.world import world
from temper_core.simulate.machine import TrueMachine

READY_MIX_SHARE = 0.5  # litres of the default concentrate: 50 % by mass, as ready-mix is sold
MOST_ROUNDS = 8


@dataclass(frozen=True, slots=True)
class Habit:
    """One usual way at a loop: what it is, the freeze point and old share [%] of the full loop at its end, its rounds."""

    said: Message
    freeze_c: float
    old_percent: float
    rounds: int
    loop: int


def habits_of(lesson: Lesson, seed: int, loop: int, policy: Policy) -> tuple[Habit, ...]:
    """Ready-mix alone; the rule of thumb after one rinse; flushed until it looks clear, then ready-mix."""

    def ended(rounds: int | None, share: float, said: Message) -> Habit:
        return _ended(world(lesson, seed, policy).loops[loop], loop, rounds, share, said)

    thumb = policy["thumb_percent"]
    return (
        ended(0, READY_MIX_SHARE, say("habit_ready_mix", "Drained once, filled with ready-mix")),
        ended(1, thumb / 100, say("habit_thumb", "Rinsed once, filled with {thumb_percent:0}", thumb_percent=thumb)),
        ended(None, READY_MIX_SHARE, say("habit_clear", "Flushed until it looked clear, filled with ready-mix")),
    )


def _ended(loop: TrueLoop, number: int, rounds: int | None, share: float, said: Message) -> Habit:
    machine, done = loop.machine, 0
    _empty(machine)
    while done < (MOST_ROUNDS if rounds is None else rounds):
        machine.water_to_mark()
        _run(loop)
        done += 1
        clear = _old_of_what_moves(machine) < CLEAR_PERCENT
        _empty(machine)
        if rounds is None and clear:
            break
    room = max(0.0, machine.layout.volume_l - machine.contents.total_l)
    machine.pour(room * share, room * (1 - share))
    _run(loop)
    moving = {v: machine.contents.by_vessel[v] for v in machine.moving}
    machine.contents = machine.contents.circulate([list(moving)])
    return Habit(said, machine.freeze_c, machine.old_percent, done, number)


def _empty(machine: TrueMachine) -> None:
    """What the drains reach; a bottle beside the loop stays as it is: that is the habit."""
    reach, held = machine.layout.reachable_l(), machine.contents.all_litres()
    volumes = {node.id: node.volume_l for node in machine.layout.nodes}
    out = {v: max(0.0, held[v] - (volumes[v] - reach[v])) for v in held}
    machine.contents = machine.contents.drain(sum(out.values()), out)


def _run(loop: TrueLoop) -> None:
    still = still_vessels(loop.machine.layout, loop.loop.equipment)
    loop.machine.contents = loop.machine.contents.circulate(
        [[node.id for node in loop.machine.layout.nodes if node.id not in still]]
    )


def _old_of_what_moves(machine: TrueMachine) -> float:
    held = [(machine.contents.by_vessel[v].old_l, machine.contents.litres(v)) for v in machine.moving]
    return 100 * sum(old for old, _ in held) / max(1e-9, sum(litres for _, litres in held))
