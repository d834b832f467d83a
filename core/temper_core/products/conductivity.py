"""May an electronics loop's fluid conduct so much? At 25 degC, under the maker's limit, or the policy's for its use."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.policy import Policy
from temper_core.products.chemistry import LoopUse

REFERENCE_C = 25.0
_RULE = {
    LoopUse.POWER_ELECTRONICS: "conductivity_power_us_cm",
    LoopUse.BATTERY: "conductivity_power_us_cm",
    LoopUse.FUEL_CELL: "conductivity_fuel_cell_us_cm",
}


@dataclass(frozen=True, slots=True)
class ConductivityLimit:
    """The most it may conduct [uS/cm at 25 degC], and whose figure that is."""

    us_cm: float
    origin: str


def limit_for(use: LoopUse | None, maker_us_cm: float | None, policy: Policy) -> ConductivityLimit | None:
    """The maker's limit first, else the policy's for this use; None where neither is known.

    >>> limit_for(LoopUse.FUEL_CELL, None, Policy()).us_cm
    5.0
    """
    if maker_us_cm is not None:
        return ConductivityLimit(maker_us_cm, "maker's limit")
    return ConductivityLimit(policy[_RULE[use]], "rule of this depot") if use is not None else None


def at_reference(us_cm: float, sample_c: float, compensated: bool, policy: Policy) -> float:
    """Conductivity at 25 degC [uS/cm]; linear in temperature where the meter does not convert it itself.

    >>> round(at_reference(90.0, 20.0, False, Policy()), 1)
    100.0
    """
    if compensated:
        return us_cm
    return us_cm / max(0.2, 1 + policy["conductivity_per_k_percent"] / 100 * (sample_c - REFERENCE_C))
