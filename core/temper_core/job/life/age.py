"""How old a filling is: drains are partial, so it is a mixture of ages. Common practice, no source."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date

from temper_core.basis.policy import Policy
from temper_core.products.chemistry import GROUPS, Family
from temper_core.products.shelf import CanKind, Taken

LEAST_SHARE = 1e-4  # less than a glass in a railcar


@dataclass(frozen=True, slots=True)
class AgePart:
    """A part of a filling (0-1 of its litres): the day it went in and the meters then; None: not known."""

    share: float
    on: date | None = None
    distance_km: float | None = None
    hours: float | None = None
    family: Family | None = None


@dataclass(frozen=True, slots=True)
class Oldest:
    """The part that sets the due date, the share of the filling that is at least as old [%], the limit [%].

    mixed: newer coolant is beside it.
    """

    part: AgePart
    percent: float
    limit_percent: float
    mixed: bool


def _when(part: AgePart) -> tuple[bool, date]:
    return (part.on is not None, part.on or date.min)


def refilled(parts: Iterable[AgePart], kept: float, *fresh: AgePart) -> tuple[AgePart, ...]:
    """The parts after so much of the filling (0-1) stayed and the rest is fresh; oldest first, shares add up to 1.

    fresh: what went in, their shares among themselves.

    >>> parts = refilled((AgePart(1.0, date(2022, 3, 14)),), 0.735, AgePart(1.0, date(2026, 11, 23)))
    >>> [(round(part.share, 3), part.on.year) for part in parts]
    [(0.735, 2022), (0.265, 2026)]
    """
    kept = min(1.0, max(0.0, kept))
    found: dict[AgePart, float] = {}
    new = sum(part.share for part in fresh) or 1.0
    rows = [(part, part.share * kept) for part in parts] + [(part, part.share / new * (1 - kept)) for part in fresh]
    for part, share in rows:
        key = replace(part, share=0.0)
        found[key] = found.get(key, 0.0) + share
    kinds = [replace(key, share=share) for key, share in found.items() if share > LEAST_SHARE]
    whole = sum(row.share for row in kinds) or 1.0
    return tuple(sorted((replace(row, share=row.share / whole) for row in kinds), key=_when))


def poured_parts(taken: Iterable[Taken], litres: float, fresh: AgePart) -> tuple[AgePart, ...]:
    """What went in, by its age: recovered coolant stays as old as it is, the rest is fresh. litres: of all that went in."""
    old = [row for row in taken if row.can.kind is CanKind.RECOVERED]
    if not old or litres <= 0:
        return (fresh,)
    rows = [AgePart(row.litres / litres, row.can.since, family=fresh.family) for row in old]
    rest = 1 - sum(row.share for row in rows)
    return (*rows, replace(fresh, share=rest)) if rest > LEAST_SHARE else tuple(rows)


def age_limit_percent(parts: Sequence[AgePart], policy: Policy) -> float:
    """How much of the old may stay without setting the date [%]: as for chemistry, within a family and beyond it."""
    groups = {GROUPS[part.family] if part.family else None for part in parts}
    return policy["old_limit_family_percent" if len(groups) < 2 else "old_limit_change_percent"]


def oldest_over(parts: Sequence[AgePart], policy: Policy) -> Oldest:
    """The oldest part over the limit, older ones counted with it; see Oldest. A part of unknown age is the oldest."""
    limit, whole = age_limit_percent(parts, policy), 0.0
    rows = sorted(parts, key=_when)
    for part in rows:
        whole += 100 * part.share
        if whole > limit:
            break
    return Oldest(part, whole, limit, mixed=part is not rows[-1])


def more_out_l(oldest: Oldest, capacity_l: float) -> float:
    """Litres of the mixed loop that would have to be swapped until what is so old falls to its limit."""
    return max(0.0, capacity_l * (1 - oldest.limit_percent / oldest.percent)) if oldest.percent > 0 else 0.0
