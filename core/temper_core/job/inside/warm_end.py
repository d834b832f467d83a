"""The warm end of the freeze point of what is inside now: what a cold night is held against."""

from __future__ import annotations

from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.judgement import Judgement
from temper_core.job.read.facts import Place
from temper_core.science import COLDEST_TARGET_C, freeze_interval, mass_fraction_at_freeze, mass_fraction_of, strength_of

_WITH_ITS_DOUBT = ("read", "read_since", "diluted", "glycol_free")  # claims whose warm end is made with all of their doubt


def warm_end_c(t: LedgerFold, judged: Judgement) -> float | None:
    """Warm end [degC] of the 95 % interval of the freeze point of what freezes first; None where nothing is known of it.

    Predicted by litres: with the doubt of the litres, for the vessel that freezes first as for the whole. As found, reported
    or rinse water: with the doubt of its strength by the depot's rules.
    """
    claim = judged.claim
    if claim.freeze_c is None or claim.why in _WITH_ITS_DOUBT:
        return claim.safe_to_c
    w = mass_fraction_at_freeze(t.glycol, max(claim.freeze_c, COLDEST_TARGET_C[t.glycol]))
    return freeze_interval(t.glycol, w, _sd_w(t, judged, w), with_curve=True).high


def _sd_w(t: LedgerFold, judged: Judgement, w: MassFraction) -> float:
    """Standard deviation of the mass fraction w of what freezes first: of the litres, or of the strength found before.

    Of what was found only the share that is still inside counts; what a rinse leaves is never surer than a reading.
    """
    if judged.prediction is not None and t.job.pours:
        return judged.prediction.sd_mass_percent / 100
    sd = t.policy["inside_sd_read" if _was_read(t) else "inside_sd_unread"]
    if t.job.flush.rinsed:
        total = t.contents.total
        old = total.old_l / t.contents.total_l if t.contents.total_l > 0 else 0.0
        sd = max(sd * old, t.policy["inside_sd_read"])
    weaker = VolumePercent(max(0.0, strength_of(t.glycol, w) - sd))
    return w - mass_fraction_of(t.glycol, weaker)


def _was_read(t: LedgerFold) -> bool:
    """Whether the strength found was read with an instrument, in this job or before; what was reported is no reading."""
    found = [facts for _, facts in t.job.verify.readings if facts.place is Place.AS_FOUND]
    return t.strength_read and not (found and found[-1].instrument is None)
