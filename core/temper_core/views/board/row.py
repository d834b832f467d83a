"""One loop in work as the board shows it: small, and good for as long as it says."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import overload

from temper_core.basis.message import Message
from temper_core.job.flush.view import standing_words
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.claim import frost_risk
from temper_core.job.inside.judgement import judgement_of
from temper_core.job.inside.vessels import pours_of
from temper_core.job.inside.warm_end import warm_end_c
from temper_core.job.job_types import Stage, Status
from temper_core.job.next_action import next_action
from temper_core.job.parking.facts import Parking
from temper_core.job.stages import stage_line
from temper_core.job.waiting.state import TimerKind, Wait
from temper_core.job.waiting.view import timers_of, wait_for
from temper_core.views.board.inside import inside_words


@dataclass(frozen=True, slots=True)
class Words:
    """A message without its sentence and code: what a screen needs to say it in its own units."""

    template: str
    values: Mapping[str, float | str]


@dataclass(frozen=True, slots=True)
class RowTimer:
    """What runs in a loop; see TimerState."""

    entry_id: str
    kind: TimerKind
    started_at: datetime
    ends_at: datetime | None = None
    limit_at: datetime | None = None
    likely_at: datetime | None = None
    low_at: datetime | None = None
    high_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class RowClaim:
    """How far it protects [degC], and by what; see Claim."""

    why: str
    freeze_c: float | None
    safe_to_c: float | None


@dataclass(frozen=True, slots=True)
class BoardRow:
    """A loop on the board: its stage, what hands do next and then, what is inside, what runs, how far it protects.

    stages: the status of each stage of its job, in order. inside, protects: what is inside in two short lines. frost_risk:
    opened up, and it freezes before the coldest expected. A loop at rest has no stage, and what it is asked for as act.
    """

    stage: Stage | None
    stages: tuple[Status, ...]
    act: Words | None
    then: Words | None
    inside: Words
    protects: Words
    timers: tuple[RowTimer, ...]
    claim: RowClaim
    frost_risk: bool
    changed_at: datetime | None


@dataclass(frozen=True, slots=True)
class LoopOnBoard:
    """A row, and what decides its band: paused since when; the warm end of what is inside [degC], None where nothing is
    known; where it is parked (see LoopLife), None where that was not said.
    """

    row: BoardRow
    paused_at: datetime | None
    warm_end_c: float | None
    parked: Parking | None
    parked_at: datetime | None

    def wait(self, now: datetime) -> Wait:
        """Whose turn it is at this moment."""
        return wait_for(self.row.timers, self.paused_at, self.row.changed_at, now)


_DIGITS = 5  # of a figure on a row: far below what is shown of it


def loop_on_board(t: LedgerFold) -> LoopOnBoard:
    """The row of a loop's fold, at the fold's own time."""
    judged, poured = judgement_of(t), pours_of(t)
    line = stage_line(t, judged.likely)
    now = next((row for row in line if row.status is Status.NOW), None)
    action = next_action(t, poured, judged.proof, judged.advice)
    paused, claim = t.job.waiting.paused, judged.claim
    then = standing_words(t, claim.freeze_c) if paused else action.then if action else None
    risk = frost_risk(t, claim)
    inside, protects = inside_words(t, claim, risk)
    row = BoardRow(
        stage=now.stage if now else None,
        stages=tuple(one.status for one in line),
        act=words_of(action.act if action else None),
        then=words_of(then),
        inside=words_of(inside),
        protects=words_of(protects),
        timers=tuple(
            RowTimer(r.entry_id, r.kind, r.started_at, r.ends_at, r.limit_at, r.likely_at, r.low_at, r.high_at)
            for r in timers_of(t, t.now)
        ),
        claim=RowClaim(claim.why, rounded(claim.freeze_c), rounded(claim.safe_to_c)),
        frost_risk=risk,
        changed_at=t.changed_at,
    )
    parked_at, parked = t.life.parked or (None, None)
    return LoopOnBoard(row, paused[0].happened_at if paused else None, rounded(warm_end_c(t, judged)), parked, parked_at)


@overload
def words_of(said: Message) -> Words: ...
@overload
def words_of(said: None) -> None: ...
def words_of(said: Message | None) -> Words | None:
    """A message as a row carries it."""
    if said is None:
        return None
    return Words(said.template, {name: v if isinstance(v, str) else round(v, _DIGITS) for name, v in said.values.items()})


def rounded(value: float | None) -> float | None:
    """A figure as a row carries it; None stays None."""
    return None if value is None else round(value, _DIGITS)


def good_until(t: LedgerFold, row: BoardRow) -> datetime | None:
    """When a row has to be made again though nothing was recorded; None without a clock.

    At midnight, when a check between services grows old, and whenever something that runs ends.
    """
    now = t.now
    if now is None:
        return None
    moments = [datetime.combine(now.date() + timedelta(days=1), datetime.min.time(), now.tzinfo)]
    seen = t.job.open.observation
    if seen is not None and seen.between:
        moments.append(seen.at + timedelta(minutes=t.policy["gate_between_min"]))
    for timer in row.timers:
        moments += [at for at in (timer.ends_at, timer.limit_at, timer.likely_at) if at is not None]
    return min(at for at in moments if at > now)
