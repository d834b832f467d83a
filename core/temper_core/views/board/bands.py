"""The board in bands, by what each loop asks for; within a band the most pressing first."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum

from temper_core.job.waiting.state import TimerKind, Wait, WaitKind


class Band(StrEnum):
    """What a loop asks for, most urgent first."""

    ACT_NOW = "act_now"
    YOUR_TURN = "your_turn"
    RUNNING = "running"
    COOLING = "cooling"
    PAUSED = "paused"


BAND_NAMES = {
    Band.ACT_NOW: "act now",
    Band.YOUR_TURN: "your turn",
    Band.RUNNING: "running",
    Band.COOLING: "cooling or waiting",
    Band.PAUSED: "paused",
}
_CALM = {WaitKind.COUNTING: Band.RUNNING, WaitKind.COOLING: Band.COOLING, WaitKind.PAUSED: Band.PAUSED}


def band_of(wait: Wait, can_freeze: bool) -> Band:
    """Act now: a limit is passed, a clock rang and nobody answered it, or it can freeze tonight where it is parked.

    An estimate of cooling that is over rings nothing: it may be cold, so it is somebody's turn.

    >>> band_of(Wait(WaitKind.PAUSED), can_freeze=True)
    <Band.ACT_NOW: 'act_now'>
    """
    rang = wait.kind is WaitKind.HANDS and wait.timer not in (None, TimerKind.COOLING)
    if can_freeze or rang or wait.kind is WaitKind.LIMIT:
        return Band.ACT_NOW
    return _CALM.get(wait.kind, Band.YOUR_TURN)


_ORDER = {band: n for n, band in enumerate(Band)}


def turn(band: Band, wait: Wait) -> tuple[int, bool, datetime | None]:
    """Sort key of a board: bands in order; in the first what is passed before what will freeze; then who waited longest,
    or is done soonest.
    """
    passed = wait.kind is WaitKind.LIMIT or wait.timer is not None
    return (_ORDER[band], not passed, wait.since or wait.until)
