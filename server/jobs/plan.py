"""The lead's plan: what comes due by week, moved to a day and assigned to a person."""

from __future__ import annotations

from collections import defaultdict
from datetime import date, datetime, timedelta

from django.db import transaction

from config.shapes import Answer, Body
from depots.models import Depot
from fleet.schemas import MachineOut
from instruments.queries import instruments_of
from jobs.comeback import Resting, resting
from jobs.models import Appointment
from jobs.queries import machine_out
from people.models import Person
from people.shown import PersonOut, person_out
from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message, say
from temper_core.job.between.season import FrostDates, SeasonPlan, frost_dates
from temper_core.views.coming import frost_asks
from temper_core.views.plan import PlanItem, PlanKind, hours_of, plan_items

LATEST_DAYS = 400
DEFAULT_WEEKS, MOST_WEEKS = 6, 53


class PlanRow(Answer):
    """One thing that comes due. day: when it is planned; planned: a lead moved it there; machine null: of an instrument.

    hours, coolant_l: the work and the litres it asks for. person null: nobody's yet.
    """

    key: str
    kind: PlanKind
    said: Message
    machine: MachineOut | None
    loop_id: int | None
    name: str
    due_on: date
    day: date
    planned: bool
    overdue: bool
    hours: float
    coolant_l: float
    person: PersonOut | None


class PlanWeek(Answer):
    """One week, by its Monday: what it asks for in all."""

    starts_on: date
    many: int
    hours: float
    coolant_l: float


class Plan(Answer):
    """What comes due until a day, by planned day; people: who it can be assigned to."""

    today: date
    until: date
    rows: list[PlanRow]
    weeks: list[PlanWeek]
    people: list[PersonOut]


class AppointmentIn(Body):
    """When, and by whom; null: on the day it is due, nobody's."""

    day: date | None
    person_id: int | None


def monday_of(day: date) -> date:
    """The Monday of its week."""
    return day - timedelta(days=day.weekday())


def plan_of(depot: Depot, weeks: int = DEFAULT_WEEKS) -> Plan:
    """What comes due in these weeks, the present one first; what is overdue is planned for today."""
    now = depot.now
    today = now.date()
    until = monday_of(today) + timedelta(days=7 * weeks - 1)
    rows = [row for row in rows_of(depot, now, until) if row.day <= until]
    sums: dict[date, list[PlanRow]] = defaultdict(list)
    for row in rows:
        sums[monday_of(row.day)].append(row)
    starts = [monday_of(today) + timedelta(days=7 * n) for n in range(weeks)]
    return Plan(
        today=today,
        until=until,
        rows=rows,
        weeks=[
            PlanWeek(
                starts_on=start,
                many=len(sums[start]),
                hours=round(sum(row.hours for row in sums[start]), 2),
                coolant_l=round(sum(row.coolant_l for row in sums[start]), 1),
            )
            for start in starts
        ],
        people=[person_out(row) for row in depot.people.filter(is_active=True).order_by("first_name", "last_name")],
    )


def rows_of(depot: Depot, now: datetime, until: date) -> list[PlanRow]:
    """Everything that is due until a day, by planned day; as many queries for one loop as for hundreds."""
    today = now.date()
    planned = {row.key: row for row in depot.appointments.select_related("person")}
    found = [_row(item, planned, today, rest) for rest, item in _loop_items(depot, now, until)]
    found += [_row(item, planned, today, None, name) for name, item in _zero_checks(depot, now, until)]
    return sorted(found, key=lambda row: (row.day, not row.overdue, row.kind.value, row.key))


def _loop_items(depot: Depot, now: datetime, until: date) -> list[tuple[Resting, PlanItem]]:
    policy = depot.policy
    dates, found = frost_dates(now.date(), policy), []
    for rest in resting(depot, now):
        if rest.broken:
            continue
        core = rest.loop.core
        since = getattr(rest.loop, "signed_at", None)
        frost = _frost(rest, dates)
        items = plan_items(core, rest.rest, since.date() if since else now.date(), now, until, policy, frost)
        found += [(rest, item) for item in items]
    return found


def _frost(rest: Resting, dates: FrostDates) -> tuple[FrostDates, SeasonPlan] | None:
    asks = frost_asks(rest.loop.core, rest.rest, rest.safe_c, dates)
    return (dates, asks) if asks is not None else None


def _zero_checks(depot: Depot, now: datetime, until: date) -> list[tuple[str, PlanItem]]:
    found = []
    for row in instruments_of(depot):
        if row.state is None or row.state.due_at is None:
            continue
        on = row.state.due_at.astimezone(now.tzinfo).date()
        if on > until:
            continue
        said = say("zero_due", "{name}: check the zero", name=row.name)
        hours = hours_of(PlanKind.ZERO_CHECK, depot.policy)
        item = PlanItem(f"zero-{row.id}-{on:%Y%m%d}", PlanKind.ZERO_CHECK, said, on, row.state.overdue, hours, 0.0)
        found.append((row.name, item))
    return found


def _row(item: PlanItem, planned: dict[str, Appointment], today: date, rest: Resting | None, name: str = "") -> PlanRow:
    appointment = planned.get(item.key)
    day = appointment.day if appointment is not None else None
    return PlanRow(
        key=item.key,
        kind=item.kind,
        said=item.said,
        machine=machine_out(rest.loop) if rest is not None else None,
        loop_id=rest.loop.pk if rest is not None else None,
        name=rest.loop.name if rest is not None else name,
        due_on=item.due_on,
        day=max(day or item.due_on, today),
        planned=day is not None,
        overdue=item.overdue,
        hours=item.hours,
        coolant_l=item.coolant_l,
        person=person_out(appointment.person) if appointment is not None and appointment.person is not None else None,
    )


def appoint(depot: Depot, key: str, given: AppointmentIn, *, actor: Person) -> Appointment:
    """Plan something that comes due for a day and a person; raises CoreError for what does not, or a day that cannot be."""
    now = depot.now
    today = now.date()
    latest = today + timedelta(days=LATEST_DAYS)
    if given.day is not None and not today <= given.day <= latest:
        raise CoreError("day", f"The day must be from {today:%d %b %Y} to {latest:%d %b %Y}. Choose another.", "day")
    if all(row.key != key for row in rows_of(depot, now, latest)):
        raise CoreError("key", "This is not due any more. Reload the plan.", "not_due")
    person = None
    if given.person_id is not None:
        person = depot.people.filter(pk=given.person_id, is_active=True).first()
        if person is None:
            raise CoreError("person_id", "This person is not of the depot, or disabled. Choose another.", "person")
    with transaction.atomic():
        row, _ = Appointment.objects.update_or_create(
            depot=depot, key=key, defaults={"day": given.day, "person": person, "by": actor}
        )
    return row
