"""How much of everything is on the shelf, as a job's supplies ask for it."""

from __future__ import annotations

from collections import defaultdict

from django.db.models import QuerySet

from depots.models import Depot
from shelf.models import Can
from temper_core.products.shelf import CanKind, Left, left_in
from temper_core.views.supplies import Stock


def cans_of(depot: Depot) -> QuerySet[Can]:
    """Containers of the depot with what they hold, counts and draws at hand."""
    rows = Can.objects.filter(depot=depot).select_related("product", "agent", "water", "loop__machine")
    return rows.prefetch_related("counts", "draws")


def left_of(can: Can) -> Left:
    """What is left: of the last count less what was taken since."""
    count = max(can.counts.all(), key=lambda row: row.at, default=None)
    if count is None:
        return Left(0.0, 0.0, False)
    return left_in(count.litres, [row.litres for row in can.draws.all() if row.at > count.at])


def stock_of(depot: Depot) -> Stock:
    """What is on the shelf, as a job's supplies ask for it; recovered coolant is not counted in."""
    sums: dict[CanKind, dict[str, float]] = defaultdict(dict)
    water: float | None = None
    for can in cans_of(depot).filter(emptied_at=None):
        kind, left = CanKind(can.kind), left_of(can).litres
        if kind is CanKind.WATER and can.water is not None and can.water.kind == "demineralised":
            water = (water or 0.0) + left
        key = str(can.product_id if kind is CanKind.COOLANT else can.agent_id)
        if kind in (CanKind.COOLANT, CanKind.AGENT):
            sums[kind][key] = sums[kind].get(key, 0.0) + left
    return Stock(sums.get(CanKind.COOLANT), sums.get(CanKind.AGENT), water)
