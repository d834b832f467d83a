"""What one fact does to more than one stage: an engine that ran, something that was opened, coolant that went in."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction
from temper_core.calculate.cooldown import HORIZON_MIN
from temper_core.job.doubt.record import note_round, ran
from temper_core.job.drain.facts import Drained
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import Poured, Water
from temper_core.job.fill.progress import Filling
from temper_core.job.flush.facts import Method, RoundFilled, VesselRinsed
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.questions import cooled
from temper_core.job.inside.rounds import groups_of, run, solids_of
from temper_core.job.loop import COOLING
from temper_core.job.open.facts import EngineRun
from temper_core.job.open.rules import judge_gate
from temper_core.job.open.state import Gate
from temper_core.job.read.facts import Place
from temper_core.job.waiting.facts import Clock
from temper_core.machine.circuit import Layout
from temper_core.machine.contents import Contents
from temper_core.products.water import WaterKind
from temper_core.science import Glycol
from temper_core.science.density import density_20c


def gate_at(t: LedgerFold, when: datetime) -> Gate:
    """The safe-to-open check as it stood then; what stands ready is not asked."""
    return judge_gate(t.job.open.observation, t.loop.equipment, t.policy, when, t.loop.high_voltage)


def engine_ran(t: LedgerFold, facts: EngineRun, entry: Entry) -> None:
    """Whatever circulated is one fluid, and what was felt before no longer counts."""
    t.job.open.observation = t.job.open.observation.after_run(facts) if t.job.open.observation else None
    t.ran_seq = max(t.ran_seq, entry.seq)
    t.job.waiting.stopped, t.job.waiting.warm = (entry.id, entry.happened_at), []
    t.job.waiting.clocks = [row for row in t.job.waiting.clocks if row[1].clock is not Clock.WARM_UP]
    groups = groups_of(t.contents, t.loop.equipment, facts)
    through = len(groups) == 1 and len(groups[0]) == len(t.contents.by_vessel)
    t.job.dosing.circulated = t.job.dosing.circulated or through
    if t.job.drained is not None:
        t.job.circulated = t.job.circulated or through
        t.contents = run(t.job.flush, t.contents, t.loop.equipment, facts)
        row = t.job.flush.in_work
        ran(t, groups, row is not None and isinstance(row.facts, RoundFilled) and row.facts.fill_l is None)
        if row is not None:
            note_round(t, row.number, max(groups, key=len, default=[]))


def opened_by(facts: Drained | VesselRinsed, layout: Layout) -> tuple[str, ...]:
    """What a drain or a sweep had open: drains by their letter, vessels whose hoses were off."""
    letters = {drain.letter: drain for drain in layout.drains}
    if isinstance(facts, VesselRinsed):
        if facts.method in (Method.HOSE_FLOW, Method.PARTS):
            return tuple(f"hose:{vessel}" for vessel in facts.litres)
        return tuple(f"drain:{letter}" for letter in letters)
    places = [row.where for row in facts.caught if row.where]
    if facts.by_vessel:
        reached = [x for x, drain in letters.items() if any(facts.by_vessel.get(v, 0) > 0 for v in drain.share)]
        return tuple(f"drain:{letter}" for letter in reached)
    if not places:
        return tuple(f"drain:{letter}" for letter in letters)
    return tuple(f"drain:{place}" if place in letters else f"hose:{place}" for place in dict.fromkeys(places))


def note_opened(filling: Filling, facts: Drained | VesselRinsed, layout: Layout) -> None:
    """What was open has to be shut again; what was filled and bled before is over."""
    for key in opened_by(facts, layout):
        if key not in filling.opened:
            filling.opened.append(key)
    filling.shut, filling.under, filling.vacuum, filling.pour_ids = set(), None, None, []
    filling.run, filling.ended, filling.corrected, filling.finish = None, [], None, None
    filling.read_sd_percent = None


def opened_up(t: LedgerFold, out: DrainedVolume | None) -> None:
    """What stays inside has changed: the mix is to be planned again."""
    job = t.job
    learn_cooling(t)
    job.drained, job.pours, job.mix.poured_before, job.verify.proof = out, [], 0, None
    job.waiting.stopped, job.waiting.warm = None, []
    job.waiting.clocks = [row for row in job.waiting.clocks if row[1].clock is Clock.VACUUM_HOLD]
    if job.mix.planned:
        job.mix.planned = replace(job.mix.planned, target_freeze_c=None, concentrate_l=None, water_l=None)
    job.verify.readings = [(i, r) for i, r in job.verify.readings if r.place is Place.AS_FOUND]


LEAST_POINTS, MOST_LEARNED = 2, 5


def learn_cooling(t: LedgerFold) -> None:
    """Temperatures logged since the last run teach how this loop cools; the last few of its jobs count."""
    if t.job.waiting.stopped is None or len(t.job.waiting.warm) < LEAST_POINTS:
        return
    try:
        answer = cooled(t)
    except CoreError:
        return
    if answer.points_counted >= LEAST_POINTS and 1 <= answer.time_constant_min <= HORIZON_MIN:
        t.life.cooled_min = [*t.life.cooled_min, answer.time_constant_min][-MOST_LEARNED:]
        t.job.lesson.append((COOLING, answer.time_constant_min))


def poured_into(
    contents: Contents, facts: Poured, glycol: Glycol, other_l: float = 0.0, policy: Policy | None = None
) -> Contents:
    """These litres poured in, so many of them coolant of another base; what the water would leave behind goes along."""
    w = MassFraction(facts.product.glycol_mass_percent / 100 if facts.product else 0.0)
    product_kg = facts.product_l * density_20c(glycol, w) / 1000
    water_kg = facts.water_l * WATER_DENSITY_20C / 1000
    kind = WaterKind.TAP if facts.water is Water.TAP else WaterKind.DEMINERALISED
    solids_mg = facts.water_l * solids_of(kind, facts.solids_mg_l, policy or Policy())
    return contents.pour(product_kg * w, product_kg * (1 - w) + water_kg, solids_mg=solids_mg, other_l=other_l)
