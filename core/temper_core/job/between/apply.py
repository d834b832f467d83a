"""What is recorded between services does to the state of a loop."""

from __future__ import annotations

from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold


def level_seen(t: LedgerFold, facts: LevelSeen, entry: Entry) -> None:
    """The level as it was seen, with its time."""
    t.since.levels.append((entry.happened_at, facts))


def amended(t: LedgerFold, facts: Amended, entry: Entry) -> None:
    """A correction beside what was signed; changes no state."""
    t.since.amendments.append((entry, facts))
