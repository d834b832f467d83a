"""Before fluid: what this job opened is shut and seated again, point by point. Common practice, no source."""

from __future__ import annotations

from temper_core.job.fill.state import ClosingPoint
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Check
from temper_core.machine.circuit import Layout


def closing_points(t: LedgerFold) -> tuple[ClosingPoint, ...]:
    """Built from what was opened, found and flushed; empty where nothing was opened."""
    if t.job.drained is None or t.job.fill.corrected is not None:
        return ()
    layout, shut = t.loop.layout, t.job.fill.shut
    rows = [_point(key, layout) for key in t.job.fill.opened]
    drains = [row[3] for row in rows if row[3]]
    if drains:
        detail = "screw plugs to the maker’s torque; plastic plugs by hand only"
        rows.append(("seals", f"New O-rings or washers at {_and(drains)}", detail, ""))
    worn = {row.tested.check: row.tested.outcome for row in t.job.inspect.seen if row.tested is not None}
    if worn.get(Check.HOSES) in ("soft", "cracked"):
        rows.append(
            ("hose_set", "Hose set replaced", f"they were found {worn[Check.HOSES]}; clamps tight, no brute force", "")
        )
    gauge = t.loop.cap_gauge_kpa
    right = f"{gauge:g} kPa printed on it" if gauge is not None else "pressure as the maker states"
    new = "a new one, the seal was worn; " if worn.get(Check.CAP) == "worn" else "seal whole; "
    rows.append(("cap", "The right cap is ready", new + right, ""))
    return tuple(ClosingPoint(key, act, detail, tap, key in shut) for key, act, detail, tap in rows)


def _point(key: str, layout: Layout) -> tuple[str, str, str, str]:
    kind, _, where = key.partition(":")
    names = {node.id: node.name for node in layout.nodes}
    if kind == "drain":
        drain = next(row for row in layout.drains if row.letter == where)
        return key, f"Shut {where}", names.get(drain.node, "").lower(), where
    return key, f"Hoses at {names.get(where, where).lower()} on", "pushed fully on, clamps in their old imprint", ""


def _and(words: list[str]) -> str:
    return words[0] if len(words) == 1 else ", ".join(words[:-1]) + " and " + words[-1]
