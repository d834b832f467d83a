"""What parking does to the state of a loop."""

from __future__ import annotations

from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.parking.facts import Parked


def parked(t: LedgerFold, facts: Parked, entry: Entry) -> None:
    """It is parked there from now."""
    t.life.parked = (entry.happened_at, facts.where)
