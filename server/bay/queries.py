"""A person's kit out of the database."""

from __future__ import annotations

import copy
import json
from collections.abc import Iterable
from typing import Any

from django.http import HttpRequest
from django.urls import resolve
from django.utils import timezone
from shelf.stock import cans_of

from bay.kit import LOOP, Kit, KitDepot, KitInstrument, KitLoop, KitRow
from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from jobs.board import board_of
from jobs.models import Appointment, Entry, JobLoop
from jobs.queries import lists_of, record_of
from people.models import Person
from people.shown import person_out
from temper_core.instruments import InstrumentKind

MOST_LOOPS = 120
MOST_LISTED = 100
ADDRESSES = (
    "session",
    "board",
    "catalogue",
    "instruments",
    "policy",
    "inspection",
    "names",
    "machines",
    "loops",
    "season",
    "shelf",
)


def kit_of(person: Person, picked: Iterable[int], request: HttpRequest) -> Kit:
    """What a person takes along: loops in work, loops due or planned for them, loops of the machines they picked."""
    depot = person.own_depot
    loops = list(loops_of(depot).filter(pk__in=wanted(depot, person, picked)).order_by("machine__fleet_number", "position"))
    paths = [f"/api/{name}" for name in ADDRESSES]
    paths += [f"/api/machines/{pk}" for pk in dict.fromkeys(loop.machine_id for loop in loops)]
    kits = [kit_loop(loop, person) for loop in loops]
    wrote = {row.person_id for kit in kits for row in kit.rows} | {kit.opener for kit in kits if kit.opener is not None}
    people = Person.objects.filter(depot=depot) | Person.objects.filter(pk__in=wrote)
    return Kit(
        made_at=timezone.now(),
        no_judging_after_h=depot.policy["kit_judges_h"],
        person=person_out(person),
        people=[person_out(row) for row in people.distinct()],
        depot=depot_kit(depot),
        loops=kits,
        answers={path: said(request, path) for path in paths},
    )


def wanted(depot: Depot, person: Person, picked: Iterable[int]) -> list[int]:
    """Numbers of the loops that a person takes along, those in work first; at most MOST_LOOPS."""
    in_work = JobLoop.objects.filter(loop__machine__depot=depot, signed_at__isnull=True).values_list("loop_id", flat=True)
    picked_loops = loops_of(depot).filter(machine__in=list(picked)).values_list("pk", flat=True)
    due = [row.loop_id for row in board_of(depot).coming if row.loop_id is not None]
    keys = Appointment.objects.filter(depot=depot, person=person).values_list("key", flat=True)
    planned = [int(part) for key in keys for part in key.split("-")[1:2] if part.isdigit()]
    return list(dict.fromkeys([*in_work, *picked_loops, *planned, *due]))[:MOST_LOOPS]


def depot_kit(depot: Depot) -> KitDepot:
    """The depot's clock, rules and lists."""
    lists = lists_of(depot)
    return KitDepot(
        id=depot.pk,
        name=depot.name,
        time_zone=depot.time_zone,
        currency=depot.currency,
        coldest_c=depot.coldest_c,
        altitude_m=depot.altitude_m,
        rules=depot.policy_overrides,
        products=list(lists.products),
        agents=list(lists.agents),
        waters=list(lists.waters),
        instruments=[
            KitInstrument(
                id=row.pk,
                name=row.name,
                kind=InstrumentKind(row.kind),
                core=row.core if row.scale else None,
                zero=row.zero,
            )
            for row in depot.instruments.all()
        ],
        cans=[row.core for row in cans_of(depot).filter(emptied_at=None)],
        stock=lists.stock,
    )


def kit_loop(loop: Loop, person: Person) -> KitLoop:
    """One loop with its whole record."""
    record = record_of(loop, person)
    listed = Entry.objects.filter(loop=loop, kind="listed").order_by("-seq")[:MOST_LISTED].stored()
    job = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).select_related("job").first()
    return KitLoop(
        id=loop.pk,
        loop=LOOP.dump_python(record.loop, mode="json"),
        machine=record.machine,
        shown=record.shown,
        rows=[KitRow(**row._asdict()) for row in record.rows],
        listed=[KitRow(**row._asdict()) for row in listed],
        opener=record.opener,
        job_opened_at=job.job.opened_at if job is not None else None,
        drafts=list(record.drafts),
        in_doubt=list(record.in_doubt),
    )


def said(request: HttpRequest, path: str) -> Any:
    """What this person is answered at an address, word for word: the view itself is asked."""
    asked = copy.copy(request)
    asked.method, asked.path, asked.path_info = "GET", path, path
    asked.GET = type(request.GET)("")
    asked.META = {key: value for key, value in request.META.items() if key != "HTTP_IF_NONE_MATCH"}
    view, args, kwargs = resolve(path)
    response: Any = view(asked, *args, **kwargs)
    if hasattr(response, "render"):
        response.render()
    return json.loads(response.content)
