"""What was signed before, judged by today's rules: the signed record stays, what is worse now goes to a lead."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict
from datetime import date

from django.db import transaction
from django.shortcuts import get_object_or_404
from pydantic import TypeAdapter

from config import clock
from depots.models import Depot
from fleet.models import Loop
from jobs.models import JobLoop, Rejudged, cores_of
from jobs.queries import entries_of, guarded, machine_out
from jobs.results import state_then
from jobs.schemas import RejudgedOut
from jobs.stored import SNAPSHOT
from jobs.then import loop_then, until_signed
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import Message
from temper_core.job.between.again import Signed, Worse, judge_again
from temper_core.job.fold import fold
from temper_core.job.ledger import walk
from temper_core.job.life.snapshot import snapshot_of
from temper_core.job.verify.facts import SignedOff

MESSAGE = TypeAdapter(Message)


def rejudge(depot: Depot) -> int:
    """Judge the last signed job of every loop again; how many are worse and wait for a lead.

    What a job hands on to the next is brought up to date with it. Run again, nothing is listed twice.
    """
    rows = JobLoop.objects.filter(loop__machine__depot=depot, signed_at__isnull=False).select_related("loop__machine__depot")
    last: dict[int, JobLoop] = {row.loop_id: row for row in rows.order_by("signed_at")}
    for part in last.values():
        guarded(part.loop, lambda part=part: _judge(part, depot))  # type: ignore[misc]
    return Rejudged.objects.filter(part__loop__machine__depot=depot, answered_at__isnull=True).count()


def _judge(part: JobLoop, depot: Depot) -> None:
    core, entries = loop_then(part), until_signed(cores_of(entries_of(part.loop)), part)
    at = part.left_at.astimezone(depot.now.tzinfo)
    state = fold(core, entries, depot.policy, at)
    stored = state_then(part.named)
    due = (stored.get("due") or {}).get("on")
    signed = next((entry.facts for entry in reversed(entries) if isinstance(entry.facts, SignedOff)), None)
    before = Signed(signed.proof if signed else "", date.fromisoformat(due) if due else None)
    with transaction.atomic():
        for worse in judge_again(before, state):
            _list(part, worse)
        part.handed_on = SNAPSHOT.dump_python(snapshot_of(walk(core, entries, depot.policy)), mode="json")
        part.save(update_fields=["handed_on"])


def _list(part: JobLoop, worse: Worse) -> None:
    said, act = ({**asdict(row), "values": dict(row.values)} for row in (worse.said, worse.act))
    Rejudged.objects.get_or_create(part=part, code=worse.code, defaults={"said": said, "act": act})


def rejudged_of(depot: Depot) -> list[RejudgedOut]:
    """What waits for a lead, newest sign-off first; one query."""
    return list(_outs(depot))


def _outs(depot: Depot) -> Iterator[RejudgedOut]:
    rows = Rejudged.objects.filter(part__loop__machine__depot=depot, answered_at__isnull=True)
    for row in rows.select_related("part__loop__machine").order_by("-part__signed_at", "code"):
        loop: Loop = row.part.loop
        yield RejudgedOut(
            id=row.pk,
            machine=machine_out(loop),
            loop_id=loop.pk,
            loop_name=loop.name,
            signed_at=row.part.left_at,
            code=row.code,
            said=MESSAGE.validate_python(row.said),
            act=MESSAGE.validate_python(row.act),
        )


def answer_rejudged(depot: Depot, pk: int, answer: str, *, actor: Person) -> None:
    """A lead says what is done about it. Raises CoreError without an answer, Conflict where one was given already."""
    if not answer.strip():
        raise CoreError("answer", "The answer is empty. Say what was done about it.", "required")
    with transaction.atomic():
        row = get_object_or_404(Rejudged.objects.select_for_update(), pk=pk, part__loop__machine__depot=depot)
        if row.answered_at is not None:
            raise Conflict("answer", "A lead answered this already. Reload the board.", "answered")
        row.answer, row.answered_at, row.answered_by = answer.strip(), clock.now(), actor
        row.save()
