"""What a drain does to the state of its loop."""

from __future__ import annotations

import math
from dataclasses import replace

from temper_core.basis.message import say
from temper_core.job.doubt.record import came_out, note_drained
from temper_core.job.drain.facts import Drained
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.effects import note_opened, opened_up
from temper_core.job.inside.questions import out_of
from temper_core.job.inside.rounds import drain, numbered
from temper_core.job.life.lesson import note_out


def drained(t: LedgerFold, facts: Drained, entry: Entry) -> None:
    """Litres [l] leave their vessels; the mix is to be planned again."""
    job = t.job
    held, alone = t.contents.total_l, out_of(t, facts)
    out = alone
    if job.drained is not None and job.flush.in_work is None and not job.pours:  # more of the same drain: its doubt adds up
        out = replace(out, sd_l=math.hypot(job.drained.sd_l, out.sd_l))
    if out.litres > held + 0.05:
        job.flags.append(
            say(
                "more_than_inside",
                "{out_l} is more than the {held_l} inside. Undo the entry.",
                out_l=out.litres,
                held_l=held,
            )
        )
    before = t.contents
    t.contents = before.drain(out.litres, out.by_vessel)
    came_out(t, before, t.contents, alone, entry.id)
    drain(
        job.flush,
        before,
        t.contents,
        alone,
        numbered(job.flush, entry, None),
        bool(job.pours),
    )
    note_out(t, alone, held)
    if job.flush.rounds:
        note_drained(t, job.flush.rounds[-1].number)
    if facts.ran_with_cap_on:
        job.flags.append(
            say("ran_with_cap_on", "Drained freely with the cap on: air gets in somewhere. Pressure test first.")
        )
    note_opened(job.fill, facts, t.loop.layout)
    opened_up(t, out)
