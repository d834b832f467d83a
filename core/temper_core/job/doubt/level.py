"""How full a loop was when it came in, as its level was looked at."""

from __future__ import annotations

import math
from collections.abc import Mapping

from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Check
from temper_core.machine.circuit import NodeKind


def level_of(t: LedgerFold) -> tuple[float, float]:
    """Litres missing at arrival and their standard deviation [l], as the level was looked at."""
    whole, policy = t.loop.layout.volume_l, t.policy
    seen = [row.tested for row in t.job.inspect.seen if row.tested is not None and row.tested.check is Check.LEVEL]
    if not seen:
        return 0.0, whole * policy["level_sd_unseen"] / 100
    level = seen[-1]
    missing_l = _missing_l(t, level.figures)
    if missing_l is not None:
        by_eye = missing_l * policy["missing_sd_percent"] / 100
        return missing_l, math.hypot(by_eye, whole * policy["level_sd_seen"] / 100)
    low = level.outcome != "at_mark"
    return 0.0, whole * policy["level_sd_low" if low else "level_sd_seen"] / 100


def _missing_l(t: LedgerFold, figures: Mapping[str, float]) -> float | None:
    """Litres missing, as entered or by mm in the tank; None where nobody said."""
    if "missing_l" in figures:
        return min(figures["missing_l"], t.loop.layout.volume_l)
    tank = next((node for node in t.loop.layout.nodes if node.kind is NodeKind.TANK and node.volume_l > 0), None)
    if "missing_mm" not in figures or tank is None:
        return None
    return min(tank.volume_l, figures["missing_mm"] * tank.volume_l / (tank.top_mm - tank.bottom_mm))
