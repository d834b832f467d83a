"""The account of the inhibitors: what a strip said, what was dosed since, what new coolant or water did to it."""

from __future__ import annotations

from dataclasses import replace

from temper_core.job.dose.facts import Dosed
from temper_core.job.dose.state import Account
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Tested
from temper_core.products.additive import Band, Inhibitor, band_read, strengths


def strip_read(t: LedgerFold, facts: Tested, entry: Entry) -> None:
    """The account begins again at what the strip says; kept beside it, what was expected after a dose."""
    for one in Inhibitor:
        value = facts.figures.get(one.value)
        if value is None:
            continue
        before, band = t.life.inhibitor.get(one), band_read(value, facts.card.get(one.value, ()))
        expected = before.band if before is not None and before.doses else None
        t.life.inhibitor[one] = Account(one, value, entry.happened_at, entry.job_id, band, expected)
        t.job.dosing.unread.discard(one)


def dosed(t: LedgerFold, facts: Dosed) -> None:
    """Every inhibitor that the additive brings is so much higher, by the litres inside."""
    for one, strength in strengths(facts.agent).items():
        row = t.life.inhibitor.get(one)
        if row is not None:
            raised = row.band.raised(strength.raised_by(facts.dose_ml, litres_inside(t)))
            t.life.inhibitor[one] = replace(row, band=raised, doses=row.doses + 1)


def litres_inside(t: LedgerFold) -> float:
    """Litres that a dose spreads in [l]: what is believed inside, and never more than the loop holds."""
    inside = min(t.contents.total_l, t.loop.capacity_l)
    return inside if inside > 0 else t.loop.capacity_l


def thinned(t: LedgerFold, product_l: float, water_l: float) -> None:
    """Coolant or water in [l]: after a drain nothing is known; water thins it; new coolant brings nobody knows how much."""
    if t.job.drained is not None and t.job.signed_at is None:
        t.life.inhibitor.clear()
        return
    stays = max(0.0, 1 - (product_l + water_l) / t.loop.capacity_l)
    for one, row in t.life.inhibitor.items():
        high = row.band.high_mg_l
        band = Band(row.band.low_mg_l * stays, None if product_l > 0 or high is None else high * stays)
        t.life.inhibitor[one] = replace(row, band=band)
