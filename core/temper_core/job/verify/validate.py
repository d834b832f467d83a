"""May the final check be recorded, and the job be signed off now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict
from temper_core.job.dose.validate import signed_off as check_dose_done
from temper_core.job.entry_kind import Attempt, Need
from temper_core.job.inside.verdict import VERDICT_NAMES
from temper_core.job.inspect.facts import Opens, opens
from temper_core.job.job_types import CLOSED_TYPES
from temper_core.job.verify.facts import FinishChecked, LeakMethod, SignedOff
from temper_core.products.chemistry import Base


def finish_opens(a: Attempt, facts: FinishChecked) -> Need | None:
    """A pressure tester, or a level under the cap, opens the loop."""
    tester = facts.leak is not None and facts.leak.method is LeakMethod.PRESSURE
    return Need.CAP if tester or opens(Opens.LEVEL, a.loop.equipment) else None


def finish_checked(a: Attempt, facts: FinishChecked) -> None:
    """Only of a full loop; raises Conflict."""
    if not a.state.poured.at_mark:
        raise Conflict("job", "Fill to the cold mark first.", "not_filled")


def signed_off(a: Attempt, facts: SignedOff) -> None:
    """By the verdict as it stands, service mode left; raises Conflict."""
    _check_service_mode(a, facts)
    state = a.state
    if state.job_type in CLOSED_TYPES:
        check_dose_done(state.dose, facts)
        if state.inspection.job_type_chosen is None:
            raise Conflict("job", "No job type is chosen. Choose first: it may stay, or another job type.", "not_decided")
        if facts.proof != "checked":
            raise Conflict("proof", "A check is signed off as checked. Reload the page.", "verdict_moved")
        return
    if state.inside.base is Base.NONE and state.proof is None:
        expected = "glycol_free"
    elif state.proof is None:
        raise Conflict("proof", "Not verified. Read the strength after a hot run, then sign off.", "not_proven")
    else:
        expected = state.proof.verdict.value
    if not state.poured.at_mark:
        raise Conflict("job", "Fill to the cold mark first.", "not_filled")
    if facts.proof != expected:
        now, then = (VERDICT_NAMES.get(code, code) for code in (expected, facts.proof))
        raise Conflict("proof", f"The verdict is now “{now}”, not “{then}”. Reload the page.", "verdict_moved")


def _check_service_mode(a: Attempt, facts: SignedOff) -> None:
    """What this job had made dead works again before it leaves; raises Conflict."""
    if a.loop.high_voltage and a.state.isolated and not facts.service_mode_ended:
        message = "High voltage was isolated for this job. End service mode, confirm it, then sign off."
        raise Conflict("service_mode_ended", message, "service_mode")
