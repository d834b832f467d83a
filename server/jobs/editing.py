"""An entry of the open job is edited or undone, wherever it stands in the record: shown first, then kept."""

from __future__ import annotations

import hashlib
import json
import uuid
from collections.abc import Sequence
from typing import Any

from django.db import transaction
from shelf.actions import sync_draws
from shelf.recovered import sync_recovered

from config import clock
from fleet.models import Loop
from jobs.actions import digested, store
from jobs.edit_schemas import CannotFollowOut, EditFormOut, EditIn, EditShown, FieldValue
from jobs.models import Entry, cores_of
from jobs.queries import entries_of, state_of
from jobs.readings import sync_readings
from jobs.rules import check_seen, check_yours
from jobs.stored import FACTS
from people.models import Person
from people.shown import person_out
from temper_core.basis.errors import Conflict, CoreError, under
from temper_core.job.editing.follows import what_follows
from temper_core.job.editing.form import EditField, FieldKind, edit_form
from temper_core.job.editing.outcome import EditOutcome, check_editable, edit_of
from temper_core.job.entries import Edited, Voided
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.fact import Fact
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop import Loop as CoreLoop

NOTHING = "Nothing is changed. Change a value, or undo the entry."


def form_of(loop: Loop, entry_id: uuid.UUID, actor: Person) -> EditFormOut:
    """An entry as it counts now, as a form; raises Conflict where it cannot be edited any more."""
    target, facts = _target(list(entries_of(loop)), loop, entry_id, actor)
    return EditFormOut(said=REGISTRY.sentence(facts), fields=list(edit_form(facts, loop.core)))


def shown(loop: Loop, entry_id: uuid.UUID, given: EditIn, *, actor: Person) -> EditShown:
    """What an edit would change; nothing is stored. Refuses what keeping it would refuse."""
    outcome, facts = _outcome(loop, list(entries_of(loop)), entry_id, given, actor)
    return EditShown(
        said=REGISTRY.sentence(facts) if facts else None,
        follows=list(what_follows(outcome.before, outcome.after)),
        cannot_follow=[
            CannotFollowOut(entry_id=uuid.UUID(row.entry_id), said=row.said, why=row.why) for row in outcome.cannot_follow
        ],
    )


def keep_edit(loop: Loop, entry_id: uuid.UUID, given: EditIn, *, actor: Person) -> uuid.UUID:
    """Keep an edit: the old entry stays in the record, struck; sent twice it is kept once.

    Gives the id of the entry that can be undone to take the edit back. Raises Conflict while somebody has not said of each
    entry that can no longer follow whether it stays.
    """
    mark = uuid.uuid5(given.id, "edit")
    with transaction.atomic():
        if Entry.objects.filter(pk__in=[mark, given.id]).exists():
            _check_same(mark if Entry.objects.filter(pk=mark).exists() else given.id, loop, actor, given)
            return mark
        rows = list(entries_of(loop))
        check_seen([row.stored for row in rows], given.seen)
        outcome, facts = _outcome(loop, rows, entry_id, given, actor)
        _check_answered(outcome, given)
        target = next(row for row in rows if row.id == entry_id)
        sent, now = _hash(given), clock.now()
        gone = list(given.undone)
        if facts is None:
            gone.insert(0, entry_id)
        else:
            store(given.id, loop, target.job, facts, now, actor, sent)
            store(mark, loop, target.job, Edited(str(entry_id), str(given.id)), now, actor, sent)
        for n, undone in enumerate(gone):
            pk = given.id if facts is None and n == 0 else uuid.uuid5(given.id, str(undone))
            store(pk, loop, target.job, Voided(str(undone), "edit"), now, actor, sent)
        sync_readings(loop)
        sync_draws(loop)
        sync_recovered(loop, lambda: state_of(loop, actor.own_depot.policy))
        digested(loop, actor.own_depot)
    return mark if facts is not None else given.id


def _target(rows: Sequence[Entry], loop: Loop, entry_id: uuid.UUID, actor: Person) -> tuple[CoreEntry, Fact]:
    target = check_editable(cores_of(rows), str(entry_id), actor.own_depot.now)
    return target, target.facts


