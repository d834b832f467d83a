"""Top-ups of a fill once its level stood at the mark: do they converge? Common practice, no source."""

from __future__ import annotations

from temper_core.job.fill.rules import TopUps, judge_top_ups
from temper_core.job.fold_state import LedgerFold


def top_ups_of(t: LedgerFold) -> TopUps | None:
    """Top-ups since the level first stood at the mark, and whether they converge."""
    first = next((i for i, pour in enumerate(t.job.pours) if pour.at_mark), None)
    if first is None or t.job.fill.corrected is not None:
        return None
    rows = [pour.product_l + pour.water_l for i, pour in enumerate(t.job.pours) if i > first or pour.bleeding]
    return judge_top_ups(rows, t.loop.capacity_l, t.policy)
