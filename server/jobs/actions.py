"""Writes of jobs and ledgers: check, then record, in one transaction; the actor is required."""

from __future__ import annotations

import hashlib
import logging
import uuid
from datetime import datetime, timedelta

from django.db import transaction
from django.shortcuts import get_object_or_404
from shelf.actions import sync_draws
from shelf.recovered import sync_recovered

import temper_core
from config import clock
from depots.models import Depot
from fleet.models import LAYOUT, Loop, Machine
from instruments.actions import store_reading
from jobs.depot_rows import DatabaseRows
from jobs.doors import Work, check_may_begin
from jobs.entry_facts import facts_of
from jobs.entry_schemas import EntriesIn, EntryBase
from jobs.models import Draft, Entry, Job, JobLoop, Photo, cores_of
from jobs.named import without_names
from jobs.pictures import keep, reencoded
from jobs.queries import entries_of, state_of
from jobs.readings import sync_readings
from jobs.results import SCHEMA, STATE
from jobs.rules import check_follows, check_may, check_seen, check_time, happened, with_isolator
from jobs.schemas import DraftIn, JobIn
from jobs.stored import SNAPSHOT, stored_facts
from people.models import Person
from people.shown import person_out
from temper_core.basis.errors import Conflict, CoreError, under
from temper_core.basis.policy import SHIPPED, Policy
from temper_core.job.apart.facts import SetAside
from temper_core.job.entries import Acknowledged, JobOpened, PhotoAdded, Voided
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.fact import Fact
from temper_core.job.flush.facts import RoundFilled, WasteKept
from temper_core.job.fold import fold
from temper_core.job.job_types import Stage
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.life.lesson import lesson_of
from temper_core.job.life.snapshot import snapshot_of
from temper_core.job.loop_state import LoopState
from temper_core.job.read.facts import Read
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import SignedOff

logger = logging.getLogger(__name__)
ASKED_WITHIN = timedelta(minutes=5)  # later, it was done without a network


def open_job(given: JobIn, *, actor: Person, opened_at: datetime | None = None) -> Job:
    """Open a job on loops of one machine; sending it twice opens it once. Raises Conflict when one is open already.

    opened_at: when the machine arrived, if not just now.
    """
    with transaction.atomic():
        existing = Job.objects.filter(pk=given.id).first()
        if existing:
            _check_same_job(existing, given, actor)
            return existing
        machine = get_object_or_404(Machine, pk=given.machine_id, depot=actor.own_depot)
        at = happened(opened_at or given.opened_at, clock.now())
        now_here = opened_at is None and _here(at)
        job = Job.objects.create(id=given.id, machine=machine, opened_by=actor, opened_at=at)
        for row in given.loops:
            loop = get_object_or_404(Loop.objects.select_related("machine__depot"), pk=row.loop_id, machine=machine)
            if loop.core.high_voltage and now_here:
                check_may_begin(actor, Work.HIGH_VOLTAGE)
            facts = JobOpened(row.job_type)
            check_entry(loop.core, cores_of(entries_of(loop)), facts, actor.own_depot.policy, actor.own_depot.now)
            JobLoop.objects.create(job=job, loop=loop)
            store(uuid.uuid5(job.id, str(loop.id)), loop, job, facts, at, actor)
            digested(loop, actor.own_depot)
    return job


def _here(at: datetime) -> bool:
    """Whether it happens now: what was done without a network is recorded, whatever is asked for before it."""
    return clock.now() - at < ASKED_WITHIN


def _check_same_job(existing: Job, given: JobIn, actor: Person) -> None:
    """What is sent again under one id is the same job; raises Conflict."""
    opened = Entry.objects.filter(job=existing, kind="job_opened").values_list("loop_id", "facts__job_type")
    same = set(opened) == {(row.loop_id, row.job_type.value) for row in given.loops}
    if not same or existing.machine_id != given.machine_id or existing.opened_by_id != actor.pk:
        raise Conflict("id", "Another job has this id already. Send a new one.", "id_taken")


def store(
    pk: uuid.UUID, loop: Loop, job: Job | None, facts: Fact, happened_at: datetime, actor: Person, sent: str = ""
) -> Entry:
    """Add one entry; what may be added was asked before."""
    kind = REGISTRY.of(facts).name
    return Entry.objects.create(
        id=pk,
        sent=sent,
        loop=loop,
        job=job,
        kind=kind,
        facts=stored_facts(facts),
        happened_at=happened_at,
        recorded_at=clock.now(),
        person=actor,
    )


