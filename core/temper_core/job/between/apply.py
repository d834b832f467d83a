"""What is recorded between services does to the state of a loop."""

from __future__ import annotations

from temper_core.job.between.facts import Amended, LevelSeen, Spilled
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.life.account.movement import Movement, at_mark, level_missing
from temper_core.job.verify.facts import Level


def level_seen(t: LedgerFold, facts: LevelSeen, entry: Entry) -> None:
    """The level as it was seen, with its time."""
    t.since.levels.append((entry.happened_at, facts))
    if facts.level is Level.AT_MARK:
        t.life.movements.append(at_mark(entry.happened_at, t.loop, t.policy))
    missing = level_missing(facts.figures, t.loop, t.policy)
    if missing is not None:
        t.life.movements.append(Movement(entry.happened_at, missing_l=missing[0], sd_l=missing[1]))
    if facts.lost_when is not None:
        t.life.lost_when = facts.lost_when


def spilled(t: LedgerFold, facts: Spilled, entry: Entry) -> None:
    """No loss of the loop's own. What is inside stays what it is; the top-up that follows says how much of it went."""
    t.life.movements.append(Movement(entry.happened_at, out_l=facts.spilled_l))


def amended(t: LedgerFold, facts: Amended, entry: Entry) -> None:
    """A correction beside what was signed; changes no state."""
    t.since.amendments.append((entry, facts))
