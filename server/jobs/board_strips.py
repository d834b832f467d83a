"""The board's rows in bands: those in work, and those at rest that can freeze tonight where they are parked."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from depots.models import Depot
from fleet.schemas import MachineOut
from jobs.comeback import Resting
from jobs.queries import machine_out
from jobs.schemas import Strip
from people.shown import PersonOut
from temper_core.job.parking.facts import Parking
from temper_core.job.parking.state import LoopParked, NightLow, can_freeze, low_at, parking_of
from temper_core.job.waiting.state import Wait, WaitKind
from temper_core.views.board.bands import band_of, turn
from temper_core.views.board.frost import paused_in_frost, row_at_rest
from temper_core.views.board.row import BoardRow, LoopOnBoard


@dataclass(frozen=True, slots=True)
class Placed:
    """Which loop of which machine a row is of."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    loop_position: int
    loops_on_machine: int
    capacity_l: float


@dataclass(frozen=True, slots=True)
class RowInWork:
    """A loop in work: its row, and whose hands it is in."""

    placed: Placed
    loop: LoopOnBoard
    by: PersonOut


def strips_of(
    depot: Depot, rows: Sequence[RowInWork], left: Sequence[Resting], night: NightLow | None, now: datetime
) -> list[Strip]:
    """All rows in the board's order. left: the loops at rest; night: the coming night's low, None: no frost is expected."""
    parking, policy = _parking(rows, left), depot.policy
    found = []
    for one in rows:
        row, wait = one.loop.row, one.loop.wait(now)
        where = parking[one.placed.machine.id]
        freezes = can_freeze(one.loop.warm_end_c, where, night, policy)
        if freezes and wait.kind is WaitKind.PAUSED:
            row = paused_in_frost(row, one.loop.parked, where)
        low_c = low_at(where, night.low_c, policy) if freezes and night is not None else None
        found.append(_strip(one.placed, row, wait, where, low_c, one.by))
    on_machine = Counter(row.loop.machine_id for row in left) + Counter(one.placed.machine.id for one in rows)
    for rest in left:
        safe_c = rest.rest.claim.safe_to_c if rest.rest is not None and rest.rest.claim is not None else rest.safe_c
        where = parking[rest.loop.machine_id]
        if safe_c is None or night is None or not can_freeze(safe_c, where, night, policy):
            continue
        parked = rest.rest.parked if rest.rest is not None else None
        left_at, said = parked or (None, None)
        row = row_at_rest(safe_c, said, where, left_at)
        loop = rest.loop
        machine = machine_out(loop)
        placed = Placed(machine, loop.pk, loop.name, loop.position, on_machine[machine.id], loop.capacity_l)
        wait = Wait(WaitKind.PAUSED, since=left_at or now)
        found.append(_strip(placed, row, wait, where, low_at(where, night.low_c, policy), None))
    return sorted(found, key=lambda strip: turn(strip.band, strip.wait))


def _parking(rows: Sequence[RowInWork], left: Sequence[Resting]) -> dict[int, Parking]:
    """Where each machine is, by what the records of its loops say."""
    said: dict[int, list[LoopParked]] = defaultdict(list)
    machines = {one.placed.machine.id for one in rows} | {rest.loop.machine_id for rest in left}
    for one in rows:
        loop = one.loop
        if loop.parked_at is not None:
            said[one.placed.machine.id].append(LoopParked(loop.parked_at, loop.parked, loop.paused_at is None))
    for rest in left:
        if rest.rest is not None and rest.rest.parked is not None:
            at, where = rest.rest.parked
            said[rest.loop.machine_id].append(LoopParked(at, where, in_hands=False))
    return {machine: parking_of(said[machine]) for machine in machines}


def _strip(
    placed: Placed, row: BoardRow, wait: Wait, where: Parking, frost_low_c: float | None, by: PersonOut | None
) -> Strip:
    return Strip(
        machine=placed.machine,
        loop_id=placed.loop_id,
        loop_name=placed.loop_name,
        loop_position=placed.loop_position,
        loops_on_machine=placed.loops_on_machine,
        capacity_l=placed.capacity_l,
        row=row,
        wait=wait,
        band=band_of(wait, can_freeze=frost_low_c is not None),
        parking=where,
        frost_low_c=frost_low_c,
        by=by,
    )
