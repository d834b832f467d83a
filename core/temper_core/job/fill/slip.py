"""A pour that was not the plan is answered at once: what happened, where it ends, the litres that still get there."""

from __future__ import annotations

from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message, say
from temper_core.basis.quantity import MassFraction
from temper_core.calculate.mix import MixQuestion, mix
from temper_core.job.fill.facts import Poured
from temper_core.job.fill.progress import last_pour
from temper_core.job.fill.state import Replan, Slip, SlipKind
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.balance import mix_inside, plan_glycol, predicted_then
from temper_core.job.mix.facts import Planned
from temper_core.products.chemistry import Form
from temper_core.science import freeze_point

SLACK_L, SLACK_SHARE = 0.15, 0.02  # a jug's own error: not a slip; of the planned litres
WORTH_SAYING_K = 0.5
_BLENDS = frozenset({SlipKind.LOOP_STRENGTH, SlipKind.OFF_BLEND})
BLEND_OFF = 5.0  # percent points in the bucket: more is another blend


def replan(t: LedgerFold) -> Replan | None:
    """Litres that reach the target from what is inside now; None where nothing was planned, or no space is left."""
    plan = t.job.mix.planned
    if plan is None or plan.target_freeze_c is None or plan.product.base.glycol is None:
        return None
    inside = mix_inside(t)
    if t.loop.capacity_l - inside.volume_l < 0.02:
        return None
    concentrate = MassFraction(plan.product.glycol_mass_percent / 100)
    as_it_is = plan.product.form is Form.READY_MIX and not plan.dilute
    try:
        a = mix(MixQuestion(plan_glycol(t), t.loop.capacity_l, inside, plan.target_freeze_c, concentrate, as_it_is=as_it_is))
    except CoreError:  # a target that this product's table does not hold
        return None
    if a.feasible:
        values = {"product_l": a.concentrate_l, "water_l": a.water_l, "target_c": plan.target_freeze_c}
        words = "Now pour {product_l} product and {water_l} water: {target_c:0} is still reached."
        return Replan(a.concentrate_l, a.water_l, True, a.final.freeze_c, say("replan", words, **values))
    return Replan(a.concentrate_l, a.water_l, False, a.final.freeze_c, _out_of_reach(t, a.final.freeze_c, a.reason))


def _out_of_reach(t: LedgerFold, freeze_c: float | None, reason: object) -> Message:
    best = "{freeze_c:0} is the best still possible" if freeze_c is not None else "Stronger than tabulated"
    values: dict[str, float | str] = {} if freeze_c is None else {"freeze_c": freeze_c}
    more = getattr(reason, "drain_more_l", None)
    if more is not None:
        words = best + ": drain {more_l} more and plan again, or accept that freeze point."
        return say("replan_drain", words, more_l=more, **values)
    return say("replan_no", best + ": drain some and plan again, or accept that freeze point.", **values)


def slip_of(t: LedgerFold) -> Slip | None:
    """The last pour against the plan it belongs to; None where it is the plan, or where there is none."""
    plan, entry = t.job.mix.planned, last_pour(t.job.fill)
    since = t.job.pours[t.job.mix.poured_before :]
    if plan is None or plan.concentrate_l is None or plan.water_l is None or not since or entry is None:
        return None
    if since[-1].bleeding or t.job.fill.corrected is not None:
        return None
    found = _what(t, plan, since)
    if found is None:
        return None
    kind, said = found
    if since[-1].at_mark:  # nothing more goes in: the proof says what to swap
        return Slip(kind, entry[0], said, None, None, None)
    again = replan(t) if kind is not SlipKind.WATER_FIRST or _fits_no_more(t, plan, since) else None
    ends_c = _ends(t, plan, since, same_blend=kind in _BLENDS)
    unless = None
    if ends_c is not None and plan.target_freeze_c is not None and ends_c - plan.target_freeze_c > WORTH_SAYING_K:
        how = "mixed the same way" if kind in _BLENDS else "poured as planned"
        unless = say("unless", "If the rest is {how}, it freezes at {ends_c}.", how=how, ends_c=ends_c)
    return Slip(kind, entry[0], said, ends_c, unless, again)


def _left(plan: Planned, since: list[Poured]) -> tuple[float, float]:
    product = (plan.concentrate_l or 0.0) - sum(p.product_l for p in since)
    return product, (plan.water_l or 0.0) - sum(p.water_l for p in since)


