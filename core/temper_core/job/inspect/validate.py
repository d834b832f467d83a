"""What a sample or a check opens, and may the job be decided so now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict
from temper_core.job.entry_kind import Attempt, Need
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.inspect.facts import CHECK_ROWS, SPOT_OPENS, Sampled, Tested, opens
from temper_core.job.job_types import CLOSED_TYPES, JOB_TYPE_NAMES, JobType


def sample_opens(a: Attempt, facts: Sampled) -> Need | None:
    """Whether a sample from this place opens the loop."""
    return Need.CAP if opens(SPOT_OPENS[facts.spot], a.loop.equipment) else None


def check_opens(a: Attempt, facts: Tested) -> Need | None:
    """Whether this check opens the loop."""
    return Need.CAP if opens(CHECK_ROWS[facts.check].opens, a.loop.equipment) else None


def job_type_chosen(a: Attempt, facts: JobTypeChosen) -> None:
    """By the advice as it stands, and before anything went in; raises Conflict."""
    state = a.state
    if state.advice is not None and facts.advised is not state.advice.job_type:
        advised = JOB_TYPE_NAMES[state.advice.job_type]
        raise Conflict("advised", f"The advice is now “{advised}”. Reload, then choose.", "advice_moved")
    if state.poured.product_l + state.poured.water_l > 0:
        raise Conflict("job_type", "Coolant is poured already. Undo the pours first, or finish this job.", "poured")
    if state.drained_l is not None and facts.job_type in (*CLOSED_TYPES, JobType.TOP_UP):
        raise Conflict("job_type", "The loop is drained already and this job has no drain. Undo the drain first.", "drained")
