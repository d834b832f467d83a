"""What a signed-off job hands to the next one."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments.trend import TrendPoint
from temper_core.job.between.facts import LostWhen
from temper_core.job.dose.state import Account
from temper_core.job.fold_state import LedgerFold, start
from temper_core.job.identify.facts import Metered
from temper_core.job.inside.questions import finished_questions
from temper_core.job.job_types import JobType
from temper_core.job.life.account.movement import Movement
from temper_core.job.life.age import AgePart
from temper_core.job.life.conducting import Conducted
from temper_core.job.loop import Loop
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Family, Fluid
from temper_core.science import Glycol


@dataclass(frozen=True, slots=True)
class LoopSnapshot:
    """What a signed-off job hands to the next one, so that a loop's whole life need not be walked to show its job.

    changed_on, changed_meter: as jobs kept it that knew of no parts; parts None: one of those. strengths: what was read
    since the last service; movements, meters: of its level since the last fill; inhibitor, conducted: their
    accounts.
    """

    found: Fluid
    strength_read: bool
    families: tuple[Family, ...]
    changed_on: date | None
    meter: tuple[datetime, Metered] | None
    changed_meter: tuple[datetime, Metered] | None
    cleaned_at: tuple[datetime, ...]
    cooled_min: tuple[float, ...]
    signed_at: datetime | None = None
    job_type: JobType | None = None
    parts: tuple[AgePart, ...] | None = None
    other_percent: float = 0.0
    strengths: tuple[TrendPoint, ...] = ()
    movements: tuple[Movement, ...] = ()
    meters: tuple[tuple[datetime, Metered], ...] = ()
    lost_when: LostWhen | None = None
    inhibitor: tuple[Account, ...] = ()
    conducted: tuple[Conducted, ...] = ()


def snapshot_of(t: LedgerFold) -> LoopSnapshot:
    """What this loop hands on, once signed off."""
    found = t.found
    if t.job.product is not None:
        found = Fluid(t.job.product.base, t.job.product.family, t.inside_strength_percent)
    return LoopSnapshot(
        found,
        left_read(t),
        t.life.families,
        None,
        t.life.meters[-1] if t.life.meters else None,
        None,
        tuple(t.life.cleaned_at),
        tuple(t.life.cooled_min),
        t.job.signed_at,
        t.job.job_type,
        t.life.parts,
        t.other_percent,
        tuple(t.life.strengths),
        tuple(t.life.movements),
        _meters_since_fill(t),
        t.life.lost_when,
        tuple(t.life.inhibitor.values()),
        tuple(t.life.conducted),
    )


def _meters_since_fill(t: LedgerFold) -> tuple[tuple[datetime, Metered], ...]:
    """From the last one before the fill on."""
    if not t.life.movements:
        return tuple(t.life.meters[-1:])
    before = sum(1 for at, _ in t.life.meters if at <= t.life.movements[0].at)
    return tuple(t.life.meters[max(0, before - 1) :])


def left_read(t: LedgerFold) -> bool:
    """Whether the strength it left with was read."""
    return bool(finished_questions(t)) if t.job.product is not None else t.strength_read


def start_from(loop: Loop, policy: Policy, snapshot: LoopSnapshot, now: datetime | None = None) -> LedgerFold:
    """The tally as the last signed-off job left it."""
    t = start(loop, policy, now)
    t.found, t.strength_read, t.life.families = snapshot.found, snapshot.strength_read, snapshot.families
    t.life.parts = snapshot.parts if snapshot.parts is not None else (_told_then(snapshot),)
    t.life.strengths, t.life.movements = list(snapshot.strengths), list(snapshot.movements)
    t.life.meters, t.life.lost_when = list(snapshot.meters), snapshot.lost_when
    t.life.inhibitor = {row.inhibitor: row for row in snapshot.inhibitor}
    t.life.conducted = list(snapshot.conducted)
    if not t.life.meters and snapshot.meter:
        t.life.meters = [snapshot.meter]
    t.life.cleaned_at, t.life.cooled_min = list(snapshot.cleaned_at), list(snapshot.cooled_min)
    t.job.signed_at, t.job.job_type = snapshot.signed_at, snapshot.job_type
    t.life.parked = (snapshot.signed_at, None) if snapshot.signed_at is not None else None
    t.base, t.strength_known = snapshot.found.base, snapshot.found.strength_percent is not None
    glycol = (t.base.glycol if t.base else None) or Glycol.ETHYLENE
    full = Contents.full(loop.layout, glycol, VolumePercent(snapshot.found.strength_percent or 0.0))
    t.contents = full.with_other(snapshot.other_percent / 100)
    return t


def _told_then(snapshot: LoopSnapshot) -> AgePart:
    meter = snapshot.changed_meter[1] if snapshot.changed_meter else None
    family = snapshot.families[0] if snapshot.families else None
    distance_km, hours = (meter.distance_km, meter.hours) if meter else (None, None)
    return AgePart(1.0, snapshot.changed_on, distance_km, hours, family)
