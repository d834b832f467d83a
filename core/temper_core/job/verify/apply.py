"""What the final check and the sign-off do to the state of a loop."""

from __future__ import annotations

from dataclasses import replace

from temper_core.basis.quantity import VolumePercent
from temper_core.basis.uncertainty import Z95
from temper_core.instruments import repeats
from temper_core.instruments.trend import TrendPoint
from temper_core.job.doubt.known import finished_old_percent
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.air import air_of
from temper_core.job.inside.questions import finished_questions
from temper_core.job.job_types import JobType
from temper_core.job.life.account.movement import at_mark
from temper_core.job.life.age import AgePart, poured_parts, refilled
from temper_core.job.verify.facts import FinishChecked, SignedOff
from temper_core.products.chemistry import Product
from temper_core.products.compatibility import old_limit_percent
from temper_core.science import strength_of


def finish_checked(t: LedgerFold, facts: FinishChecked, entry: Entry) -> None:
    """The final check as it was made."""
    t.job.fill.finish = (entry.id, facts)


def signed_off(t: LedgerFold, facts: SignedOff, entry: Entry) -> None:
    """The job is over: what is inside is what was read, and its life goes on."""
    t.job.signed_at, t.job.verify.proof = entry.happened_at, facts.proof
    t.life.parked = (entry.happened_at, None)
    t.job.open.observation = replace(t.job.open.observation, left=True) if t.job.open.observation else None
    if t.job.product is not None:
        _renewed(t, entry)
        if t.job.job_type is not JobType.TOP_UP:
            t.life.strengths = _left_strength(t, entry)
            t.life.conducted = t.life.conducted[-1:] if t.job.verify.conductivity is not None else []
            _begin_account(t, entry)
    if t.job.job_type is JobType.CLEAN:
        t.life.cleaned_at.append(entry.happened_at)
    _trust_readings(t)


def _begin_account(t: LedgerFold, entry: Entry) -> None:
    """A loop that was drained begins a new account; one whose strength was only adjusted goes on losing where it did."""
    left, air = at_mark(entry.happened_at, t.loop, t.policy), air_of(t)
    if air is not None:
        left = replace(left, trapped_l=max(0.0, air.air_l), trapped_sd_l=air.half_l / Z95)
    if t.job.drained is None and t.life.movements:
        t.life.movements.append(left)
        return
    t.life.movements, t.life.lost_when = [left], None


def _left_strength(t: LedgerFold, entry: Entry) -> list[TrendPoint]:
    """From a service on the history begins again, at what was read, or at what the litres say."""
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    strength = together.strength_percent if together else strength_of(t.glycol, t.contents.total.glycol_w)
    return [TrendPoint(entry.happened_at, strength)]


def _renewed(t: LedgerFold, entry: Entry) -> None:
    """What the filling is from now on: a mixture keeps every family that stayed beyond its limit."""
    product = t.job.product
    if product is None:
        return
    limit = old_limit_percent(product, t.found, t.policy)
    stayed = limit is not None and finished_old_percent(t) > limit
    old = t.life.families if stayed else ()
    t.life.families = (product.family, *(family for family in old if family is not product.family))
    fresh = _fresh(t, product, entry)
    taken = [row for pour in t.job.pours for row in pour.taken]
    poured_l = sum(pour.product_l + pour.water_l for pour in t.job.pours)
    t.life.parts = refilled(t.life.parts, finished_old_percent(t) / 100, *poured_parts(taken, poured_l, fresh))


def _fresh(t: LedgerFold, product: Product, entry: Entry) -> AgePart:
    """What went in, of today and of the meters as last seen."""
    meter = t.life.meters[-1][1] if t.life.meters else None
    distance_km, hours = (meter.distance_km, meter.hours) if meter else (None, None)
    return AgePart(1.0, entry.happened_at.date(), distance_km, hours, product.family)


def _trust_readings(t: LedgerFold) -> None:
    """What leaves the bay is as strong as it read, not as strong as the litres said."""
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    if together is not None:
        t.job.verify.before_sign_off, t.job.verify.signed_acts = t.contents, tuple(t.acts)
        t.contents = t.contents.read_as(VolumePercent(min(100.0, together.strength_percent)))
