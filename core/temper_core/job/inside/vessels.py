"""What is in each vessel and in all, and what was poured."""

from __future__ import annotations

from temper_core.basis.uncertainty import Interval
from temper_core.job.doubt.known import expected, finished_old_percent, likely_contents
from temper_core.job.doubt.quantities import inside_l
from temper_core.job.fill.state import PourState
from temper_core.job.fold_state import LedgerFold
from temper_core.job.loop_state import InsideState, VesselState
from temper_core.science import freeze_point, strength_of

LEAST_LEFT_L, FITS_BY_L = 0.05, 0.5  # less is nothing left; a jug's error over the mark still fits


def vessels_of(t: LedgerFold) -> tuple[VesselState, ...]:
    """Each vessel as it stands, with the doubt of its litres [l] and of its old share [%]."""
    job, now, states = t.job, expected(t), []
    contents = likely_contents(t) if job.verify.before_sign_off is None else t.contents
    worlds = now.near()  # their litres are asked for once, not once a vessel
    drained = bool(job.drained) and not job.pours and job.flush.in_work is None
    for i, node in enumerate(t.loop.layout.nodes):
        content, litres = contents.by_vessel[node.id], contents.litres(node.id)
        wet = litres > 1e-6
        strong = wet and (t.strength_known or bool(job.pours) or job.flush.rinsed)
        old = 100 * min(1.0, content.old_l / litres) if wet else None
        rinsed = wet and job.flush.rinsed
        states.append(
            VesselState(
                id=node.id,
                name=node.name,
                kind=node.kind,
                volume_l=node.volume_l,
                litres=litres,
                litres_sd=worlds.sd([held[i] for held in worlds.litres]) if drained else 0.0,
                old_percent=old,
                old_sd_percent=worlds.sd(worlds.old_shares(i)) if rinsed else 0.0,
                strength_percent=strength_of(t.glycol, content.glycol_w) if strong else None,
                freeze_c=freeze_point(t.glycol, content.glycol_w).at_most_c if strong else None,
            )
        )
    return tuple(states)


def inside_of(t: LedgerFold) -> InsideState:
    """The whole loop, as if mixed."""
    contents = likely_contents(t) if t.job.verify.before_sign_off is None else t.contents
    litres = contents.total_l
    strong = t.strength_known or bool(t.job.pours)
    family = t.job.product.family if t.job.product else t.found.family
    sure = expected(t).sure(inside_l)
    return InsideState(
        litres=litres,
        sd_l=sure.sd,
        old_percent=100 * min(1.0, contents.total.old_l / litres) if litres > 1e-6 else None,
        finished_old_percent=finished_old_percent(t),
        strength_percent=contents.strength if strong else None,
        freeze_c=freeze_point(t.glycol, contents.total.glycol_w).freeze_c if strong else None,
        base=t.base,
        family=family,
        likely_l=Interval(min(litres, sure.interval.low), max(litres, sure.interval.high)),
    )


def pours_of(t: LedgerFold) -> PourState:
    """What went in since the last drain [l], and what the plan still asks for."""
    since = t.job.pours[t.job.mix.poured_before :]
    planned_product = (t.job.mix.planned.concentrate_l or 0.0) if t.job.mix.planned else 0.0
    planned_water = (t.job.mix.planned.water_l or 0.0) if t.job.mix.planned else 0.0
    left_product = max(0.0, planned_product - sum(pour.product_l for pour in since))
    left_water = max(0.0, planned_water - sum(pour.water_l for pour in since))
    from_cans = _from_cans(t)
    room, at_mark = t.loop.capacity_l - t.contents.total_l, bool(t.job.pours) and t.job.pours[-1].at_mark
    return PourState(
        product_l=sum(pour.product_l for pour in t.job.pours),
        water_l=sum(pour.water_l for pour in t.job.pours),
        left_product_l=left_product,
        left_water_l=left_water,
        room_l=room,
        at_mark=at_mark,
        rest_fits=not at_mark and LEAST_LEFT_L < left_product + left_water < room + FITS_BY_L,
        from_cans_l=from_cans,
        cans_l=from_cans + left_product,
        planned_water_in_l=max(0.0, planned_water - left_water),
    )


def _from_cans(t: LedgerFold) -> float:
    """Litres of the planned product that were poured, top-ups while the air came out left aside [l]."""
    planned = t.job.mix.planned
    if planned is None:
        return 0.0
    own = (pour for pour in t.job.pours if pour.product is not None and pour.product.name == planned.product.name)
    return sum(pour.product_l for pour in own if not pour.bleeding)
