"""What is inside a loop in work, in two short lines: what it is, and what that means tonight."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.flush.view import cleaner_of
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.claim import CLAIM_NAMES
from temper_core.job.loop_state import Claim


def inside_words(t: LedgerFold, claim: Claim, frost_risk: bool) -> tuple[Message, Message]:
    """The two lines; the second says to keep it indoors while it is opened up and freezes before the coldest expected."""
    keep_in = say("keep_in", "keep indoors")
    freezes = keep_in if claim.freeze_c is None else say("freezes", "freezes at {freeze_c}", freeze_c=claim.freeze_c)
    cleaner, planned = cleaner_of(t), t.job.mix.planned
    if cleaner is not None and cleaner.running:
        return say("cleaner", "Cleaner inside"), freezes
    if t.job.flush.in_work is not None:
        return say("rinse_water", "Rinse water"), keep_in if frost_risk else freezes
    if claim.why == "mixed_bases":
        return say("mixed", "Mixed bases"), say("unknown", "protection unknown")
    if t.job.pours and not t.job.pours[-1].at_mark:
        return say("filling", "Filling"), keep_in if frost_risk else freezes
    if t.job.drained is not None and not t.job.pours:
        return say("drained", "Drained"), keep_in if frost_risk else freezes
    if claim.freeze_c is None:
        return say("unknown", "Unknown"), say("never_read", "not read yet")
    head = say("point", "{freeze_c:0}", freeze_c=claim.freeze_c)
    if planned is not None and planned.target_freeze_c is not None and t.job.pours:
        return head, say("target", "target {target_c:0}", target_c=planned.target_freeze_c)
    how = CLAIM_NAMES.get(claim.why, "")
    return head, keep_in if frost_risk else say("how", how if how else "as found")