def record_entries(loop: Loop, given: EntriesIn, *, actor: Person) -> None:
    """Add entries to a loop's ledger, all or none; sending them twice stores them once.

    Raises CoreError for facts that cannot be, Conflict when the ledger is closed or has moved on since it was seen.
    """
    with transaction.atomic():
        known = {entry.id: entry for entry in Entry.objects.filter(pk__in=[row.id for row in given.entries])}
        if len(known) < len(given.entries):
            check_seen(entries_of(loop).stored(), given.seen)
        for row in given.entries:
            if row.id not in known:
                (_record_between if given.between or _is_between(row) else _record)(loop, row, actor, given.apart)
            elif not _same(known[row.id], row, loop, actor):
                raise Conflict("id", "Another entry has this id already. Send a new one.", "id_taken")
        digested(loop, actor.own_depot)


def _hash(given: EntryBase) -> str:
    """Of what was sent under one id."""
    return hashlib.sha256(given.model_dump_json(exclude={"id"}).encode()).hexdigest()


def _same(stored: Entry, given: EntryBase, loop: Loop, actor: Person) -> bool:
    """Whether this is the stored entry, sent again: the same loop, kind, person and facts."""
    if (stored.loop_id, stored.kind, stored.person_id) != (loop.pk, given.kind, actor.pk):
        return False
    if stored.sent:  # a tablet that got no answer sends it again with its time
        return stored.sent in (_hash(given), _hash(given.model_copy(update={"happened_at": None})))
    with under("facts"):  # recorded before what was sent was kept
        return bool(stored.facts == stored_facts(facts_of(given, DatabaseRows(actor.own_depot))))


def digested(loop: Loop, depot: Depot) -> None:
    """Nothing is committed that the fold cannot digest; raises CoreError, and the transaction rolls back.

    A loop that could not be folded before may have entries taken back until it can.
    """
    rows = list(entries_of(loop))
    try:
        fold(loop.core, cores_of(rows), depot.policy, depot.now)
    except Exception as error:
        last = max(rows, key=lambda row: row.seq, default=None)
        if last is not None and last.kind == "voided":
            return
        logger.exception("loop %s cannot be folded with what was just sent", loop.pk)
        message = "This entry does not fit the record. Check its figures and times."
        raise CoreError("facts", message, "not_digested") from error


def _record(loop: Loop, given: EntryBase, actor: Person, apart: bool) -> None:
    rows, me, policy = entries_of(loop).stored(), person_out(actor), actor.own_depot.policy
    happened_at = happened(given.happened_at, clock.now())
    with under("facts"):
        facts = _facts(given, actor, _then(happened_at, actor))
        state = check_follows(loop.core, rows, facts, policy, _then(happened_at, actor), me, apart=apart)
        check_may(facts, rows, me)
    if isinstance(facts, RoundFilled) and facts.agent is not None and _here(happened_at) and not apart:
        check_may_begin(actor, Work.CLEANER)
    if isinstance(facts, Acknowledged):
        about = Entry.objects.select_related("job").get(pk=facts.entry_id)
        store(given.id, loop, about.job, facts, happened_at, actor, _hash(given))
        return
    part = JobLoop.objects.filter(loop=loop, signed_at__isnull=True).select_related("job").first()
    if isinstance(facts, SetAside):
        store(given.id, loop, part.job if part is not None else None, facts, happened_at, actor, _hash(given))
        return
    if part is None:  # it was open when this happened, and signed off meanwhile
        raise Conflict("job", "This job is signed off and cannot be changed. Start a new job.", "signed_off")
    check_time(facts, happened_at, state, part.job.opened_at)
    entry = store(given.id, loop, part.job, facts, happened_at, actor, _hash(given))
    _take(loop, facts)
    _follow_up(entry, facts, state, part, actor)


def _facts(given: EntryBase, actor: Person, then: datetime) -> Fact:
    """The facts of an entry, whoever they name being permitted to."""
    people = Person.objects.filter(depot=actor.own_depot)
    rows = DatabaseRows(actor.own_depot)
    return with_isolator(facts_of(given, rows), lambda pk: next(map(person_out, people.filter(pk=pk)), None), then)


def _then(happened_at: datetime, actor: Person) -> datetime:
    """When it happened, by the depot's clock."""
    return happened_at.astimezone(actor.own_depot.now.tzinfo)


def _is_between(given: EntryBase) -> bool:
    """It takes back what was recorded without a job."""
    return given.kind == "voided" and Entry.objects.filter(pk=given.facts.entry_id, job__isnull=True).exists()


def _record_between(loop: Loop, given: EntryBase, actor: Person, apart: bool) -> None:
    """Without a job: a level, a top-up, a reading, a correction to what was signed."""
    rows, me, policy = entries_of(loop).stored(), person_out(actor), actor.own_depot.policy
    happened_at = happened(given.happened_at, clock.now())
    with under("facts"):
        facts = _facts(given, actor, _then(happened_at, actor))
        state = check_follows(loop.core, rows, facts, policy, _then(happened_at, actor), me, between=True, apart=apart)
        check_may(facts, rows, me)
    check_time(facts, happened_at, state, None)
    entry = store(given.id, loop, None, facts, happened_at, actor, _hash(given))
    _take(loop, facts)
    if isinstance(facts, Read) and state is not None:
        store_reading(entry, facts, state, actor.own_depot.policy)
    if isinstance(facts, Voided):
        sync_readings(loop)


