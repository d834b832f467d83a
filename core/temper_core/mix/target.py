"""From the coldest expected temperature to the target of a mix."""

from __future__ import annotations

import math

from temper_core.errors import check_between
from temper_core.glycol import COLDEST_TARGET_C, Glycol, freeze_point, mass_fraction_of
from temper_core.policy import Policy
from temper_core.quantity import VolumePercent


def suggested_target_c(glycol: Glycol, coldest_c: float, policy: Policy, margin_k: float | None = None) -> float:
    """Target [degC], whole degrees: the coldest expected temperature less the margin.

    Never weaker than the corrosion minimum, never past the coldest that is tabulated (there a warning is due, see
    out_of_tables). Raises OutOfRange for a temperature no machine stands in.
    >>> suggested_target_c(Glycol.ETHYLENE, -38.0, Policy()), suggested_target_c(Glycol.ETHYLENE, 5.0, Policy())
    (-43, -25)
    """
    check_between("coldest_c", coldest_c, -60, 40, "°C", "The coldest temperature the machine will stand in.")
    climate = coldest_c - (policy["margin_k"] if margin_k is None else margin_k)
    minimum = mass_fraction_of(glycol, VolumePercent(policy["corrosion_minimum_percent"]))
    corrosion = freeze_point(glycol, minimum).at_most_c
    return max(COLDEST_TARGET_C[glycol], math.floor(min(climate, corrosion) + 1e-9))


def out_of_tables(glycol: Glycol, coldest_c: float, margin_k: float) -> bool:
    """Whether climate and margin ask for more than any handbook tabulates."""
    return coldest_c - margin_k < COLDEST_TARGET_C[glycol]
