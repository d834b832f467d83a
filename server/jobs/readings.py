"""The table of readings follows the record."""

from __future__ import annotations

from uuid import UUID

from fleet.models import Loop
from instruments.actions import store_reading
from instruments.models import Reading
from jobs.models import cores_of
from jobs.queries import entries_of
from temper_core.job.entries import Edited, Voided, facts_now
from temper_core.job.fold import fold
from temper_core.job.read.facts import Read


def _same(kept: Reading, facts: Read) -> bool:
    """Whether the table has the reading as it counts now."""
    now = (facts.value, facts.sample_c, facts.zero, facts.edge.value, facts.place.value, facts.after_hot_run)
    return (kept.value, kept.sample_c, kept.zero, kept.edge, kept.place, kept.after_hot_run) == now


def sync_readings(loop: Loop) -> None:
    """The table of readings follows the record: what was edited or undone there is so here too."""
    rows = list(entries_of(loop))
    core = cores_of(rows)
    voided = {entry.facts.entry_id for entry in core if isinstance(entry.facts, Voided)}
    brought = {entry.facts.by for entry in core if isinstance(entry.facts, Edited)}
    now, stored = facts_now(core), {row.id: row for row in rows}
    for entry in core:
        row, facts = stored[UUID(entry.id)], now.get(entry.id, entry.facts)
        if not isinstance(facts, Read) or entry.id in brought:
            continue
        gone = entry.id in voided
        kept = Reading.objects.filter(entry_id=row.id).first()
        if kept is None or (kept.voided == gone and _same(kept, facts)):  # what never stood there is not brought in
            continue
        Reading.objects.filter(entry_id=row.id).delete()
        before = [one for one in core if one.seq < entry.seq]
        policy = loop.machine.depot.policy
        reading = store_reading(row, facts, fold(loop.core, before, policy, loop.machine.depot.now), policy)
        if gone:
            reading.voided = True
            reading.save(update_fields=["voided"])
