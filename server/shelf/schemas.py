"""What the shelf's API takes and gives."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body, Litres, Number
from people.shown import PersonOut
from temper_core.products.shelf import CanKind

Short = Annotated[str, Field(max_length=40)]


class CanOut(Answer):
    """A container with what is left in it and the 95 % half-width of that. name: of what it holds.

    over: more was taken than was counted. counted_at: null where nobody counted it.
    """

    id: int
    number: str
    kind: CanKind
    name: str
    product_id: int | None
    agent_id: int | None
    water_id: int | None
    lot: str
    size_l: float
    left_l: float
    left_half_l: float
    over: bool
    strength_percent: float | None
    since: date | None
    opened_on: date | None
    place: str
    from_machine: str
    counted_at: datetime | None
    emptied: bool
    edited_at: datetime


class StockLine(Answer):
    """All containers of one coolant, agent or water together. short_l: below a lead's minimum, null where it is not."""

    kind: CanKind
    name: str
    line_id: int
    left_l: float
    minimum_l: float | None
    short_l: float | None
    cans: int


class Shelf(Answer):
    """Everything on the shelf, and what is to be ordered first."""

    cans: list[CanOut]
    lines: list[StockLine]


class DrawOut(Answer):
    """Where litres went: machine, loop, job, day, who poured."""

    at: datetime
    litres: float
    can: str
    lot: str
    name: str
    machine_id: int
    fleet_number: str
    loop_id: int
    loop_name: str
    job_id: UUID | None
    person: PersonOut


class CanPage(Answer):
    """One container: what is left, where it went, and its label's code. address: what the code says."""

    can: CanOut
    draws: list[DrawOut]
    address: str
    qr: list[str]


class LotTrace(Answer):
    """Where a lot went: its containers, and every pour out of them."""

    lot: str
    cans: list[CanOut]
    draws: list[DrawOut]
    poured_l: float


class CanIn(Body):
    """A container as it shall be. id: the client's, for a new one; seen: when it was last edited, for a change.

    Of product_id, agent_id and water_id the one that fits its kind. number: left out for a new one, the next is given.
    left_l: how full it is, for a new one; full where left out.
    """

    id: UUID | None = None
    seen: datetime | None = None
    number: Annotated[str, Field(max_length=20)] | None = None
    kind: CanKind
    product_id: int | None = None
    agent_id: int | None = None
    water_id: int | None = None
    loop_id: int | None = None
    lot: Short = ""
    size_l: Litres
    left_l: Litres | None = None
    strength_percent: Number | None = None
    opened_on: date | None = None
    since: date | None = None
    place: Annotated[str, Field(max_length=60)] = ""
    emptied: bool = False


class CountIn(Body):
    """Litres in a container as somebody sees them now."""

    id: UUID
    litres: Litres
