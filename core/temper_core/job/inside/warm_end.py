"""The warm end of the freeze point of what is inside now: what a cold night is held against."""

from __future__ import annotations

from temper_core.basis.quantity import VolumePercent
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.judgement import Judgement, likely_of
from temper_core.science import COLDEST_TARGET_C, freeze_interval, mass_fraction_at_freeze, mass_fraction_of, strength_of

_WITH_ITS_DOUBT = ("read", "read_since", "diluted", "glycol_free")  # claims whose warm end is made with all of their doubt


def warm_end_c(t: LedgerFold, judged: Judgement) -> float | None:
    """Warm end [degC] of the 95 % interval of the freeze point of what freezes first; None where nothing is known of it.

    Predicted by litres: with the doubt of the litres. As found, reported or rinse water: with the doubt of its strength by
    the depot's rules.
    """
    claim = judged.claim
    if claim.freeze_c is None or claim.why in _WITH_ITS_DOUBT:
        return claim.safe_to_c
    likely = likely_of(t, judged.prediction, with_curve=True)
    if likely is not None and t.job.pours:
        return max(likely.high, claim.freeze_c)
    sd = t.policy["inside_sd_read" if t.strength_read else "inside_sd_unread"]
    if t.job.flush.rinsed:  # mostly water: however little was known before, little of it is left
        sd = min(sd, t.policy["inside_sd_read"])
    w = mass_fraction_at_freeze(t.glycol, max(claim.freeze_c, COLDEST_TARGET_C[t.glycol]))
    weaker = VolumePercent(max(0.0, strength_of(t.glycol, w) - sd))
    return freeze_interval(t.glycol, w, w - mass_fraction_of(t.glycol, weaker), with_curve=True).high