def _take(loop: Loop, facts: Fact) -> None:
    """What was poured comes off the shelf; undone, it goes back."""
    if isinstance(facts, Voided) or hasattr(facts, "taken"):
        sync_draws(loop)


def preview(loop: Loop, given: EntriesIn, *, actor: Person) -> LoopState:
    """The state as it would be with these entries; nothing is stored. Refuses what recording would refuse."""
    policy, now = actor.own_depot.policy, clock.now()
    core = cores_of(entries_of(loop))
    last = max((entry.seq for entry in core), default=0)
    for offset, row in enumerate(given.entries):
        with under("facts"):
            facts = _facts(row, actor, actor.own_depot.now)
            state = check_entry(loop.core, core, facts, policy, actor.own_depot.now, str(actor.pk), between=given.between)
        at = now + timedelta(microseconds=offset)
        job_id = None if given.between else state.job_id
        core.append(CoreEntry(str(row.id), job_id, at, at, actor.name, facts, str(actor.pk), last + offset + 1))
    return fold(loop.core, core, policy, actor.own_depot.now)


def _follow_up(entry: Entry, facts: Fact, state: LoopState | None, part: JobLoop, actor: Person) -> None:
    policy = actor.own_depot.policy
    if isinstance(facts, Read) and state is not None:
        store_reading(entry, facts, state, policy)
    if isinstance(facts, Voided):
        sync_readings(entry.loop)
        if Entry.objects.get(pk=facts.entry_id).kind == "job_opened":
            part.delete()
    if isinstance(facts, WasteKept | Voided):
        sync_recovered(entry.loop, lambda: state)
    if isinstance(facts, SignedOff):
        _sign(part, entry, policy, actor)
    stages = [stage.value for stage in REGISTRY.named(entry.kind).stages]
    Draft.objects.filter(person=actor, loop=entry.loop, stage__in=stages).delete()


def _sign(part: JobLoop, entry: Entry, policy: Policy, actor: Person) -> None:
    """Store the result as it was: later edits never alter a signed job."""
    loop = entry.loop
    part.signed_at, part.signed_by = entry.happened_at, actor
    writers = {row.person: row.person_id for row in entries_of(loop).stored()}
    part.result = {
        "schema": SCHEMA,
        "core_version": temper_core.__version__,
        "policy": {rule.key: policy[rule.key] for rule in SHIPPED},
        "loop": {"capacity_l": loop.capacity_l, "layout": LAYOUT.dump_python(loop.core.layout, mode="json")},
        "state": without_names(STATE.dump_python(state_of(loop, policy), mode="json"), writers),
    }
    t = walk(loop.core, cores_of(entries_of(loop)), policy)
    part.result["lesson"] = lesson_of(t)
    part.handed_on = SNAPSHOT.dump_python(snapshot_of(t), mode="json")
    part.save()


def keep_draft(loop: Loop, stage: str, given: DraftIn, *, actor: Person) -> Draft:
    """Keep what is typed on a stage; raises CoreError for an unknown stage.

    Raises Conflict when the ledger has moved on since: a draft still on its way must not outlive its own recording.
    """
    if stage not in {known.value for known in Stage}:
        allowed = ", ".join(known.value for known in Stage)
        raise CoreError("stage", f"No stage is called '{stage}': {allowed} are.", "unknown_stage")
    with transaction.atomic():
        check_seen(entries_of(loop).stored(), given.seen)
        draft, _ = Draft.objects.update_or_create(person=actor, loop=loop, stage=stage, defaults={"data": given.data})
    return draft


def add_photo(loop: Loop, pk: uuid.UUID, entry_id: uuid.UUID, data: bytes, *, actor: Person) -> Entry:
    """Keep a photo and say in the ledger which entry it belongs to; sent twice it is added once.

    Raises CoreError for what is no photo, Conflict for an entry that is not in this ledger.
    """
    picture, sent = reencoded(data), hashlib.sha256(data + entry_id.bytes).hexdigest()
    with transaction.atomic():
        existing = Entry.objects.filter(pk=pk).first()
        if existing:
            if (existing.loop_id, existing.kind, existing.person_id) != (loop.pk, "photo_added", actor.pk) or (
                existing.sent and existing.sent != sent
            ):
                raise Conflict("id", "Another entry has this id already. Send a new one.", "id_taken")
            return existing
        rows = list(entries_of(loop))
        facts = PhotoAdded(str(entry_id), keep(picture))
        check_entry(loop.core, cores_of(rows), facts, actor.own_depot.policy)
        about = next(row for row in rows if row.id == entry_id)
        entry = store(pk, loop, about.job, facts, clock.now(), actor, sent)
        Photo.objects.create(entry=entry, loop=loop, sha256=facts.sha256)
    return entry
