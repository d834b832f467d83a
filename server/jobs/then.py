"""A loop and its record as they stood when a job was signed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from fleet.models import LAYOUT
from jobs.models import JobLoop
from jobs.results import STATE, retells, state_then
from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry as CoreEntry
from temper_core.job.entries import standing
from temper_core.job.fold import fold
from temper_core.job.inside.verdict import verdict_templates
from temper_core.job.loop import Loop as CoreLoop
from temper_core.job.loop_state import LoopState
from temper_core.job.verify.facts import SignedOff
from temper_core.views.retold import messages_in, retold


def loop_then(part: JobLoop) -> CoreLoop:
    """The loop with the capacity and layout that it was signed with."""
    kept, loop = part.stored["loop"], part.loop.core
    layout = LAYOUT.validate_python(kept["layout"])
    return replace(loop, capacity_l=kept["capacity_l"], layout=layout)


def until_signed(core: Sequence[CoreEntry], part: JobLoop) -> list[CoreEntry]:
    """The record as it stood when this job was signed. core: the whole record."""
    signs = [e for e in standing(core) if isinstance(e.facts, SignedOff) and e.job_id == str(part.job_id)]
    return [entry for entry in core if not signs or entry.order <= signs[-1].order]


def state_told(part: JobLoop, core: Sequence[CoreEntry], policy: Policy) -> LoopState:
    """The state that was stored, in today's words: codes and figures as signed, sentences made when read."""
    stored = state_then(part.named)
    if retells(part.stored):
        now = fold(loop_then(part), until_signed(core, part), policy, part.left_at)
        verdicts = {code: Message(code, "", template, {}) for code, template in verdict_templates().items()}
        stored = retold(stored, {said.code: said for said in messages_in(now)} | verdicts)
    return STATE.validate_python(stored)
