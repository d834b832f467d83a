"""Reads of the shelf."""

from __future__ import annotations

from collections.abc import Iterable

from django.db.models import QuerySet

from depots.models import Depot
from jobs.sheets import qr_rows
from people.shown import person_out
from shelf.models import Can, Draw
from shelf.schemas import CanOut, CanPage, DrawOut, LotTrace, Shelf, StockLine
from shelf.stock import cans_of, left_of
from temper_core.basis.uncertainty import Z95
from temper_core.products.shelf import CanKind

MOST_DRAWS = 400


def name_of(can: Can) -> str:
    """What it holds, as shown."""
    held = can.product or can.agent or can.water
    name = held.name if held is not None else "coolant of unknown kind"
    return f"{name}, recovered" if can.kind == CanKind.RECOVERED else name


def can_out(can: Can) -> CanOut:
    """A container as shown."""
    left = left_of(can)
    return CanOut(
        id=can.pk,
        number=can.number,
        kind=CanKind(can.kind),
        name=name_of(can),
        product_id=can.product_id,
        agent_id=can.agent_id,
        water_id=can.water_id,
        lot=can.lot,
        size_l=can.size_l,
        left_l=0.0 if can.emptied_at else left.litres,
        left_half_l=Z95 * left.sd,
        over=left.over,
        strength_percent=can.strength_percent,
        since=can.since,
        opened_on=can.opened_on,
        place=can.place,
        from_machine=can.loop.machine.fleet_number if can.loop is not None else "",
        counted_at=max((row.at for row in can.counts.all()), default=None),
        emptied=can.emptied_at is not None,
        edited_at=can.edited_at,
    )


def shelf_of(depot: Depot) -> Shelf:
    """Containers by their number, the emptied ones last; lines with those below their minimum first."""
    cans = [can_out(can) for can in cans_of(depot)]
    held = [can for can in cans if not can.emptied]
    lines = []
    kinds = ((CanKind.COOLANT, depot.products.all(), "product_id"), (CanKind.AGENT, depot.agents.all(), "agent_id"))
    for kind, rows, key in (*kinds, (CanKind.WATER, depot.waters.all(), "water_id")):
        for row in rows:
            own = [can for can in held if can.kind is kind and getattr(can, key) == row.pk]
            left, least = sum(can.left_l for can in own), row.minimum_l
            if own or least is not None:
                short = least - left if least is not None and left < least else None
                lines.append(
                    StockLine(
                        kind=kind, name=row.name, line_id=row.pk, left_l=left, minimum_l=least, short_l=short, cans=len(own)
                    )
                )
    return Shelf(
        cans=sorted(cans, key=lambda can: (can.emptied, can.number)),
        lines=sorted(lines, key=lambda line: (line.short_l is None, line.kind.value, line.name)),
    )


def can_page(can: Can, address: str) -> CanPage:
    """One container with where it went."""
    draws = Draw.objects.filter(can=can)
    return CanPage(can=can_out(can), draws=draws_out(draws), address=address, qr=qr_rows(address))


def lot_trace(depot: Depot, lot: str) -> LotTrace:
    """Where a lot went, the newest pour first."""
    cans = [can_out(can) for can in cans_of(depot).filter(lot__iexact=lot.strip())]
    draws = draws_out(Draw.objects.filter(can__depot=depot, can__lot__iexact=lot.strip()))
    return LotTrace(lot=lot.strip(), cans=cans, draws=draws, poured_l=sum(row.litres for row in draws))


def draws_out(draws: QuerySet[Draw]) -> list[DrawOut]:
    """Pours out of containers, newest first."""
    related = ("can__product", "can__agent", "can__water", "entry__loop__machine", "entry__person")
    rows: Iterable[Draw] = draws.select_related(*related).order_by("-at")[:MOST_DRAWS]
    return [
        DrawOut(
            at=row.at,
            litres=row.litres,
            can=row.can.number,
            lot=row.can.lot,
            name=name_of(row.can),
            machine_id=row.entry.loop.machine_id,
            fleet_number=row.entry.loop.machine.fleet_number,
            loop_id=row.entry.loop_id,
            loop_name=row.entry.loop.name,
            job_id=row.entry.job_id,
            person=person_out(row.entry.person),
        )
        for row in rows
    ]
