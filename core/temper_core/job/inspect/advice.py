"""The case of one loop as the advice on its job type wants it, gathered from what the ledger tells."""

from __future__ import annotations

from datetime import datetime, timedelta, tzinfo

from temper_core.basis.message import Message, say
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments import repeats
from temper_core.instruments.trend import trend
from temper_core.job.fold_state import LedgerFold
from temper_core.job.identify.facts import Metered, ToppedUp
from temper_core.job.inside.verdict import safe_to
from temper_core.job.inspect.case import Case, Strength
from temper_core.job.inspect.facts import CHECKS, SPOT_OPENS, asked_for, opens
from temper_core.job.inspect.judge import advise_job_type
from temper_core.job.inspect.state import Advice
from temper_core.job.job_types import JobType
from temper_core.job.life.account.losing import suspected
from temper_core.job.life.due import Due, Meter, due_of_parts, life_of
from temper_core.job.loop_state import Inspection
from temper_core.job.read.facts import Place, counted, question_of, steps_of
from temper_core.products.compatibility import Judged, judge_product
from temper_core.products.unsuitable import wrong_inside
from temper_core.science import COLDEST_TARGET_C, freeze_point, mass_fraction_at_freeze, mass_fraction_of


def inspection_of(t: LedgerFold) -> Inspection:
    """The test of the job in work, or of the last one."""
    return Inspection(
        asked=asked_for(t.loop.need, t.loop.equipment),
        opening=tuple(row.check for row in CHECKS if opens(row.opens, t.loop.equipment)),
        opening_spots=tuple(spot for spot, what in SPOT_OPENS.items() if opens(what, t.loop.equipment)),
        seen=tuple(t.job.inspect.seen),
        skipped=tuple(t.job.inspect.skipped),
        reported=t.job.reported,
        metered=t.life.meters[-1][1] if t.life.meters else None,
        job_type_chosen=t.job.inspect.chosen,
    )


def due_of(t: LedgerFold, now: datetime | None) -> Due | None:
    """When the filling is due, by the calendar of `now`; None without a clock."""
    if now is None:
        return None
    life = life_of(t.life.families, t.loop.equipment.interval, t.policy)
    last = _meter(t.life.meters[-1], now.tzinfo) if t.life.meters else None
    return due_of_parts(t.life.parts, t.loop.capacity_l, last, life, now.date(), t.policy)


def _meter(row: tuple[datetime, Metered], zone: tzinfo | None) -> Meter:
    at, facts = row
    return Meter(at.astimezone(zone).date(), facts.distance_km, facts.hours)


def _strength(t: LedgerFold) -> Strength | None:
    """Protection as found: read, with its warm end; reported where it was not read; None where it is not known."""
    found = [(entry_id, read) for entry_id, read in t.job.verify.readings if read.place is Place.AS_FOUND]
    margin = t.policy["margin_k"]
    steps = steps_of(t.glycol, found[-1][1], t.policy) if found else None
    if steps is not None:  # only ever "at least"
        coldest, at_least = t.job.mix.planned.coldest_c if t.job.mix.planned else t.loop.coldest_c, steps.at_least_c or 0.0
        return Strength(at_least, at_least, coldest, margin, found[-1][0], False)
    if not found or not t.strength_known:
        return None
    questions = [question_of(t.glycol, facts) for _, facts in found if counted(facts)]
    together = repeats(questions, t.policy) if questions else None
    coldest = t.job.mix.planned.coldest_c if t.job.mix.planned else t.loop.coldest_c
    entry_id = found[-1][0]
    if together is None:
        strength = VolumePercent(t.found.strength_percent or 0.0)
        freeze_c = freeze_point(t.glycol, mass_fraction_of(t.glycol, strength)).freeze_c
        return Strength(freeze_c, freeze_c, coldest, margin, entry_id, freeze_c is None)
    w = together.glycol_mass_percent / 100
    past = w > mass_fraction_at_freeze(t.glycol, COLDEST_TARGET_C[t.glycol])
    return Strength(
        together.freeze_c,
        safe_to(t.glycol, together.glycol_mass_percent, together.sd_mass_percent),
        coldest,
        margin,
        entry_id,
        past,
    )


def _chosen(t: LedgerFold) -> Judged | None:
    if t.job.mix.planned is None:
        return None
    return judge_product(t.job.mix.planned.product, t.loop.need, t.found, t.policy, topping_up=t.job.asked is JobType.TOP_UP)


def _cleans_lately(t: LedgerFold) -> int:
    if t.job.opened_at is None:
        return 0
    since = t.job.opened_at - timedelta(days=t.policy["rust_back_days"])
    return sum(1 for at in t.life.cleaned_at if at >= since)


def _falling(t: LedgerFold) -> Message | None:
    """What its readings since the last service say together, where they fall like a leak's; or its litres, where they do."""
    leak = suspected(t)
    if leak is not None:
        return leak
    points = t.life.strengths
    line = trend(points)
    if line is None or not line.falls or -line.slope < t.policy["leak_slope_percent_month"]:
        return None
    share = 1 - points[-1].strength_percent / points[0].strength_percent if points[0].strength_percent > 0 else 0.0
    values = {"loss_percent": -line.slope, "half_percent": line.half, "lost_l": max(0.0, share) * t.loop.capacity_l}
    words = (
        "The readings fall by {loss_percent} ±{half_percent} by volume a month, as if {lost_l} leaked and was "
        "topped up with water."
    )
    return say("falling", words + " Find the leak.", **values)


def advice_of(t: LedgerFold, due: Due | None) -> Advice | None:
    """What the findings and the history of this job advise; None between jobs."""
    if t.job.asked is None or t.job.signed_at is not None:
        return None
    other = t.job.reported is not None and t.job.reported.other_on_top
    return advise_job_type(
        Case(
            asked=t.job.asked,
            samples=tuple((row.entry_id, row.sampled) for row in t.job.inspect.seen if row.sampled),
            tests=tuple((row.entry_id, row.tested) for row in t.job.inspect.seen if row.tested),
            need=t.loop.need,
            wrong=wrong_inside(t.found, t.loop.need),
            known=t.found.base is not None and (t.found.family is not None or other),
            other_on_top=other or t.bases_mixed,
            watered=bool(t.job.reported and t.job.reported.topped_up is ToppedUp.WATER),
            chosen=_chosen(t),
            strength=_strength(t),
            due=due,
            cleans=_cleans_lately(t),
            cap_gauge_kpa=t.loop.cap_gauge_kpa,
            conductivity_limit_us_cm=t.loop.equipment.conductivity_limit_us_cm,
            falling=_falling(t),
            policy=t.policy,
        )
    )
