"""From the coldest expected temperature to the target of a mix."""

from __future__ import annotations

import math

from temper_core.basis.errors import check_between
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.science import COLDEST_TARGET_C, Glycol, freeze_point, mass_fraction_of


def suggested_target_c(glycol: Glycol, coldest_c: float, policy: Policy, margin_k: float | None = None) -> float:
    """Target [degC], whole degrees: the coldest expected temperature less the margin.

    Never weaker than the corrosion minimum, never past the coldest that is tabulated; target_note says so where either
    decided. Raises OutOfRange for a temperature no machine stands in.
    >>> suggested_target_c(Glycol.ETHYLENE, -38.0, Policy()), suggested_target_c(Glycol.ETHYLENE, 5.0, Policy())
    (-43, -25)
    """
    check_between("coldest_c", coldest_c, -60, 40, "°C", "The coldest temperature where the machine is parked.")
    climate = coldest_c - (policy["margin_k"] if margin_k is None else margin_k)
    minimum = mass_fraction_of(glycol, VolumePercent(policy["corrosion_minimum_percent"]))
    corrosion = freeze_point(glycol, minimum).at_most_c
    return max(COLDEST_TARGET_C[glycol], math.floor(min(climate, corrosion) + 1e-9))


def target_note(glycol: Glycol, coldest_c: float, policy: Policy) -> Message | None:
    """What moved the suggested target away from climate and margin; None where nothing did."""
    climate, target = coldest_c - policy["margin_k"], suggested_target_c(glycol, coldest_c, policy)
    if target > climate + 1e-9:
        words = (
            "Coldest {coldest_c:0} less the margin would be {climate_c:0}, colder than tabulated: "
            "{target_c:0} is the coldest possible, {left_k} of margin."
        )
        left = coldest_c - target
        return say("past_the_tables", words, coldest_c=coldest_c, climate_c=climate, target_c=target, left_k=left)
    if target < math.floor(climate):
        words = (
            "{target_c:0} is colder than the climate needs ({climate_c:0}): it is the corrosion minimum, "
            "{minimum_percent:0}."
        )
        minimum = policy["corrosion_minimum_percent"]
        return say("corrosion_minimum", words, target_c=target, climate_c=climate, minimum_percent=minimum)
    return None
