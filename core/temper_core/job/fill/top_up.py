"""A top-up between services."""

from __future__ import annotations

from temper_core.job.dose.account import thinned
from temper_core.job.doubt import record as doubt
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import Poured, Water
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.effects import poured_into
from temper_core.job.life.account.losing import topped_up
from temper_core.job.life.age import AgePart, poured_parts, refilled
from temper_core.job.life.snapshot import left_read
from temper_core.job.state import Dilution
from temper_core.products.chemistry import Base, Fluid


def poured_between(t: LedgerFold, facts: Poured, entry: Entry) -> None:
    """A top-up without a job is a dilution: what went in was missing before, of the mixed loop."""
    litres = facts.product_l + facts.water_l
    strength = t.contents.strength if t.strength_known else None
    other = facts.product is not None and t.base not in (None, Base.NONE) and facts.product.base is not t.base
    counted = Poured(None, 0.0, litres, Water.DEMINERALISED) if other else facts  # of another base: counts as water
    doubt.ran_through(t)
    thinned(t, facts.product_l, facts.water_l)
    topped_up(t, entry.happened_at, litres, facts.at_mark)
    doubt.lost(t, litres, entry.id)
    doubt.poured(t, counted.product, counted.product_l, counted.water_l, entry.id, at_mark=False)
    t.contents = poured_into(t.contents.circulate().lose(litres), counted, t.glycol, litres if other else 0.0)
    if facts.product is not None:
        meter = t.life.meters[-1][1] if t.life.meters else None
        distance_km, hours = (meter.distance_km, meter.hours) if meter else (None, None)
        fresh = AgePart(1.0, entry.happened_at.date(), distance_km, hours, facts.product.family)
        t.life.parts = refilled(t.life.parts, 1 - litres / t.loop.capacity_l, *poured_parts(facts.taken, litres, fresh))
    now = t.contents.strength if t.strength_known else None
    t.found = Fluid(t.found.base, t.found.family, now)
    if facts.product is not None and facts.product.family not in t.life.families:
        t.life.families = (*t.life.families, facts.product.family)
    before = t.since.diluted[-1].was_read if t.since.diluted else left_read(t)
    was_read = t.since.read_at is not None or before
    t.since.diluted.append(Dilution(entry.id, entry.happened_at, facts, strength, now, other, was_read))
    t.since.read_at = None
    t.strength_read = False
