"""What is in each vessel and in all, and what was poured."""

from __future__ import annotations

import math

from temper_core.calculate.mix import Spread
from temper_core.job.fill.state import PourState
from temper_core.job.fold_state import LedgerFold
from temper_core.job.loop_state import InsideState, VesselState
from temper_core.science import freeze_point, strength_of

LEAST_LEFT_L, FITS_BY_L = 0.05, 0.5  # less is nothing left; a jug's error over the mark still fits


def _inside_sd_l(spread: Spread) -> float:
    return math.hypot(spread.loop_volume_l, spread.drained_l)


def vessels_of(t: LedgerFold, spread: Spread) -> tuple[VesselState, ...]:
    """Each vessel as it stands, with the doubt of its litres [l] and of its old share [%]."""
    job = t.job
    states = []
    inside_l, open_round = t.contents.total_l, job.flush.in_work
    doubt = _inside_sd_l(spread) / inside_l if job.drained and not job.pours and open_round is None and inside_l > 0 else 0.0
    for node in t.loop.layout.nodes:
        content, litres = t.contents.by_vessel[node.id], t.contents.litres(node.id)
        wet = litres > 1e-6
        known = wet and (t.strength_known or bool(job.pours) or job.flush.rinsed)
        states.append(
            VesselState(
                id=node.id,
                name=node.name,
                kind=node.kind,
                volume_l=node.volume_l,
                litres=litres,
                litres_sd=doubt * litres,
                old_percent=100 * content.old_l / litres if wet else None,
                old_sd_percent=100 * content.old_l / litres * job.flush.doubt if wet else 0.0,
                strength_percent=strength_of(t.glycol, content.glycol_w) if known else None,
                freeze_c=freeze_point(t.glycol, content.glycol_w).at_most_c if known else None,
            )
        )
    return tuple(states)


def inside_of(t: LedgerFold, spread: Spread) -> InsideState:
    """The whole loop, as if mixed."""
    litres = t.contents.total_l
    known = t.strength_known or bool(t.job.pours)
    family = t.job.product.family if t.job.product else t.found.family
    return InsideState(
        litres=litres,
        sd_l=_inside_sd_l(spread) if t.job.drained and not t.job.pours else spread.loop_volume_l,
        old_percent=100 * t.contents.total.old_l / litres if litres > 1e-6 else None,
        finished_old_percent=t.finished_old_percent,
        strength_percent=t.contents.strength if known else None,
        freeze_c=freeze_point(t.glycol, t.contents.total.glycol_w).freeze_c if known else None,
        base=t.base,
        family=family,
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
