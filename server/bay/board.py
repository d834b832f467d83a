"""The board out of a kit: rows of the loops that were taken along as they stand here, the others as last seen."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from pydantic import TypeAdapter

from bay.work import LoopAtWork, Work
from people.shown import PersonOut
from temper_core.job.fold_state import LedgerFold
from temper_core.job.ledger import walk
from temper_core.job.parking.facts import Parking
from temper_core.job.parking.state import LoopParked, NightLow, can_freeze, low_at, parking_of
from temper_core.job.waiting.state import Wait, WaitKind
from temper_core.views.board.bands import band_of, turn
from temper_core.views.board.frost import paused_in_frost
from temper_core.views.board.row import BoardRow, LoopOnBoard, loop_on_board

_ROW: TypeAdapter[BoardRow] = TypeAdapter(BoardRow)
_WAIT: TypeAdapter[Wait] = TypeAdapter(Wait)
_NIGHT: TypeAdapter[NightLow | None] = TypeAdapter(NightLow | None)


def board_of(work: Work, kept: dict[str, Any], now: datetime) -> dict[str, Any]:
    """The board as last seen (kept), with the kit's loops in work as they stand here and now."""
    seen = {row["loop_id"]: row for row in kept["strips"]}
    night = _NIGHT.validate_python(kept["night"]["low"])
    strips = []
    for at in work.loops.values():
        before = seen.pop(at.kept.id, None)
        if at.job_id is not None:
            strips.append(_strip(work, at, before, night, now))
        elif before is not None and before["by"] is None:  # at rest, and it can freeze
            wait = _WAIT.validate_python(before["wait"])
            strips.append((turn(band_of(wait, can_freeze=True), wait), before))
    for row in seen.values():
        wait = _WAIT.validate_python(row["wait"])
        strips.append((turn(band_of(wait, row["frost_low_c"] is not None), wait), row))
    rows = [row for _, row in sorted(strips, key=lambda one: one[0])]
    return {**kept, "strips": rows, "server_time": now.astimezone(UTC).isoformat().replace("+00:00", "Z")}


def _strip(
    work: Work, at: LoopAtWork, before: dict[str, Any] | None, night: NightLow | None, now: datetime
) -> tuple[Any, dict[str, Any]]:
    fold = walk(at.loop, work.record(at, now).core, work.policy, now=now)
    made = loop_on_board(fold)
    wait = made.wait(now)
    where = _parking(work, made, before)
    row, freezes = made.row, can_freeze(made.warm_end_c, where, night, work.policy)
    if freezes and wait.kind is WaitKind.PAUSED:
        row = paused_in_frost(row, made.parked, where)
    low_c = low_at(where, night.low_c, work.policy) if freezes and night is not None else None
    band = band_of(wait, can_freeze=freezes)
    kept = at.kept
    return turn(band, wait), {
        "machine": kept.machine.model_dump(mode="json"),
        "loop_id": kept.id,
        "loop_name": kept.shown.name,
        "loop_position": kept.shown.position,
        "loops_on_machine": kept.shown.loops_on_machine,
        "capacity_l": kept.shown.capacity_l,
        "row": _ROW.dump_python(row, mode="json"),
        "wait": _WAIT.dump_python(wait, mode="json"),
        "band": band.value,
        "parking": where.value,
        "frost_low_c": low_c,
        "by": _hands(work, at, fold),
    }


def _parking(work: Work, made: LoopOnBoard, before: dict[str, Any] | None) -> Parking:
    """Where its machine is: as last seen with all its loops, or as was said here since."""
    if before is not None and (made.parked_at is None or made.parked_at <= work.kit.made_at):
        return Parking(before["parking"])
    said = [LoopParked(made.parked_at, made.parked, made.paused_at is None)] if made.parked_at is not None else []
    return parking_of(said)


def _hands(work: Work, at: LoopAtWork, fold: LedgerFold) -> dict[str, Any] | None:
    """Whose hands it is in: who took it up last, or who opened it."""
    hands = fold.job.waiting.hands
    pk = int(hands[0]) if hands else at.opener
    person: PersonOut | None = work.people.get(pk) if pk is not None else None
    return person.model_dump(mode="json") if person is not None else None
