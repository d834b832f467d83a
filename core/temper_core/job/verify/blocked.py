"""What stands against any verdict on a loop, whatever it reads: mixed bases, water where none belongs, conductivity.

Rules: common practice, no source.
"""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.verdict import SAFE, Proof, ProofVerdict
from temper_core.products.chemistry import LOOP_USE_NAMES
from temper_core.products.compatibility import unfit
from temper_core.products.conductivity import at_reference, limit_for

# the strength says nothing here: no figure is shown beside the verdict
NO_FIGURE = frozenset({Proof.MIXED_BASES})


def verdict_with(t: LedgerFold, proof: ProofVerdict | None) -> ProofVerdict | None:
    """The verdict on the strength, unless something outranks it; None before there is one."""
    found = blocked(t)
    if found is None:
        return proof
    verdict, said = found
    after_reading = verdict in (Proof.NOT_MEASURED, Proof.CONDUCTS)
    if proof is None:
        free = t.contents.total.glycol_w <= 0 and t.job.circulated
        return ProofVerdict(verdict, said, None, None, None, None) if not after_reading or free else None
    if after_reading and proof.verdict not in SAFE:
        return proof  # the strength first
    if verdict in NO_FIGURE:
        return ProofVerdict(verdict, said, None, None, None, None)
    return ProofVerdict(verdict, said, proof.freeze_c, proof.safe_to_c, proof.off_target_k, proof.predicted_freeze_c)


def blocked(t: LedgerFold) -> tuple[Proof, Message] | None:
    """Why no verdict can be given once coolant went in; None where nothing stands against one."""
    if not t.job.pours:
        return None
    if t.bases_mixed:
        words = "Mixed bases, {other_percent} of another or unknown base: no scale fits. Change type."
        return Proof.MIXED_BASES, say("mixed_bases", words, other_percent=t.other_percent)
    for pour in t.job.pours:
        if pour.product is None or pour.product_l <= 0:
            continue
        reason = unfit(pour.product, t.loop.need)
        if reason is not None:
            words = "{product} is wrong for this loop. {why} Drain it and fill with the right coolant."
            return Proof.WRONG_PRODUCT, say("wrong_product", words, product=pour.product.name, why=reason.sentence)
    return _conductivity(t) if t.loop.need.low_conductivity else None


def _conductivity(t: LedgerFold) -> tuple[Proof, Message] | None:
    if t.job.verify.watered:
        words = "Water went into a low-conductivity loop. Drain it, fill with its own ready-mix."
        return Proof.WATER_IN, say("water_in", words)
    use = t.loop.need.use
    if use is None:
        return Proof.USE_UNKNOWN, say(
            "use_unknown", "The use of this loop is not entered, so there is no limit. Ask a lead to enter it."
        )
    limit = limit_for(use, t.loop.equipment.conductivity_limit_us_cm, t.policy)
    measured = t.job.verify.conductivity
    if measured is None or not measured[2] or measured[1].compensated is None or limit is None:
        words = "Measure the conductivity after the run, with its temperature: {use} needs it."
        return Proof.NOT_MEASURED, say("not_measured", words, use=LOOP_USE_NAMES[use])
    facts = measured[1]
    value = at_reference(facts.figures["us_cm"], facts.figures["sample_c"], bool(facts.compensated), t.policy)
    if value > limit.us_cm:
        words = "Conductivity {value} uS/cm at 25 °C, over {limit} ({origin}). Drain it, fill with its own ready-mix."
        shown = {"value": f"{value:.3g}", "limit": f"{limit.us_cm:g}", "origin": limit.origin}
        return Proof.CONDUCTS, say("conducts", words, **shown)
    return None
