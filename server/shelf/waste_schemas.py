"""What the waste's API takes and gives."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body
from people.shown import PersonOut
from temper_core.job.flush.facts import WasteKind


class WasteRow(Answer):
    """Containers of one entry. days: since they were filled; too_long: beyond the rules; stands: where they were put."""

    entry_id: UUID
    kind: WasteKind
    litres: float
    containers: int
    stands: str
    at: datetime
    days: int
    too_long: bool
    loop_id: int
    fleet_number: str
    loop_name: str
    person: PersonOut


class HandoverOut(Answer):
    """What was taken away together. photo: its file is named by its hash, empty where there is none."""

    id: UUID
    at: datetime
    taken_by: str
    paper: str
    note: str
    photo: str
    person: PersonOut
    litres: float
    undone: bool
    rows: list[WasteRow]


class WasteMonth(Answer):
    """One kind in one month [l]: filled, handed over, and standing at its end."""

    month: date
    kind: WasteKind
    filled_l: float
    handed_l: float
    stands_l: float


class Waste(Answer):
    """What stands full, what was handed over, and the register by month. too_long: containers beyond the rules."""

    standing: list[WasteRow]
    handovers: list[HandoverOut]
    months: list[WasteMonth]
    too_long: int
    days_allowed: float


class HandoverIn(Body):
    """Who took what, when (now if left out), with which paper. id: the client's, so that sent twice it is one."""

    id: UUID
    entry_ids: Annotated[list[UUID], Field(min_length=1, max_length=400)]
    taken_by: Annotated[str, Field(max_length=80)]
    paper: Annotated[str, Field(max_length=40)] = ""
    note: Annotated[str, Field(max_length=200)] = ""
    at: datetime | None = None
