"""What a dose does to the state of a loop."""

from __future__ import annotations

from temper_core.job.dose import account
from temper_core.job.dose.facts import Dosed
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.products.additive import strengths


def dosed(t: LedgerFold, facts: Dosed, entry: Entry) -> None:
    """It is in, and not mixed yet: the account rises, a strip says nothing before it ran."""
    account.dosed(t, facts)
    t.job.dosing.poured.append((entry.id, facts))
    t.job.dosing.circulated, t.job.dosing.unread = False, set(strengths(facts.agent))
