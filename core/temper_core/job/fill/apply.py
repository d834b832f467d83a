"""What pours, a vacuum and a correction do to the state of a loop."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.instruments import repeats
from temper_core.job.dose.account import thinned
from temper_core.job.doubt import record as doubt
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import Closed, LookedUnder, Poured, StrengthAdjusted, VacuumPulled, Water
from temper_core.job.fill.progress import entry_key
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.balance import best_w, readings_agree
from temper_core.job.inside.effects import poured_into
from temper_core.job.inside.questions import finished_questions
from temper_core.job.job_types import JobType
from temper_core.job.life.account.losing import topped_up
from temper_core.job.read.facts import Place
from temper_core.products.chemistry import Base, Product
from temper_core.science import strength_of


def closed(t: LedgerFold, facts: Closed, entry: Entry) -> None:
    """These points are shut."""
    t.job.fill.shut.update(facts.points)


def looked_under(t: LedgerFold, facts: LookedUnder, entry: Entry) -> None:
    """Dry underneath, or where it drips."""
    t.job.fill.under = facts


def vacuum_pulled(t: LedgerFold, facts: VacuumPulled, entry: Entry) -> None:
    """The vacuum with the air [l] that was inside then."""
    t.job.fill.vacuum = (entry.id, facts, t.contents.room_l)


def poured(t: LedgerFold, facts: Poured, entry: Entry) -> None:
    """Litres [l] go in; readings and verdict of before hold no more."""
    if t.job.job_type is JobType.TOP_UP and t.job.drained is None:  # what goes in was missing before, of the mixed loop
        t.contents = t.contents.lose(facts.product_l + facts.water_l)
        doubt.lost(t, facts.product_l + facts.water_l, entry.id)
        topped_up(t, entry.happened_at, facts.product_l + facts.water_l, facts.at_mark)
    thinned(t, facts.product_l, facts.water_l)
    if facts.product:
        t.job.product = facts.product
        _change_base(t, facts.product)
    t.contents = poured_into(t.contents, facts, t.glycol, policy=t.policy)
    _note_residue(t)
    doubt.poured(t, facts.product, facts.product_l, facts.water_l, entry.id, facts.at_mark)
    t.job.pours.append(facts)
    t.job.verify.conductivity = None
    t.job.verify.watered = t.job.verify.watered or (t.loop.need.low_conductivity and facts.water_l > 0)
    t.job.fill.pour_ids.append(entry_key(entry))
    t.job.circulated = False
    t.job.verify.proof = None


def _note_residue(t: LedgerFold) -> None:
    """Said where the water of the mix leaves more behind than the rules allow, with what the rinse left."""
    t.job.flags = [said for said in t.job.flags if said.code != "mix_residue"]
    now, most = (
        t.contents.total.solids_mg / t.loop.capacity_l,
        t.policy["water_solids_mg_l"] * t.policy["mix_water_part"] / 100,
    )
    if now > most:
        words = "The water leaves {now} mg/l in the full loop, over {most}: use demineralised water, or drain more first."
        t.job.flags.append(say("mix_residue", words, now=f"{now:.0f}", most=f"{most:.0f}"))


def _change_base(t: LedgerFold, product: Product) -> None:
    if t.base is None and t.found.base is None:  # not known what is inside: as bad as another base
        t.contents = t.contents.old_is_other()
    if product.base is t.base or product.base.glycol is None:
        t.base = t.base if t.base is not None and product.base is not t.base else product.base
        return
    if t.contents.total_l > 0.05 and t.base not in (None, Base.NONE):
        t.job.flags.append(say("other_base_left", "A rest of the other base is inside: counted as water."))
    if product.base.glycol is not t.glycol:
        doubt.rebased(t, product.base.glycol)
    t.contents = t.contents.with_base(product.base.glycol, poured=bool(t.job.pours))
    t.base = product.base


def corrected(t: LedgerFold, facts: StrengthAdjusted, entry: Entry) -> None:
    """Some of the mixed loop out, something else in: from here the balance starts at what was read."""
    job = t.job
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    if together is not None:
        agree = readings_agree(t, together)
        w, sd_w = best_w(t, together, agree), together.sd_mass_percent / 100
        t.contents = t.contents.read_as(VolumePercent(min(100.0, strength_of(t.glycol, MassFraction(w)))))
        job.fill.read_sd_percent = strength_of(t.glycol, MassFraction(w)) - strength_of(
            t.glycol, MassFraction(max(0.0, w - sd_w))
        )
        if not agree:  # the litres were wrong somewhere: what was read is where it starts again
            doubt.begin_as_read(t, w, sd_w)
    else:
        t.contents = t.contents.circulate()
    sd = facts.out_l * t.policy["drained_sd_weighed"] / 100
    t.contents = t.contents.lose(facts.out_l)
    thinned(t, facts.product_l, facts.water_l)
    doubt.ran_through(t)
    doubt.lost(t, facts.out_l, entry.id, weighed=True)
    doubt.poured(t, facts.product, facts.product_l, facts.water_l, entry.id, at_mark=True)
    missing = max(0.0, t.loop.capacity_l - t.contents.total_l)
    job.drained = DrainedVolume(facts.out_l, sd, {}, missing)
    water = Water.DEMINERALISED if facts.water_l > 0 else None
    pour = Poured(facts.product, facts.product_l, facts.water_l, water, at_mark=True)
    t.contents = poured_into(t.contents, pour, t.glycol)
    if facts.product is not None:
        job.product = facts.product
    job.pours, job.mix.poured_before, job.fill.pour_ids = [pour], 1, [(entry.id, entry.happened_at, entry.person)]
    job.verify.readings = [(i, r) for i, r in job.verify.readings if r.place is Place.AS_FOUND]
    job.verify.proof, job.circulated = None, False
    job.fill.corrected, job.fill.finish = (entry.id, facts), None
    t.strength_known = True
