"""The filling as the screen shows it, made from the tally."""

from __future__ import annotations

from datetime import datetime

from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Interval
from temper_core.job.doubt.known import freeze_sure
from temper_core.job.fill.bleed.view import bleed_of
from temper_core.job.fill.closing import closing_points
from temper_core.job.fill.methods import vacuum_state, ways_to_fill
from temper_core.job.fill.slip import slip_of
from temper_core.job.fill.state import FillState, FillStep, PourLine
from temper_core.job.fill.topped import top_ups_of
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.air import air_of
from temper_core.job.inside.balance import predicted_after, predicted_then
from temper_core.job.inside.verdict import Prediction
from temper_core.job.job_types import JobType
from temper_core.science import freeze_interval, freeze_point, strength_of

HALF = 0.5


def fill_step(t: LedgerFold) -> FillStep:
    """What a filling waits for; a top-up is poured and nothing else."""
    at_mark = bool(t.job.pours) and t.job.pours[-1].at_mark
    if t.job.job_type is JobType.TOP_UP:
        return FillStep.DONE if at_mark else FillStep.POUR
    if any(not row.done for row in closing_points(t)) and not t.job.pours:
        return FillStep.SHUT
    if t.job.fill.under is not None and not t.job.fill.under.dry:
        return FillStep.UNDER
    if t.job.fill.under is None and _half_in(t) and t.job.fill.corrected is None:
        return FillStep.UNDER
    if t.job.fill.run is not None:
        return FillStep.BLEED
    if not at_mark:
        return FillStep.POUR
    return FillStep.DONE if t.job.fill.bled or t.job.fill.corrected is not None else FillStep.BLEED


def _half_in(t: LedgerFold) -> bool:
    """Half of what fits is in: time to look underneath."""
    poured = sum(pour.product_l + pour.water_l for pour in t.job.pours)
    return t.job.drained is not None and poured >= HALF * max(0.1, t.job.drained.drained_l)


def fill_of(t: LedgerFold, now: datetime | None) -> FillState | None:
    """See FillState; None until the mix is accepted, and where the job fills nothing."""
    job = t.job
    planned = job.mix.planned is not None and (job.mix.planned.concentrate_l is not None or job.job_type is JobType.TOP_UP)
    if job.id is None or not (planned or job.pours):
        return None
    ends = _ends(t)
    expected = job.drained.drained_l if job.drained else 0.0
    return FillState(
        step=fill_step(t),
        closing=closing_points(t),
        under=job.fill.under,
        methods=ways_to_fill(t) if job.drained is not None else (),
        vacuum=vacuum_state(t),
        pours=_lines(t),
        expected_l=expected,
        accepted_l=expected - max(0.0, t.loop.capacity_l - t.contents.total_l) if job.pours else 0.0,
        ends_freeze_c=_freeze(t, ends) if ends else None,
        ends_likely=_likely(t, ends) if ends else None,
        slip=slip_of(t),
        air=air_of(t),
        top_ups=top_ups_of(t),
        bleed=bleed_of(t, now),
    )


def _lines(t: LedgerFold) -> tuple[PourLine, ...]:
    lines, total = [], 0.0
    for pour, (entry_id, at, by) in zip(t.job.pours, t.job.fill.pour_ids, strict=True):
        total += pour.product_l + pour.water_l
        so_far = predicted_after(t, entry_id)
        w = MassFraction(so_far.glycol_mass_percent / 100 if so_far else 0.0)
        lines.append(
            PourLine(
                entry_id=entry_id,
                at=at,
                by=by,
                product=pour.product.name if pour.product else "",
                product_l=pour.product_l,
                water_l=pour.water_l,
                total_l=total,
                at_mark=pour.at_mark,
                bleeding=pour.bleeding,
                point=pour.point,
                strength_percent=strength_of(t.glycol, w),
                freeze_c=_freeze(t, so_far) if so_far else None,
                likely=_likely(t, so_far) if so_far else None,
                method=pour.method,
            )
        )
    return tuple(lines)


def _ends(t: LedgerFold) -> Prediction | None:
    """Where it ends if the rest of the plan is poured."""
    plan = t.job.mix.planned
    if plan is None or plan.concentrate_l is None:
        return None
    since = t.job.pours[t.job.mix.poured_before :]
    product = max(0.0, plan.concentrate_l - sum(p.product_l for p in since))
    water = max(0.0, (plan.water_l or 0.0) - sum(p.water_l for p in since))
    at_mark = bool(t.job.pours) and t.job.pours[-1].at_mark
    if at_mark:
        product = water = 0.0
    return predicted_then(t, plan.product, product, water)


def _freeze(t: LedgerFold, prediction: Prediction) -> float | None:
    return freeze_point(t.glycol, MassFraction(prediction.glycol_mass_percent / 100)).freeze_c


def _likely(t: LedgerFold, prediction: Prediction) -> Interval:
    if prediction.sure is not None:
        return freeze_sure(t, prediction.sure)
    w, sd = prediction.glycol_mass_percent / 100, prediction.sd_mass_percent / 100
    return freeze_interval(t.glycol, w, sd, with_curve=False)
