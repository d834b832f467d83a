"""May this product, and this mix, be planned now?"""

from __future__ import annotations

from temper_core.basis.errors import CoreError, called
from temper_core.basis.policy import Policy
from temper_core.job.entry_kind import Attempt
from temper_core.job.job_types import JobType
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.mix.facts import Planned
from temper_core.products.chemistry import Base, Form
from temper_core.products.compatibility import Verdict, judge_product
from temper_core.science import mass_fraction_at_freeze


def planned(a: Attempt, facts: Planned) -> None:
    """A product that fits, and a target [degC] that its table holds; raises CoreError."""
    _check_product(a.loop, a.state, facts, a.policy)
    glycol = facts.product.base.glycol
    if facts.target_freeze_c is None:
        return
    if glycol is None:
        raise CoreError("target_freeze_c", "Without glycol there is no freeze target. Leave it empty.", "no_glycol")
    with called("target_freeze_c"):
        mass_fraction_at_freeze(glycol, facts.target_freeze_c)


def _check_product(loop: Loop, state: LoopState, facts: Planned, policy: Policy) -> None:
    """What does not fit is not planned; what is for emergencies says why; water only where somebody chose it."""
    judged = judge_product(facts.product, loop.need, state.found, policy, topping_up=state.job_type is JobType.TOP_UP)
    why = judged.reasons[0].sentence
    if judged.verdict is Verdict.NO:
        raise CoreError(
            "product_id", f"{facts.product.name} is not suitable for this loop. {why} Choose another.", "does_not_fit"
        )
    if judged.verdict is Verdict.EMERGENCY_ONLY and not facts.reason.strip():
        message = f"{facts.product.name} is for emergencies only. {why} Say why you use it; a lead will read it."
        raise CoreError("reason", message, "required")
    if not facts.water_l:
        return
    if loop.need.low_conductivity:
        message = "A low-conductivity loop takes ready-mix only, no water. Plan the product alone."
        raise CoreError("water_l", message, "no_water")
    if facts.product.form is Form.READY_MIX and facts.product.base is not Base.NONE and not facts.dilute:
        message = "Ready-mix is poured undiluted. Plan no water, or choose to dilute it."
        raise CoreError("water_l", message, "not_diluted")
