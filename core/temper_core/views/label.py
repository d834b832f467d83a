"""The label on the machine is of a loop as it left; before that it says what is missing."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.inside.verdict import SAFE
from temper_core.job.loop_state import LoopState


def label_missing(state: LoopState) -> list[Message]:
    """What is not done yet; empty for a loop that was signed off, or never had a job.

    A loop that holds rinse water or cleaner, or stands drained, gets no label at all: its code is "holds".
    """
    in_work = state.job_id is not None and state.signed_at is None
    if not in_work:
        return []
    flush, poured = state.flush, state.poured.product_l + state.poured.water_l
    if flush is not None and (flush.cleaner is not None or poured <= 0):
        what = "cleaner" if flush.cleaner is not None else "rinse water, or is drained"
        return [say("holds", "The loop holds {what}: no label, only the warning tag.", what=what)]
    missing = []
    if not state.poured.at_mark:
        missing.append(say("not_filled", "Not filled to the cold mark."))
    if state.proof is None:
        missing.append(say("not_read", "Strength not read after a hot run."))
    elif state.proof.verdict not in SAFE:
        missing.append(say("not_verified", "{why}", why=state.proof.said.sentence))
    if state.finish is not None and state.finish.missing:
        missing.append(say("not_finished", "Final check: {what}.", what="; ".join(state.finish.missing)))
    return missing
