"""How full a loop was when it came in, as its level was looked at."""

from __future__ import annotations

import math

from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Check
from temper_core.job.life.account.movement import level_missing


def level_of(t: LedgerFold) -> tuple[float, float]:
    """Litres missing at arrival and their standard deviation [l], as the level was looked at."""
    whole, policy = t.loop.layout.volume_l, t.policy
    seen = [row.tested for row in t.job.inspect.seen if row.tested is not None and row.tested.check is Check.LEVEL]
    if not seen:
        return 0.0, whole * policy["level_sd_unseen"] / 100
    level = seen[-1]
    missing = level_missing(level.figures, t.loop, policy)
    if missing is not None:
        missing_l = min(missing[0], whole)
        by_eye = missing_l * policy["missing_sd_percent"] / 100
        return missing_l, math.hypot(by_eye, whole * policy["level_sd_seen"] / 100)
    low = level.outcome != "at_mark"
    return 0.0, whole * policy["level_sd_low" if low else "level_sd_seen"] / 100
