"""The board's answer, made once for everybody until something is written, and 304 for whoever has it already.

Forty tabs that ask every few seconds cost one board a change: while SQLite says that nothing was written and no clock has
run out, an answer is looked up, not made.
"""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from threading import Lock

from django.http import HttpResponse
from rest_framework.request import Request

from config import clock
from config.changes import WATCHER
from depots.models import Depot
from depots.weather import Heard, last_heard, refresh_soon
from jobs.board import board_of
from jobs.schemas import Board

AT_MOST = timedelta(minutes=1)  # minutes pass on a row without anything being written
CLOCK = "server_time"


class Audience(StrEnum):
    """Who reads a board: everybody of the depot, its leads, or whoever stands before the wall."""

    CREW = "crew"
    LEADS = "leads"
    WALL = "wall"


@dataclass(frozen=True, slots=True)
class Made:
    """A board as it is sent, without its time: of which version of the database, and until when it is good."""

    version: str | None
    heard: Heard | None
    until: datetime
    timeless: bytes
    tag: str


_made: dict[tuple[int, Audience], Made] = {}
_locks: dict[tuple[int, Audience], Lock] = {}
_lock = Lock()


def made_for(depot: Depot, audience: Audience) -> Made:
    """The board of a depot, as this audience sees it."""
    refresh_soon(depot)
    key = (depot.pk, audience)
    with _lock:
        own = _locks.setdefault(key, Lock())
    with own:  # whoever asks at the same moment waits for the one that makes it
        version, heard, now = WATCHER.version(), last_heard(depot), clock.now()
        kept = _made.get(key)
        if kept is not None and version is not None and (kept.version, kept.heard) == (version, heard) and now < kept.until:
            return kept
        board = board_of(depot, lead=audience is Audience.LEADS)
        if audience is Audience.WALL:
            board = _without_sign_in_names(board)
        timeless = board.model_dump_json(exclude={CLOCK}).encode()
        tag = f'"{hashlib.sha256(timeless).hexdigest()[:32]}"'
        made = Made(version, heard, _good_until(board, now), timeless, tag)
        _made[key] = made
        return made


def _good_until(board: Board, now: datetime) -> datetime:
    """Until a clock, a limit or an estimate of a row runs out."""
    moments = [now + AT_MOST]
    for strip in board.strips:
        for timer in strip.row.timers:
            moments += [at for at in (timer.ends_at, timer.limit_at, timer.likely_at) if at is not None and at > now]
    return min(moments)


def _without_sign_in_names(board: Board) -> Board:
    """Nobody learns from a wall how people sign in."""
    strips = [row.model_copy(update={"by": row.by and row.by.model_copy(update={"username": ""})}) for row in board.strips]
    by = board.night.by and board.night.by.model_copy(update={"username": ""})
    return board.model_copy(update={"strips": strips, "night": board.night.model_copy(update={"by": by})})


def board_answer(request: Request, depot: Depot, audience: Audience) -> HttpResponse:
    """The board with its ETag and the server's time, or 304 where the asker has it already."""
    made = made_for(depot, audience)
    now = clock.now().isoformat().replace("+00:00", "Z")
    seen = made.tag in (row.strip() for row in request.headers.get("If-None-Match", "").split(","))
    body = b"" if seen else made.timeless[:-1] + f',"{CLOCK}":{json.dumps(now)}}}'.encode()
    response = HttpResponse(body, status=304 if seen else 200, content_type="application/json")
    response["ETag"], response["Server-Time"] = made.tag, now
    response["Cache-Control"] = "private, no-store"  # whoever asks again keeps the answer themselves
    return response
