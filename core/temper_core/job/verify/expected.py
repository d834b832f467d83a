"""What the litres predict a reading to show, and how sure it is: from litres and earlier readings, never from belief."""

from __future__ import annotations

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.basis.uncertainty import Z95
from temper_core.job.loop_state import LoopState
from temper_core.job.read.facts import Place
from temper_core.job.verify.rules import Doubted
from temper_core.science import mass_fraction_at_freeze, mass_fraction_of
from temper_core.science.freezing import COLDEST_TARGET_C

BELIEVED = ("believed", "unknown", "empty", "glycol_free")  # claims that no reading and no litres stand behind


def expected_of(state: LoopState, place: Place, policy: Policy) -> Doubted | None:
    """Strength [% by mass] that a reading at this place should show; None where the ledger knows nothing.

    A rinse is judged by the flush itself, so nothing is expected of it here.
    """
    glycol = state.inside.base.glycol if state.inside.base is not None else None
    if glycol is None:
        return None
    if place is Place.FINISHED:
        likely = state.predicted_likely_c
        if state.predicted_freeze_c is None or likely is None:
            return None
        coldest = COLDEST_TARGET_C[glycol]
        low, mid, high = (
            100 * mass_fraction_at_freeze(glycol, min(0.0, max(c, coldest)))
            for c in (likely.high, state.predicted_freeze_c, likely.low)
        )
        return Doubted(mid, (high - low) / (2 * Z95))
    if place is not Place.AS_FOUND or state.claim.why in BELIEVED or state.inside.strength_percent is None:
        return None
    strength, sd = state.inside.strength_percent, policy["inside_sd_read"]
    at, below = (mass_fraction_of(glycol, VolumePercent(max(0.0, x))) for x in (strength, strength - sd))
    return Doubted(100 * at, 100 * max(at - below, 0.1 / 100))
