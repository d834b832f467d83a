"""May this have come out now?"""

from __future__ import annotations

from temper_core.job.drain.facts import Drained
from temper_core.job.drain.volume import check_out
from temper_core.job.entry_kind import Attempt
from temper_core.job.inside.questions import out_of


def drained(a: Attempt, facts: Drained) -> None:
    """No more comes out than is inside; raises CoreError for litres [l] that cannot be."""
    check_out(out_of(a.fold, facts), a.loop.capacity_l, a.fold.contents)
