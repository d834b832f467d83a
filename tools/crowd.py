"""A bay full of machines, for measuring: copied rows, no arithmetic. Needs Django set up and the demo loaded."""

from __future__ import annotations

import itertools
import uuid
from datetime import timedelta

from django.utils import timezone

from depots.models import Depot
from fleet.models import Loop, Machine
from jobs.chain import append
from jobs.models import Entry, Job, JobLoop
from people.models import Person


def crowd(depot: Depot, jobs: int, history: int) -> None:
    """Machines that had `history` such lives as the demo's P-06, each with an open job that runs three clocks."""
    donor = Loop.objects.get(machine__fleet_number="P-06")
    life = [e for e in Entry.objects.filter(loop=donor) if e.job_id and JobLoop.objects.get(job=e.job, loop=donor).signed_at]
    part = JobLoop.objects.filter(loop=donor, signed_at__isnull=False).latest("signed_at")
    tomo, now = Person.objects.get(username="tomo"), timezone.now()
    machines = Machine.objects.bulk_create(Machine(depot=depot, fleet_number=f"X-{n}", kind="Carrier") for n in range(jobs))
    fields = {f.name: getattr(donor, f.name) for f in Loop._meta.fields if f.name not in ("id", "uuid", "machine")}
    loops = Loop.objects.bulk_create(Loop(machine=machine, **fields) for machine in machines)
    rows, works, parts = [], [], []
    for machine, loop in zip(machines, loops, strict=True):
        old = Job(id=uuid.uuid4(), machine=machine, opened_by=tomo, opened_at=now - timedelta(days=300))
        new = Job(id=uuid.uuid4(), machine=machine, opened_by=tomo, opened_at=now - timedelta(hours=3))
        works += [old, new]
        parts.append(
            JobLoop(
                job=old, loop=loop, signed_at=part.signed_at, signed_by=tomo, result=part.result, handed_on=part.handed_on
            )
        )
        parts.append(JobLoop(job=new, loop=loop))
        for _ in range(history):
            rows += [
                Entry(id=uuid.uuid4(), loop=loop, job=old, kind=e.kind, facts=e.facts, happened_at=e.happened_at,
                      recorded_at=e.recorded_at, person=tomo) for e in life
            ]  # fmt: skip
        work = [("job_opened", {"job_type": "refill"}), ("clock_started", {"clock": "warm_up", "minutes": 25})]
        work += [
            ("clock_started", {"clock": "hose_flow", "minutes": 9}),
            ("clock_started", {"clock": "vacuum_hold", "minutes": 9}),
        ]
        rows += [
            Entry(id=uuid.uuid4(), loop=loop, job=new, kind=kind, facts=facts, person=tomo,
                  happened_at=now - timedelta(minutes=50 - n), recorded_at=now)
            for n, (kind, facts) in enumerate(work)
        ]  # fmt: skip
    Job.objects.bulk_create(works)
    JobLoop.objects.bulk_create(parts)
    append(rows)


def long_job(depot: Depot, entries: int) -> Loop:
    """A machine with one open job of so many entries: temperatures logged, clocks started and stopped, looks at a sample."""
    crowd(depot, 1, 1)
    part = JobLoop.objects.filter(loop__machine__depot=depot, signed_at__isnull=True).latest("pk")
    now, tomo = timezone.now(), Person.objects.get(username="tomo")
    usual = itertools.cycle(
        [
            ("temperature_logged", {"c": 61.0}),
            ("sampled", {"spot": "drain", "looks": ["slight_haze"], "sediment_mm": 1.0, "note": ""}),
            ("temperature_logged", {"c": 55.0}),
            ("ready_confirmed", {"ready": ["tray"]}),
        ]
    )
    append(
        [
            Entry(id=uuid.uuid4(), loop=part.loop, job=part.job, kind=kind, facts=facts, person=tomo,
                  happened_at=now - timedelta(minutes=40) + timedelta(milliseconds=100 * n), recorded_at=now)
            for n, (kind, facts) in zip(range(entries), usual, strict=False)
        ]
    )  # fmt: skip
    return part.loop
