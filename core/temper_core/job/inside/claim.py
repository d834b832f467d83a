"""How far the filling protects, by what was read or calculated."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.basis.uncertainty import Z95
from temper_core.instruments import Repeats
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.questions import coldest_of
from temper_core.job.inside.verdict import Together, safe_to
from temper_core.job.job_types import JobType
from temper_core.job.loop_state import Claim
from temper_core.products.chemistry import Base
from temper_core.science import density_20c, freeze_interval, freeze_point, mass_fraction_of

CLAIM_NAMES = {
    "read": "read",
    "read_since": "read",
    "as_found": "as found",
    "believed": "reported",
    "by_litres": "predicted",
    "rinse_water": "predicted",
    "weakest_vessel": "predicted",
    "diluted": "predicted",
    "glycol_free": "no glycol",
}


def claim_of(t: LedgerFold, together: Repeats | None, both: Together | None = None) -> Claim:
    """How far the loop protects now [degC], and by what: read, from the litres, as found, believed."""
    if t.bases_mixed:
        words = "Mixed bases: no scale fits, protection unknown."
        return Claim("mixed_bases", None, None, None, say("mixed_bases", words))
    if t.base is Base.NONE:
        return Claim("glycol_free", 0.0, 0.0, None, say("glycol_free", "No glycol: freezes at 0 °C, keep indoors."))
    if t.job.signed_at is not None and (t.since.diluted or t.since.read_at is not None):
        return _claim_since(t)
    if together and together.freeze_c is not None and t.job.circulated:
        w, sd = together.glycol_mass_percent, together.sd_mass_percent
        if both is not None and abs(both.glycol_mass_percent - w) <= Z95 * sd:
            w, sd = both.glycol_mass_percent, both.sd_mass_percent
        warm = max(safe_to(t.glycol, w, sd), together.freeze_c)  # never colder than it reads
        said = say("read", "Read: freezes at {freeze_c}, protects to {safe_c:0}.", freeze_c=together.freeze_c, safe_c=warm)
        return Claim("read", together.freeze_c, warm, None, said)
    if not t.strength_known and not t.job.pours and not t.job.flush.rinsed:
        return Claim("unknown", None, None, None, say("unknown", "Not read yet: protection unknown."))
    weakest = t.contents.weakest()
    if weakest is None:
        return Claim("empty", None, None, None, say("empty", "Empty."))
    vessel, freeze_c = weakest
    name = next(node.name for node in t.loop.layout.nodes if node.id == vessel)
    if t.job.circulated:
        if t.job.pours:
            why, words = "by_litres", "Run hot; predicted to freeze at {freeze_c}, not read yet."
        elif t.job.flush.rinsed:
            why, words = "rinse_water", "Freezes at {freeze_c}."
        elif t.strength_read:
            safe_c = _safe_since(t, t.policy["inside_sd_read"])  # a reading has its doubt in any job
            words = "As found it freezes at {freeze_c}, protects to {safe_c:0}."
            return Claim("as_found", freeze_c, safe_c, None, say("as_found", words, freeze_c=freeze_c, safe_c=safe_c))
        else:
            why, words = "believed", "Reported to freeze at {freeze_c}, not read yet."
        return Claim(why, freeze_c, freeze_c, None, say(why, words, freeze_c=freeze_c))
    words = "Not run hot yet. First to freeze: {vessel}, at {freeze_c}."
    return Claim("weakest_vessel", freeze_c, freeze_c, vessel, say("weakest_vessel", words, vessel=name, freeze_c=freeze_c))


def _claim_since(t: LedgerFold) -> Claim:
    """How far it protects after what was done to it without a job."""
    if t.inside_strength_percent is None:
        return Claim("unknown", None, None, None, say("unknown", "Not read yet: protection unknown."))
    freeze_c = freeze_point(t.glycol, t.contents.total.glycol_w).at_most_c
    read_or_thinned = t.since.read_at is not None or t.since.diluted[-1].was_read
    sd = t.policy["inside_sd_read" if read_or_thinned else "inside_sd_unread"]
    if t.since.read_at is not None and t.since.read_sd is not None:
        sd = t.since.read_sd
    safe_c = _safe_since(t, sd)
    if t.since.read_at is not None:
        said = say(
            "read_since",
            "Read since the job: freezes at {freeze_c}, protects to {safe_c:0}.",
            freeze_c=freeze_c,
            safe_c=safe_c,
        )
        return Claim("read_since", freeze_c, safe_c, None, said)
    words = "Topped up since: predicted to freeze at {freeze_c}, protects to about {safe_c:0}, not read yet."
    return Claim("diluted", freeze_c, safe_c, None, say("diluted", words, freeze_c=freeze_c, safe_c=safe_c))


def _safe_since(t: LedgerFold, sd_percent: float) -> float:
    """Warm end [degC] of what is inside now, its strength known to sd_percent [% by volume], the curve's doubt in it."""
    w, strength = t.contents.total.glycol_w, t.contents.strength
    sd_w = w - mass_fraction_of(t.glycol, VolumePercent(max(0.0, strength - sd_percent)))
    return freeze_interval(t.glycol, w, sd_w, with_curve=True).high


def _top_up_share(t: LedgerFold) -> float | None:
    """Product in a top-up, as a share of its litres: the blend of the plan; where none is planned, or once it left, as
    strong as what is inside.
    """
    product = t.job.product
    if t.job.id is not None and t.job.signed_at is None:
        plan = t.job.mix.planned
        whole = (plan.concentrate_l or 0.0) + (plan.water_l or 0.0) if plan is not None else 0.0
        if plan is not None and whole > 0:
            return (plan.concentrate_l or 0.0) / whole
        product = plan.product if plan is not None and t.job.job_type is JobType.TOP_UP else None
    if product is None or t.inside_strength_percent is None or product.glycol_mass_percent <= 0:
        return None
    if product.base.glycol is not t.glycol:
        return None
    product_w = MassFraction(product.glycol_mass_percent / 100)
    part = min(1.0, t.contents.total.glycol_w / product_w)  # by mass
    product_l, water_l = part / density_20c(t.glycol, product_w), (1 - part) / WATER_DENSITY_20C
    return product_l / (product_l + water_l)


def frost_risk(t: LedgerFold, claim: Claim) -> bool:
    """In work, opened up or without glycol, and not protected down to the coldest expected temperature."""
    in_work = t.job.id is not None and t.job.signed_at is None
    open_to_frost = t.job.drained is not None or t.base is Base.NONE
    unprotected = claim.freeze_c is not None and claim.freeze_c > coldest_of(t)
    return in_work and open_to_frost and (unprotected or (t.bases_mixed and bool(t.job.pours)))
