"""Rows of the board for loops that can freeze tonight where they are parked."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from temper_core.basis.message import Message, say
from temper_core.job.parking.facts import PARKING_NAMES, Parking
from temper_core.views.board.row import BoardRow, RowClaim, words_of


def paused_in_frost(row: BoardRow, said: Parking | None, where: Parking) -> BoardRow:
    """The row of a loop in work, asking to be taken in before anything else. said: where it was parked, None: not said."""
    act = say("take_in", "Take it indoors, or resume the job")
    return replace(row, act=words_of(act), then=words_of(_parked(said, where)))


def _parked(said: Parking | None, where: Parking) -> Message:
    if said is None and where is Parking.OUTDOORS:
        return say("not_said", "nobody entered where it is parked: outdoors assumed")
    return say("parked", "parked {where}", where=PARKING_NAMES[where])


def row_at_rest(safe_c: float, said: Parking | None, where: Parking, left_at: datetime | None) -> BoardRow:
    """The row of a loop that nobody works on. safe_c: warm end of its freeze point [degC]; said: as `paused_in_frost`."""
    return BoardRow(
        stage=None,
        stages=(),
        act=words_of(say("take_in_at_rest", "Take it indoors, or start a job")),
        then=words_of(_parked(said, where)),
        inside=words_of(say("protects", "Protects to {safe_c:0}", safe_c=safe_c)),
        protects=words_of(say("at_rest", "no job in progress")),
        timers=(),
        claim=RowClaim("at_rest", None, safe_c),
        frost_risk=True,
        changed_at=left_at,
    )
