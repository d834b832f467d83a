"""What a lead has to read and to answer, in one list; and what was answered lately."""

from __future__ import annotations

from datetime import datetime, timedelta
from enum import StrEnum

from config import clock
from config.shapes import Answer
from depots.models import Depot
from fleet.models import Loop
from fleet.queries import loops_of
from fleet.schemas import MachineOut
from jobs.board import overrides_of
from jobs.models import Entry, Rejudged
from jobs.queries import machine_out
from jobs.rejudging import rejudged_of
from temper_core.basis.message import Message, say

DONE_DAYS = 30
MOST_DONE = 50
AGAINST = say("against_advice", "Decided against the advice")


class AttentionKind(StrEnum):
    """Why a lead has to look: against the advice, a signed job judged worse by today's rules, a machine nobody checked."""

    NOT_CHECKED = "not_checked"
    AGAINST_ADVICE = "against_advice"
    NEW_VERDICT = "new_verdict"


class AttentionRow(Answer):
    """One matter. id: the entry's, or the number of the new verdict; act: what to do next, null where nothing is said.

    answer: what a lead said; answered_at null: it waits.
    """

    kind: AttentionKind
    id: str
    machine: MachineOut
    loop_id: int
    loop_name: str
    at: datetime
    by: str
    said: Message
    act: Message | None
    answer: str
    answered_at: datetime | None
    answered_by: str


class Attention(Answer):
    """What waits, newest first, and what was answered in the last month."""

    waiting: list[AttentionRow]
    done: list[AttentionRow]


def attention_of(depot: Depot) -> Attention:
    """Everything that waits for a lead, and what was answered lately."""
    waiting = [
        AttentionRow(
            kind=AttentionKind.NEW_VERDICT,
            id=str(row.id),
            machine=row.machine,
            loop_id=row.loop_id,
            loop_name=row.loop_name,
            at=row.signed_at,
            by="",
            said=row.said,
            act=row.act,
            answer="",
            answered_at=None,
            answered_by="",
        )
        for row in rejudged_of(depot)
    ]
    for one in overrides_of(depot):
        waiting.append(
            AttentionRow(
                kind=AttentionKind.AGAINST_ADVICE,
                id=one.override.entry_id,
                machine=one.machine,
                loop_id=one.loop_id,
                loop_name=one.loop_name,
                at=one.override.at,
                by=one.override.person,
                said=one.override.said or AGAINST,
                act=None,
                answer="",
                answered_at=None,
                answered_by="",
            )
        )
    waiting += [_not_checked(loop) for loop in unchecked_of(depot)]
    return Attention(waiting=sorted(waiting, key=lambda row: row.at, reverse=True), done=_done(depot))


def unchecked_of(depot: Depot) -> list[Loop]:
    """First loops of the machines that technicians took in and no lead has looked over."""
    loops = loops_of(depot).filter(machine__taken_in_at__isnull=False, machine__checked_at=None, position=1)
    return list(loops.select_related("machine__depot", "machine__taken_in_by"))


def _not_checked(loop: Loop) -> AttentionRow:
    machine = loop.machine
    return AttentionRow(
        kind=AttentionKind.NOT_CHECKED,
        id=str(machine.pk),
        machine=machine_out(loop),
        loop_id=loop.pk,
        loop_name=loop.name,
        at=machine.taken_in_at or machine.edited_at,
        by=machine.taken_in_by.name if machine.taken_in_by else "",
        said=say("taken_in", "Taken in, not checked: capacity {litres}", litres=loop.capacity_l),
        act=say("look_it_over", "Look over its loop, capacity and high voltage"),
        answer="",
        answered_at=None,
        answered_by="",
    )


def _done(depot: Depot) -> list[AttentionRow]:
    since = clock.now() - timedelta(days=DONE_DAYS)
    found = []
    seen = Entry.objects.filter(kind="acknowledged", loop__machine__depot=depot, recorded_at__gte=since)
    taken_back = set(
        Entry.objects.filter(kind="voided", loop__machine__depot=depot, recorded_at__gte=since).values_list(
            "facts__entry_id", flat=True
        )
    )
    for row in seen.select_related("loop__machine__depot", "person").order_by("-recorded_at")[:MOST_DONE]:
        if str(row.pk) in taken_back:
            continue
        found.append(
            AttentionRow(
                kind=AttentionKind.AGAINST_ADVICE,
                id=str(row.facts["entry_id"]),
                machine=machine_out(row.loop),
                loop_id=row.loop_id,
                loop_name=row.loop.name,
                at=row.happened_at,
                by="",
                said=AGAINST,
                act=None,
                answer=str(row.facts.get("answer", "")),
                answered_at=row.happened_at,
                answered_by=row.person.name,
            )
        )
    answered = Rejudged.objects.filter(part__loop__machine__depot=depot, answered_at__gte=since)
    for one in answered.select_related("part__loop__machine", "answered_by").order_by("-answered_at")[:MOST_DONE]:
        loop = one.part.loop
        found.append(
            AttentionRow(
                kind=AttentionKind.NEW_VERDICT,
                id=str(one.pk),
                machine=machine_out(loop),
                loop_id=loop.pk,
                loop_name=loop.name,
                at=one.part.left_at,
                by="",
                said=Message(**one.said),
                act=None,
                answer=one.answer,
                answered_at=one.answered_at,
                answered_by=one.answered_by.name if one.answered_by else "",
            )
        )
    return sorted(found, key=lambda row: row.answered_at or row.at, reverse=True)[:MOST_DONE]