def _outcome(
    loop: Loop, rows: list[Entry], entry_id: uuid.UUID, given: EditIn, actor: Person
) -> tuple[EditOutcome, Fact | None]:
    target, facts = _target(rows, loop, entry_id, actor)
    check_yours([row.stored for row in rows], str(entry_id), person_out(actor), "edit")
    for gone in given.undone:
        _check_goes_with_it(rows, target, gone, actor)
    changed = None if given.undo else _changed(facts, given, loop)
    with under("facts"):
        outcome = edit_of(
            loop.core,
            cores_of(rows),
            str(entry_id),
            changed,
            actor.own_depot.policy,
            actor.own_depot.now,
            [str(one) for one in given.undone],
            str(actor.pk),
        )
    return outcome, changed


def _check_goes_with_it(rows: Sequence[Entry], target: CoreEntry, gone: uuid.UUID, actor: Person) -> None:
    """What is undone with an edit came after it, is open to edits itself, and one's own; raises Conflict."""
    other = check_editable(cores_of(rows), str(gone), actor.own_depot.now)
    check_yours([row.stored for row in rows], str(gone), person_out(actor), "undo")
    if other.seq <= target.seq or other.job_id != target.job_id:
        raise Conflict(
            "undone", "Only what came after the entry can be undone with it. Undo the other one alone.", "earlier"
        )


def _changed(facts: Fact, given: EditIn, loop: Loop) -> Fact:
    """The facts with the values that were typed; raises CoreError for a field that is not on the form, or that cannot be."""
    return changed_facts(facts, given.changes, loop.core)


def changed_facts(facts: Fact, changes: Sequence[FieldValue], loop: CoreLoop) -> Fact:
    """The facts with other values; raises CoreError for a field that is not on their form, or a value that cannot be."""
    kind = REGISTRY.of(facts).name
    data = FACTS[kind].dump_python(facts, mode="json")
    put_changes(data, edit_form(facts, loop), changes)
    if data == FACTS[kind].dump_python(facts, mode="json"):
        raise CoreError("changes", NOTHING, "nothing_changed")
    made: Fact = FACTS[kind].validate_json(json.dumps(data))  # refused in the API's own shape
    return made


def put_changes(data: Any, form: Sequence[EditField], changes: Sequence[FieldValue]) -> None:
    """Put what was typed where each field's path leads; raises CoreError for a field that is not on the form."""
    if not changes:
        raise CoreError("changes", NOTHING, "nothing_changed")
    fields = {field.path: field for field in form}
    for change in changes:
        field = fields.get(change.path)
        if field is None:
            raise CoreError(change.path, "That field cannot be edited. Undo the entry instead.", "not_on_the_form")
        _put(data, change.path.split("."), _value(field, change.value))


_NUMBERS = frozenset(FieldKind) - {FieldKind.TEXT, FieldKind.FLAG, FieldKind.CHOICE, FieldKind.CHOICES, FieldKind.DATE}


def _value(field: EditField, value: Any) -> Any:
    if value in (None, "") and not field.optional:
        raise CoreError(field.path, f"{field.name} is empty. Enter a value.", "empty")
    number = isinstance(value, int | float) and not isinstance(value, bool)
    if field.kind in _NUMBERS and value is not None and not number:
        raise CoreError(field.path, f"{field.name} must be a number. Type the number alone.", "not_a_number")
    if isinstance(value, str) and len(value) > 500:
        raise CoreError(field.path, f"{field.name} is too long. At most 500 characters are allowed.", "too_long")
    return value


def _put(data: Any, path: list[str], value: Any) -> None:
    """Set a value where its path leads; the path is one of the form's own."""
    *way, last = path
    for part in way:
        data = data[int(part)] if isinstance(data, list) else data[part]
    if isinstance(data, list):
        data[int(last)] = value
    else:
        data[last] = value


def _check_answered(outcome: EditOutcome, given: EditIn) -> None:
    kept = {str(one) for one in given.kept}
    open_ = [row for row in outcome.cannot_follow if row.entry_id not in kept]
    if open_:
        message = f"“{open_[0].said.sentence}” can no longer follow. Say whether it stays or is undone."
        raise Conflict("cannot_follow", message, "cannot_follow")


def _hash(given: EditIn) -> str:
    return hashlib.sha256(given.model_dump_json(exclude={"seen"}).encode()).hexdigest()


def _check_same(pk: uuid.UUID, loop: Loop, actor: Person, given: EditIn) -> None:
    stored = Entry.objects.get(pk=pk)
    if (stored.loop_id, stored.person_id, stored.sent) != (loop.pk, actor.pk, _hash(given)):
        raise Conflict("id", "Another entry has this id already. Send a new one.", "id_taken")
