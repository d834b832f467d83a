"""What the API gives of a job's end and of what comes after: sheet, rechecks, calendar, frost."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from config.shapes import Answer
from fleet.schemas import MachineOut, OwnerOut
from people.shown import PersonOut
from temper_core.basis.message import Message
from temper_core.job.between.season import FrostDates, SeasonPlan
from temper_core.job.between.state import AmendedState, RecheckWhy
from temper_core.views.sheet import JobSheet


class ComingBack(Answer):
    """One loop that somebody has to check. why None: its service is due."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    why: RecheckWhy | None
    said: Message
    due_on: date | None
    overdue: bool
    today: bool
    with_reading: bool


class SeasonRow(Answer):
    """One loop that frost asks something of."""

    machine: MachineOut
    loop_id: int
    loop_name: str
    plan: SeasonPlan


class Seasonal(Answer):
    """The depot's frost dates, and what they ask for, loudest first."""

    dates: FrostDates
    rows: list[SeasonRow]


class Of(Answer):
    """What a UUID belongs to, by its number here, and the page that shows it."""

    what: str
    id: str
    page: str


class SheetOut(Answer):
    """The job sheet of one loop's job. signed_at None: it is still in work. corrections: made since, beside it."""

    machine: MachineOut
    owner: OwnerOut | None
    loop_id: int
    loop_name: str
    depot: str
    job_id: UUID | None
    opened_at: datetime | None
    signed_at: datetime | None
    signed_by: PersonOut | None
    by: list[str]
    proven: bool
    sheet: JobSheet
    corrections: list[AmendedState]
    address: str


class LabelOut(Answer):
    """The label on the machine: what is inside, how far it protects, when it is due; address: what its QR code holds.

    qr: the code with its border, a row of 0 and 1 for each line of modules. printable False: the loop holds rinse water or
    cleaner, so that only the tag is hung; missing: what is not done yet, and stands on the label.
    """

    machine: MachineOut
    loop_name: str
    printable: bool
    missing: list[Message]
    chemistry: str
    product: str
    strength_percent: float | None
    freeze_c: float | None
    safe_c: float | None
    measured: bool
    filled_on: date | None
    due_on: date | None
    address: str
    qr: list[str]
