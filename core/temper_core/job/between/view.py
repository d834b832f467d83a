"""What is due on a loop that left, and what was done to it since without a job."""

from __future__ import annotations

from datetime import date, datetime

from temper_core.basis.message import Message, say
from temper_core.basis.quantity import VolumePercent
from temper_core.job.between.rules import SeenAgain, rechecks
from temper_core.job.between.state import AfterState, AmendedState
from temper_core.job.fold_state import LedgerFold
from temper_core.job.job_types import CLOSED_TYPES
from temper_core.job.life.account.losing import suspected
from temper_core.job.state import Dilution
from temper_core.job.verify.facts import Level
from temper_core.products.chemistry import Base
from temper_core.science import freeze_point, mass_fraction_of


def after_of(t: LedgerFold, now: datetime | None) -> AfterState | None:
    """See AfterState; None while a job is open."""
    if t.job.id is not None and t.job.signed_at is None:
        return None
    today = now.date() if now is not None else _last_day(t)
    signed = _day(t.job.signed_at, now) if t.job.signed_at is not None and t.job.job_type not in CLOSED_TYPES else None
    unread = [row for row in t.since.diluted if t.since.read_at is None or row.at > t.since.read_at]
    diluted = _day(unread[0].at, now) if unread else None
    leak = suspected(t)
    losing = (_day(t.life.movements[-1].at, now), leak) if leak is not None else None
    due = rechecks(signed, diluted, _seen(t, now), today, t.base is not Base.NONE, t.policy, losing)
    coming = [row for row in due if row.done_at is None]
    return AfterState(
        rechecks=due,
        next_on=min((row.due_on for row in coming), default=None),
        overdue=any(row.overdue for row in coming),
        diluted=diluted_words(t, t.since.diluted[-1]) if t.since.diluted else None,
        amendments=tuple(
            AmendedState(entry.id, entry.happened_at, entry.person, facts.entry_id, facts.text)
            for entry, facts in t.since.amendments
        ),
    )


def _day(at: datetime, now: datetime | None) -> date:
    """A day by the depot's calendar."""
    return at.astimezone(now.tzinfo).date() if now is not None else at.date()


def _last_day(t: LedgerFold) -> date:
    return t.changed_at.date() if t.changed_at else date.min


def _seen(t: LedgerFold, now: datetime | None) -> list[SeenAgain]:
    """Levels and readings since, in order, by the depot's calendar; a low level that nobody made good settles nothing."""
    made_good = {_day(row.at, now) for row in t.since.diluted}
    levels = [at for at, facts in t.since.levels if facts.level is not Level.LOW or _day(at, now) in made_good]
    rows = [SeenAgain(_local(at, now), False) for at in levels] + [SeenAgain(_local(at, now), True) for at in t.since.reads]
    return sorted(rows, key=lambda row: row.at)


def _local(at: datetime, now: datetime | None) -> datetime:
    return at.astimezone(now.tzinfo) if now is not None else at


def diluted_words(t: LedgerFold, row: Dilution) -> Message:
    """What a top-up without a job came to."""
    litres = row.facts.product_l + row.facts.water_l
    what = row.facts.product.name if row.facts.product else f"{row.facts.water or 'unknown'} water"
    if row.other_base:
        words = "Topped up with {in_l} {what} of another base: no scale fits the mixture. Change type."
        return say("topped_other", words, in_l=litres, what=what)
    if row.after_percent is None or row.before_percent is None:
        words = "Topped up with {in_l} {what}. Strength unknown: take a reading."
        return say("topped_unknown", words, in_l=litres, what=what)
    before, after = (_freeze(t, percent) for percent in (row.before_percent, row.after_percent))
    words = "Topped up with {in_l} {what}: predicted to freeze at {after_c} now, {before_c} before."
    return say("topped_up", words, in_l=litres, what=what, after_c=after, before_c=before)


def _freeze(t: LedgerFold, percent: float) -> float:
    return freeze_point(t.glycol, mass_fraction_of(t.glycol, VolumePercent(min(100.0, percent)))).at_most_c
