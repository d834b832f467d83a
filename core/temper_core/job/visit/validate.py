"""May a job be opened, a picture added, an override be seen now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict
from temper_core.job.entries import Acknowledged, JobOpened, PhotoAdded, check_stands
from temper_core.job.entry_kind import Attempt


def job_opened(a: Attempt, facts: JobOpened) -> None:
    """One job at a time on a loop; raises Conflict."""
    if a.state.job_id and not a.state.signed_at:
        raise Conflict("job", "This loop has an open job already. Finish it first.", "job_open")


def photo_added(a: Attempt, facts: PhotoAdded) -> None:
    """Of an entry that stands; raises Conflict."""
    check_stands(a.entries, facts.entry_id)


def acknowledged(a: Attempt, facts: Acknowledged) -> None:
    """Of an override that waits; raises Conflict."""
    check_stands(a.entries, facts.entry_id)
    waiting = {row.entry_id for row in a.state.overrides if not row.acknowledged}
    if facts.entry_id not in waiting:
        raise Conflict("entry_id", "Nothing to confirm: a lead has seen it already. Reload the page.", "nothing_to_see")
