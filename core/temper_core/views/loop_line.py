"""One loop in the list of machines: what is inside, how far it protects, what is due, and the job that this advises."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum

from temper_core.job.between.state import RecheckWhy
from temper_core.job.between.view import after_of
from temper_core.job.fold import AtRest
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.judgement import judgement_of
from temper_core.job.inspect.advice import due_of
from temper_core.job.inspect.facts import Opens, opens
from temper_core.job.job_types import JobType, Stage
from temper_core.job.loop import Loop
from temper_core.job.loop_state import Claim
from temper_core.job.stages import current_stage
from temper_core.products.chemistry import Base, Family
from temper_core.views.board.row import RowClaim, Words, rounded, words_of
from temper_core.views.coming import Coming, coming, order


class LoopSign(StrEnum):
    """What somebody looks for in a list of loops."""

    IN_WORK = "in_work"
    OVERDUE = "overdue"
    DUE = "due"
    NOT_PROTECTED = "not_protected"
    NOT_READ = "not_read"


LOOP_SIGN_NAMES = {
    LoopSign.IN_WORK: "in work",
    LoopSign.OVERDUE: "overdue",
    LoopSign.DUE: "due",
    LoopSign.NOT_PROTECTED: "not protected",
    LoopSign.NOT_READ: "not read",
}


@dataclass(frozen=True, slots=True)
class LoopAsk:
    """What is due next. check: a level check; else a service. today: on this day or earlier.

    at_a_glance: the level is seen through the tank's wall, and that is all the check asks for.
    """

    said: Words
    due_on: date | None
    check: bool
    overdue: bool
    today: bool
    at_a_glance: bool


@dataclass(frozen=True, slots=True)
class LoopLine:
    """A loop as the list shows it. stage: of the job in work; due_on: when its filling is due, if known.

    advised: the job that what is due asks for, None where nothing is.
    """

    base: Base | None
    family: Family | None
    stage: Stage | None
    claim: RowClaim
    signs: tuple[LoopSign, ...]
    asked: LoopAsk | None
    due_on: date | None
    advised: JobType | None


def loop_line(t: LedgerFold, left: RowClaim | None, now: datetime) -> LoopLine:
    """The line of a loop's fold.

    left: how far it protected when its last job was signed off [degC]; what was found since, or in a job, counts before it.
    """
    working = t.job.id is not None and t.job.signed_at is None
    judged = judgement_of(t)
    touched = bool(t.since.diluted) or t.since.read_at is not None
    due = due_of(t, now)
    claim = _row_claim(judged.claim)
    if not working and not touched and left is not None:
        claim = left
    asks: list[Coming] = []
    if not working:
        rest = AtRest(after_of(t, now), due, judged.claim if touched else None, t.base, t.life.parked)
        asks = sorted(coming(t.loop, rest, now), key=lambda row: order(row, now.date()))
    first = asks[0] if asks else None
    product = t.job.product
    return LoopLine(
        base=t.base,
        family=product.family if product and t.job.pours else t.found.family,
        stage=current_stage(t) if working else None,
        claim=claim,
        signs=_signs(t, working, claim, asks),
        asked=_asked(first, now.date(), t.loop) if first else None,
        due_on=due.on if due and not working else None,
        advised=_advised(first, claim),
    )


def _row_claim(claim: Claim) -> RowClaim:
    return RowClaim(claim.why, rounded(claim.freeze_c), rounded(claim.safe_to_c))


def _asked(first: Coming, today: date, loop: Loop) -> LoopAsk:
    now = first.today or first.overdue or (first.due_on is not None and first.due_on <= today)
    level_alone = first.why is RecheckWhy.FIRST and not first.with_reading
    glance = level_alone and not opens(Opens.LEVEL, loop.equipment)
    return LoopAsk(words_of(first.said), first.due_on, first.why is not None, first.overdue, now, glance)


def _signs(t: LedgerFold, working: bool, claim: RowClaim, asks: list[Coming]) -> tuple[LoopSign, ...]:
    found = []
    if working:
        found.append(LoopSign.IN_WORK)
    if any(row.overdue for row in asks):
        found.append(LoopSign.OVERDUE)
    if asks:
        found.append(LoopSign.DUE)
    if claim.why == "unknown":
        found.append(LoopSign.NOT_READ)
    elif claim.safe_to_c is None or claim.safe_to_c > t.loop.coldest_c:
        found.append(LoopSign.NOT_PROTECTED)
    return tuple(found)


def _advised(first: Coming | None, claim: RowClaim) -> JobType | None:
    """Common practice, no source: what is too weak is adjusted, what no scale can read is changed, what is old renewed."""
    if first is None:
        return None
    if first.why is RecheckWhy.UNPROTECTED:
        return JobType.CHANGE_TYPE if claim.safe_to_c is None else JobType.ADJUST_STRENGTH
    return JobType.REFILL if first.why is None else None
