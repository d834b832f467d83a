"""Walk the ledger's facts of filling, bleeding, correcting, the last look, and what is done between services."""

from __future__ import annotations

from dataclasses import replace

from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.instruments import repeats
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.effects import engine_ran, gate_at
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    Corrected,
    LookedUnder,
    Poured,
    VacuumPulled,
    Water,
)
from temper_core.job.fold_questions import finished_questions
from temper_core.job.fold_state import Dilution, LedgerFold
from temper_core.job.life.age import AgePart, refilled
from temper_core.job.open.facts import EngineRun
from temper_core.job.readings import Place
from temper_core.job.snapshot import left_read
from temper_core.job.verify.facts import FinishChecked
from temper_core.machine.bleed_run import BleedRun, Mark, heated
from temper_core.machine.bleeding import HOT_SIGNS, THERMOSTAT_SIGNS, BleedOutcome, FinishSign
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Fluid
from temper_core.science import Glycol, strength_of
from temper_core.science.density import density_20c


def apply_fill(t: LedgerFold, entry: Entry) -> bool:
    """Let an entry act on the tally, if it is one of these."""
    fill = t.fill
    match entry.facts:
        case Closed() as facts:
            fill.shut.update(facts.points)
        case LookedUnder() as facts:
            fill.under = facts
        case VacuumPulled() as facts:
            fill.vacuum = (entry.id, facts, t.contents.room_l)
        case BleedStarted() as facts:
            gate = gate_at(t, entry.happened_at)
            may_open = gate.passed_before or gate.never_under_pressure
            fill.run = BleedRun(entry.id, facts.recipe, entry.happened_at, entry.person, may_open)
        case BleedStepped() as facts if fill.run is not None:
            fill.run.marks.append((entry.happened_at, Mark.STEPPED, facts.step))
        case BleedHeld() if fill.run is not None:
            fill.run.marks.append((entry.happened_at, Mark.HELD, 0))
        case BleedGoesOn() if fill.run is not None:
            fill.run.marks.append((entry.happened_at, Mark.GOES_ON, 0))
        case BleedEnded() as facts:
            _bleed_ended(t, facts, entry)
        case Corrected() as facts:
            _corrected(t, facts, entry)
        case FinishChecked() as facts:
            fill.finish = (entry.id, facts)
        case LevelSeen() as facts:
            t.levels.append((entry.happened_at, facts))
        case Amended() as facts:
            t.amendments.append((entry, facts))
        case BleedStepped() | BleedHeld() | BleedGoesOn():
            pass  # of a bleed that was taken back
        case _:
            return False
    return True


def _bleed_ended(t: LedgerFold, facts: BleedEnded, entry: Entry) -> None:
    """What circulated is one fluid; what was felt before holds no more, unless the neck stood open throughout."""
    run = t.fill.run
    steps = heated(run, entry.happened_at) if run else []
    signs = set(facts.signs)
    finished = facts.outcome is BleedOutcome.FINISHED
    hot = bool(signs & HOT_SIGNS) or facts.outcome in (BleedOutcome.OVERHEATING, BleedOutcome.NO_HEAT)
    if steps or hot:  # what was felt says that it ran, whatever step the runner stood at
        neck_open = bool(steps) and all(step.neck_open for step in steps) if run else facts.neck_open
        minutes = (entry.happened_at - run.started_at).total_seconds() / 60 if run else None
        opened = finished and bool(signs & THERMOSTAT_SIGNS)
        ran = EngineRun(
            minutes=min(1440.0, minutes) if minutes is not None else None,
            opened=opened,
            heater_full=finished and FinishSign.HEATER_HOT in signs,
            neck_open=neck_open,
        )
        engine_ran(t, ran, entry)
    elif finished and FinishSign.SWIRL in signs:  # an electric pump moved it all
        t.contents, t.mixed = t.contents.circulate(), True
    t.fill.ended.append((entry.id, entry.happened_at, facts))
    t.fill.run = None


