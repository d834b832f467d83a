"""What a job that is opened, and a lead's word on an override, do to the state of a loop."""

from __future__ import annotations

from dataclasses import replace

from temper_core.basis.quantity import VolumePercent
from temper_core.job.doubt.record import begin_again
from temper_core.job.entries import Acknowledged, Entry, JobOpened
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.questions import finished_questions
from temper_core.job.state import JobState, SinceSignOff
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Fluid
from temper_core.science import Glycol


def job_opened(t: LedgerFold, facts: JobOpened, entry: Entry) -> None:
    """A new job begins with what the last one handed on, or with what is believed inside."""
    if facts.found is not None:
        t.found, t.strength_read = facts.found, False
    elif t.job.signed_at is not None and t.job.product is not None:
        t.found = Fluid(t.job.product.base, t.job.product.family, t.inside_strength_percent)
        t.strength_read = t.since.read_at is not None or (bool(finished_questions(t)) and not t.since.diluted)
    t.base = t.found.base
    t.life.parked = (entry.happened_at, None)
    glycol = (t.base.glycol if t.base else None) or Glycol.ETHYLENE
    strength = VolumePercent(t.found.strength_percent or 0.0)
    t.strength_known = t.found.strength_percent is not None or t.base is Base.NONE
    other = 0.0 if facts.found is not None else t.other_percent
    t.contents = Contents.full(t.loop.layout, glycol, strength).with_other(other / 100)
    t.job = JobState(entry.job_id, facts.job_type, facts.job_type, entry.happened_at)
    begin_again(t)
    t.since = SinceSignOff()


def acknowledged(t: LedgerFold, facts: Acknowledged, entry: Entry) -> None:
    """A lead has seen the override."""
    t.life.overrides = [
        replace(row, acknowledged=True) if row.entry_id == facts.entry_id else row for row in t.life.overrides
    ]
