"""Walk a loop's record: every entry in turn acts on the fold, as its kind says."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from temper_core.basis.policy import Policy
from temper_core.job.doubt.record import begin_again
from temper_core.job.entries import Entry, standing
from temper_core.job.entry_kind import Registry
from temper_core.job.fold_state import LedgerFold, start
from temper_core.job.kinds import REGISTRY
from temper_core.job.life.snapshot import LoopSnapshot, start_from
from temper_core.job.loop import Loop


def walk(
    loop: Loop,
    entries: Sequence[Entry],
    policy: Policy,
    snapshot: LoopSnapshot | None = None,
    registry: Registry = REGISTRY,
    now: datetime | None = None,
) -> LedgerFold:
    """The fold of a record in one walk; with snapshot, only what came after the job that handed it on."""
    t = start(loop, policy, now) if snapshot is None else start_from(loop, policy, snapshot, now)
    begin_again(t)
    for entry in standing(entries):
        registry.apply(t, entry)
        t.changed_at = entry.happened_at
    if entries:
        t.last_entry_id = max(entries, key=lambda entry: (entry.seq, entry.recorded_at, entry.id)).id
    return t
