"""May this be recorded between services now, and does it open the loop?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.between.facts import Amended, LevelSeen, Spilled
from temper_core.job.entries import check_stands
from temper_core.job.entry_kind import Attempt, Need
from temper_core.job.inspect.facts import Opens, opens


def level_opens(a: Attempt, facts: LevelSeen) -> Need | None:
    """A level that is only seen under the cap opens the loop."""
    return Need.CAP if opens(Opens.LEVEL, a.loop.equipment) else None


def spilled(a: Attempt, facts: Spilled) -> None:
    """No more than is inside; raises CoreError."""
    if facts.spilled_l > a.loop.capacity_l:
        words = f"{facts.spilled_l:g} L is more than the loop holds ({a.loop.capacity_l:g} L). Check the figure."
        raise CoreError("spilled_l", words, "too_much")


def amended(a: Attempt, facts: Amended) -> None:
    """Only what was signed is corrected; raises Conflict."""
    if a.state.signed_at is None:
        raise Conflict(
            "job", "No job is signed off on this loop, so nothing can be corrected. Undo entries instead.", "not_signed"
        )
    if facts.entry_id:
        check_stands(a.entries, facts.entry_id)
