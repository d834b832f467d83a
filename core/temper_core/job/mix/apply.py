"""What the accepted mix does to the state of a loop."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.loop_state import Override
from temper_core.job.mix.facts import Planned


def planned(t: LedgerFold, facts: Planned, entry: Entry) -> None:
    """The product, and the mix once it is accepted; for emergencies only, it waits for a lead."""
    t.job.mix.planned = facts
    if facts.reason.strip():
        said = say("emergency", "{product}, for emergencies only: {why}", product=facts.product.name, why=facts.reason)
        t.life.overrides.append(Override(entry.id, entry.job_id, entry.happened_at, entry.person, None, False, said))
    t.job.mix.poured_before = len(t.job.pours)
