"""A job begun on the wrong machine, moved to the right one: recorded there as it happened, struck where it stood."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from django.db import transaction
from shelf.actions import sync_draws
from shelf.recovered import sync_recovered

from config import clock
from fleet.models import Loop, Machine
from instruments.actions import store_reading
from jobs.actions import digested, store
from jobs.models import Draft, Entry, Job, JobLoop, Photo, cores_of
from jobs.queries import entries_of, state_of
from jobs.readings import sync_readings
from jobs.stored import FACTS
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.entries import PhotoAdded, Voided, counting_now, standing
from temper_core.job.fact import Fact
from temper_core.job.kinds import REGISTRY
from temper_core.job.read.facts import Read
from temper_core.job.validate import check_entry

KEPT = "Nothing was moved."
GONE = "This job was undone or moved already. Reload."


def move_job(job: Job, machine: Machine, *, actor: Person) -> Job:
    """The job on this machine, loop by loop in their order; asked twice it is moved once. A lead's work.

    Every entry that stands is recorded on the right loop as it counts now, under whoever recorded it and when it happened,
    by the rules of that loop; on the wrong one it is undone, and stays in the record, struck. All or nothing: raises
    Conflict where a part is signed, a loop is missing or has a job, or an entry cannot be of the other loop.
    """
    moved = uuid.uuid5(job.id, f"moved to {machine.uuid}")
    with transaction.atomic():
        there = Job.objects.filter(pk=moved).first()
        if there is not None:
            if not there.job_loops.exists():
                raise Conflict("job", GONE, "no_job")
            return there
        parts = list(JobLoop.objects.filter(job=job).select_related("loop__machine__depot").order_by("loop__position"))
        _check(job, parts, machine)
        there = Job.objects.create(id=moved, machine=machine, opened_by=job.opened_by, opened_at=job.opened_at)
        for part in parts:
            to = Loop.objects.select_related("machine__depot").filter(machine=machine, position=part.loop.position).first()
            if to is None:
                words = f"{machine.fleet_number} has no loop {part.loop.position} for {part.loop.name}. {KEPT}"
                raise Conflict("machine_id", words, "no_such_loop")
            if JobLoop.objects.filter(loop=to, signed_at__isnull=True).exists():
                words = f"{machine.fleet_number}, {to.name} has an open job already. Sign or undo it first. {KEPT}"
                raise Conflict("machine_id", words, "already_open")
            _move(part, to, there, actor)
    return there


def _check(job: Job, parts: Sequence[JobLoop], machine: Machine) -> None:
    if machine.pk == job.machine_id:
        raise Conflict("machine_id", f"The job is on {machine.fleet_number} already. Choose the other machine.", "same")
    signed = next((part for part in parts if part.signed_at is not None), None)
    if signed is not None:
        raise Conflict("job", f"{signed.loop.name} is signed off: what is signed stays where it was done.", "signed_off")
    if not parts:
        raise Conflict("job", GONE, "no_job")


def _move(part: JobLoop, to: Loop, there: Job, actor: Person) -> None:
    rows = {str(row.pk): row for row in entries_of(part.loop).select_related("person")}
    stands = [(e, facts) for e, facts in counting_now(cores_of(rows.values())) if e.job_id == str(part.job_id)]
    ids = {entry.id: str(uuid.uuid5(uuid.UUID(entry.id), str(there.id))) for entry, _ in stands}
    JobLoop.objects.create(job=there, loop=to)
    record = cores_of(entries_of(to))
    for entry, facts in stands:
        record.append(_again(rows[entry.id], _renamed(facts, ids), ids[entry.id], record, to, there))
    digested(to, actor.own_depot)
    now, reason = clock.now(), f"moved to {there.machine.fleet_number}"
    for entry, _ in reversed(stands):
        struck = uuid.uuid5(uuid.UUID(ids[entry.id]), "struck")
        store(struck, part.loop, part.job, Voided(entry.id, reason), now, actor)
    for draft in Draft.objects.filter(loop=part.loop):  # what is typed and not recorded yet goes along
        Draft.objects.filter(loop=to, person=draft.person_id, stage=draft.stage).delete()
        Draft.objects.filter(pk=draft.pk).update(loop=to)
    wrong = part.loop
    part.delete()
    digested(wrong, actor.own_depot)
    for loop in (wrong, to):
        sync_draws(loop)
        sync_readings(loop)
        sync_recovered(loop, lambda loop=loop: state_of(loop, actor.own_depot.policy))  # type: ignore[misc]


def _renamed(facts: Fact, ids: dict[str, str]) -> Fact:
    """The facts with the new ids of the entries that they are about."""
    kind = REGISTRY.of(facts).name
    text = FACTS[kind].dump_json(facts).decode()
    for old, new in ids.items():
        text = text.replace(old, new)
    renamed: Fact = FACTS[kind].validate_json(text)
    return renamed


def _again(was: Entry, facts: Fact, pk: str, record: list[CoreEntry], to: Loop, there: Job) -> CoreEntry:
    depot = to.machine.depot
    before = [entry for entry in standing(record) if entry.happened_at <= was.happened_at]  # what was struck since never was
    then = was.happened_at.astimezone(depot.now.tzinfo)
    try:
        state = check_entry(to.core, before, facts, depot.policy, then, str(was.person_id))
    except CoreError as error:
        said = REGISTRY.sentence(facts).sentence
        words = f"“{said}” cannot be of {there.machine.fleet_number}: {error} {KEPT} Undo it first, or start a job there."
        raise Conflict("machine_id", words, "cannot_follow") from error
    entry = store(uuid.UUID(pk), to, there, facts, was.happened_at, was.person)
    if isinstance(facts, PhotoAdded):
        Photo.objects.create(entry=entry, loop=to, sha256=facts.sha256)
    if isinstance(facts, Read):
        store_reading(entry, facts, state, depot.policy)
    return entry.core
