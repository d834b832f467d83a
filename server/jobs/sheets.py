"""Reads of a job's sheet and a machine's label."""

from __future__ import annotations

from dataclasses import replace
from uuid import UUID

import segno
from django.shortcuts import get_object_or_404

from fleet.models import Loop
from fleet.queries import owner_out
from jobs.back_schemas import LabelOut, SheetOut
from jobs.models import JobLoop
from jobs.queries import core_of, entries_of, folded, machine_out
from jobs.results import STATE, state_then
from people.shown import person_out
from temper_core.job.between.facts import Amended
from temper_core.job.between.state import AmendedState
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.entries import standing
from temper_core.job.inside.verdict import SAFE
from temper_core.job.loop_state import LoopState
from temper_core.views.label import label_missing
from temper_core.views.sheet import job_sheet


def sheet_of(loop: Loop, job_id: UUID | None, address: str) -> SheetOut:
    """The sheet of a job of this loop (the last one if none is named); a signed job as it was stored. 404: no such job."""
    depot = loop.machine.depot
    parts = JobLoop.objects.filter(loop=loop).select_related("signed_by", "job")
    part = get_object_or_404(parts, job_id=job_id) if job_id else parts.order_by("-job__opened_at").first()
    core = core_of(loop, entries_of(loop))
    state = folded(loop, core)
    entries = [entry for entry in standing(core) if part is not None and entry.job_id == str(part.job_id)]
    if part is not None and part.signed_at is not None:
        then: LoopState = STATE.validate_python(state_then(part.named))
        last = state.job_id == str(part.job_id)
        state = replace(then, after=state.after, due=state.due) if last else then
    return SheetOut(
        machine=machine_out(loop),
        owner=owner_out(loop.machine),
        loop_id=loop.id,
        loop_name=loop.name,
        depot=depot.name,
        job_id=part.job_id if part else None,
        opened_at=part.job.opened_at if part else None,
        signed_at=part.signed_at if part else None,
        signed_by=person_out(part.signed_by) if part and part.signed_by else None,
        by=list(dict.fromkeys(entry.person for entry in entries)),
        proven=state.proof is not None and state.proof.verdict in SAFE,
        sheet=job_sheet(state, entries),
        corrections=_corrections(core, part),
        address=address,
    )


def _corrections(core: list[CoreEntry], part: JobLoop | None) -> list[AmendedState]:
    """Corrections made after this job was signed and before the loop's next one was."""
    if part is None or part.signed_at is None:
        return []
    later = JobLoop.objects.filter(loop=part.loop, signed_at__gt=part.signed_at).order_by("signed_at").first()
    return [
        AmendedState(entry.id, entry.happened_at, entry.person, entry.facts.entry_id, entry.facts.text)
        for entry in standing(core)
        if isinstance(entry.facts, Amended)
        and entry.happened_at >= part.signed_at
        and (later is None or entry.happened_at < later.left_at)
    ]


def label_of(loop: Loop, address: str) -> LabelOut:
    """What the label on the machine says, from the same state as the sheet; or what is missing before there is one."""
    depot = loop.machine.depot
    state = folded(loop, core_of(loop, entries_of(loop)))
    missing = label_missing(state)
    product = state.plan.product if state.plan is not None and state.poured.product_l > 0 else None
    words = {line.name: line.said.sentence for part in job_sheet(state, []).parts for line in part.lines}
    measured = state.claim.why in ("read", "read_since")
    return LabelOut(
        machine=machine_out(loop),
        loop_name=loop.name,
        printable=not any(row.code == "holds" for row in missing),
        missing=missing,
        chemistry=words["Inside now"].partition(": ")[2] if product else words["Was"],
        product=product.name if product else "",
        strength_percent=state.inside.strength_percent,
        freeze_c=state.claim.freeze_c,
        safe_c=state.claim.safe_to_c,
        measured=measured,
        filled_on=state.signed_at.astimezone(depot.now.tzinfo).date() if state.signed_at else None,
        due_on=state.due.on if state.due else None,
        address=address,
        qr=qr_rows(address),
    )


def qr_rows(address: str) -> list[str]:
    """A QR code of an address, a row of 0 and 1 for each line of modules; error correction M: a smeared label reads."""
    code = segno.make(address, error="m", micro=False)
    return ["".join("1" if module else "0" for module in row) for row in code.matrix_iter(border=2)]