def _corrected(t: LedgerFold, facts: Corrected, entry: Entry) -> None:
    """Some of the mixed loop out, something else in: from here the balance starts at what was read."""
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    if together is not None:
        t.contents = t.contents.read_as(VolumePercent(min(100.0, together.strength_percent)))
        w, sd_w = together.glycol_mass_percent / 100, together.sd_mass_percent / 100
        t.fill.read_sd_percent = strength_of(t.glycol, MassFraction(w)) - strength_of(
            t.glycol, MassFraction(max(0.0, w - sd_w))
        )
    else:
        t.contents = t.contents.circulate()
    sd = facts.out_l * t.policy["drained_sd_weighed"] / 100
    t.contents = t.contents.lose(facts.out_l)
    missing = max(0.0, t.loop.capacity_l - t.contents.total_l)
    t.drained = DrainedVolume(facts.out_l, sd, {}, missing)
    water = Water.DEMINERALISED if facts.water_l > 0 else None
    pour = Poured(facts.product, facts.product_l, facts.water_l, water, at_mark=True)
    t.contents = poured_into(t.contents, pour, t.glycol)
    if facts.product is not None:
        t.product = facts.product
    t.pours, t.poured_before_plan, t.fill.pour_ids = [pour], 1, [(entry.id, entry.happened_at, entry.person)]
    t.readings, t.proof, t.mixed = [(i, r) for i, r in t.readings if r.place is Place.AS_FOUND], None, False
    t.fill.corrected, t.fill.finish = (entry.id, facts), None
    t.strength_known = True


def poured_into(contents: Contents, facts: Poured, glycol: Glycol, other_l: float = 0.0) -> Contents:
    """These litres poured in, so many of them coolant of another base."""
    w = MassFraction(facts.product.glycol_mass_percent / 100 if facts.product else 0.0)
    product_kg = facts.product_l * density_20c(glycol, w) / 1000
    water_kg = facts.water_l * WATER_DENSITY_20C / 1000
    return contents.pour(product_kg * w, product_kg * (1 - w) + water_kg, other_l=other_l)


def poured_between(t: LedgerFold, facts: Poured, entry: Entry) -> None:
    """A top-up without a job is a dilution: what went in was missing before, of the mixed loop."""
    litres = facts.product_l + facts.water_l
    strength = t.contents.strength if t.strength_known else None
    other = facts.product is not None and t.base not in (None, Base.NONE) and facts.product.base is not t.base
    counted = Poured(None, 0.0, litres, Water.DEMINERALISED) if other else facts  # of another base: counts as water
    t.contents = poured_into(t.contents.circulate().lose(litres), counted, t.glycol, litres if other else 0.0)
    if facts.product is not None:
        meter = t.meters[-1][1] if t.meters else None
        distance_km, hours = (meter.distance_km, meter.hours) if meter else (None, None)
        fresh = AgePart(1.0, entry.happened_at.date(), distance_km, hours, facts.product.family)
        t.parts = refilled(t.parts, 1 - litres / t.loop.capacity_l, fresh)
    now = t.contents.strength if t.strength_known else None
    t.found = Fluid(t.found.base, t.found.family, now)
    if facts.product is not None and facts.product.family not in t.families:
        t.families = (*t.families, facts.product.family)
    before = t.diluted[-1].was_read if t.diluted else left_read(t)
    was_read = t.read_since is not None or before
    t.diluted.append(Dilution(entry.id, entry.happened_at, facts, strength, now, other, was_read))
    t.read_since = None
    t.strength_read = False


def read_between(t: LedgerFold, strength: float, entry: Entry) -> None:
    """A reading without a job: what is inside is what it says."""
    t.contents = t.contents.as_found(VolumePercent(strength))
    t.found = replace(t.found, strength_percent=strength)
    t.strength_known = t.strength_read = True
    t.read_since = entry.happened_at
    t.reads.append(entry.happened_at)
