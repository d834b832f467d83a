"""What is reported of a filling, and the meters, do to the state of a loop."""

from __future__ import annotations

from temper_core.basis.quantity import VolumePercent
from temper_core.job.doubt.level import level_of
from temper_core.job.doubt.record import begin
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.identify.facts import Metered, ReportedContents, ToppedUp
from temper_core.job.life.age import AgePart
from temper_core.machine.contents import Contents
from temper_core.machine.level import less
from temper_core.products.chemistry import Base, Fluid
from temper_core.science import Glycol


def contents_reported(t: LedgerFold, facts: ReportedContents, entry: Entry) -> None:
    """What is said of the filling replaces what was believed of it, but not what was read of its strength."""
    t.job.reported = facts
    unsure = facts.topped_up in (ToppedUp.OTHER, ToppedUp.UNKNOWN)
    family = None if facts.topped_up is ToppedUp.OTHER else facts.family
    strength = t.found.strength_percent if t.strength_read or not unsure else None
    if facts.topped_up is ToppedUp.WATER and not t.strength_read:
        strength = None
    t.found = Fluid(facts.base, family, strength)
    t.life.families = (facts.family,) if facts.family else ()
    if facts.changed_on is not None or facts.changed_km is not None or facts.changed_hours is not None:
        t.life.parts = (AgePart(1.0, facts.changed_on, facts.changed_km, facts.changed_hours, facts.family),)
    if t.job.drained is None and not t.job.pours:
        other = t.other_percent
        t.base = facts.base
        glycol = (t.base.glycol if t.base else None) or Glycol.ETHYLENE
        t.strength_known = strength is not None or t.base is Base.NONE
        full = Contents.full(t.loop.layout, glycol, VolumePercent(strength or 0.0)).with_other(other / 100)
        t.contents = less(full, level_of(t)[0])
        begin(t)


def metered(t: LedgerFold, facts: Metered, entry: Entry) -> None:
    """The meters as shown."""
    t.life.meters.append((entry.happened_at, facts))