def _slack(litres: float | None) -> float:
    return max(SLACK_L, SLACK_SHARE * (litres or 0.0))


def _fits_no_more(t: LedgerFold, plan: Planned, since: list[Poured]) -> bool:
    left_product, _ = _left(plan, since)
    return left_product > t.loop.capacity_l - t.contents.total_l + _slack(plan.concentrate_l)


def _what(t: LedgerFold, plan: Planned, since: list[Poured]) -> tuple[SlipKind, Message] | None:
    last, product_slack = since[-1], _slack(plan.concentrate_l)
    left_product, left_water = _left(plan, since)
    if last.product is not None and last.product_l > 0 and last.product.id != plan.product.id:
        words = "That was {poured}; the plan is {planned}."
        return SlipKind.WRONG_CAN, say("wrong_can", words, poured=last.product.name, planned=plan.product.name)
    before_product, before_water = left_product + last.product_l, left_water + last.water_l
    over_already = min(before_product, before_water) < -product_slack  # then the ratio of what is left says nothing
    if last.product_l > 0 and last.water_l > 0 and not over_already and before_product + before_water > 0:
        # what was left to blend when this was poured: product poured alone before is no slip
        bucket = 100 * max(0.0, before_product) / (max(0.0, before_product) + max(0.0, before_water))
        poured_percent = 100 * last.product_l / (last.product_l + last.water_l)
        loop_percent = _loop_percent(t, plan)
        off, near = abs(poured_percent - bucket), abs(poured_percent - loop_percent)
        if off > BLEND_OFF and near < min(BLEND_OFF, off / 2):
            words = "Mixed at {loop_percent:0} (the loop), not {bucket_percent:0} (the bucket): diluted by what is inside."
            return SlipKind.LOOP_STRENGTH, say("loop_strength", words, loop_percent=loop_percent, bucket_percent=bucket)
        if off > BLEND_OFF:
            words = "Mixed at {poured_percent:0}; the plan is {bucket_percent:0} in the bucket."
            return SlipKind.OFF_BLEND, say("off_blend", words, poured_percent=poured_percent, bucket_percent=bucket)
    if left_product < -product_slack:
        words = "{over_l} more product was poured than planned."
        return SlipKind.TOO_MUCH_PRODUCT, say("too_much_product", words, over_l=-left_product)
    if left_water < -_slack(plan.water_l):
        return SlipKind.TOO_MUCH_WATER, say(
            "too_much_water", "{over_l} more water was poured than planned.", over_l=-left_water
        )
    if last.water_l > 0 and last.product_l == 0 and left_product > product_slack:
        if _fits_no_more(t, plan, since):
            words = "Water went in first; {left_l} product no longer fits."
            return SlipKind.WATER_FIRST, say("water_first_full", words, left_l=left_product)
        if all(p.product_l == 0 for p in since):
            words = "Water went in first. Now pour all the product ({left_l}) before more water, so that it still fits."
            return SlipKind.WATER_FIRST, say("water_first", words, left_l=left_product)
    return None


def _loop_percent(t: LedgerFold, plan: Planned) -> float:
    """Strength of the full loop if the plan had been poured [% of the planned product]."""
    inside = t.loop.capacity_l - (t.job.drained.drained_l if t.job.drained else t.loop.capacity_l)
    whole = inside + (plan.concentrate_l or 0.0) + (plan.water_l or 0.0)
    return 100 * (plan.concentrate_l or 0.0) / max(1e-9, whole)


def _ends(t: LedgerFold, plan: Planned, since: list[Poured], *, same_blend: bool) -> float | None:
    """Where it ends if the rest of the plan, or more of the same blend, goes on top [degC]."""
    product_l, water_l = (max(0.0, litres) for litres in _left(plan, since))
    if same_blend:
        room, last = max(0.01, t.loop.capacity_l - t.contents.total_l), since[-1]
        part = last.product_l / (last.product_l + last.water_l)
        product_l, water_l = room * part, room * (1 - part)
    prediction = predicted_then(t, plan.product, product_l, water_l)
    if prediction is None:
        return None
    return freeze_point(t.glycol, MassFraction(prediction.glycol_mass_percent / 100)).at_most_c
