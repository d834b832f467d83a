"""Walk a loop's ledger: what each entry does to the fluid inside and to the job."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments import Edge, read, repeats
from temper_core.instruments.trend import TrendPoint
from temper_core.job.entries import Acknowledged, Entry, JobOpened, PhotoAdded, Voided
from temper_core.job.fill.apply import apply_fill, poured_between, poured_into, read_between
from temper_core.job.fill.facts import Poured
from temper_core.job.fill.progress import Filling, entry_key
from temper_core.job.flush.apply import apply_flush
from temper_core.job.flush.rounds import Flush
from temper_core.job.fold_questions import finished_questions
from temper_core.job.fold_state import LedgerFold, start
from temper_core.job.identify.facts import Metered, ReportedContents, ToppedUp
from temper_core.job.inspect.decision import Routed, Skipped
from temper_core.job.inspect.facts import Check, Tested
from temper_core.job.job_types import ROUTE_NAMES, Route
from temper_core.job.life.age import AgePart, refilled
from temper_core.job.loop import Loop
from temper_core.job.mix.facts import Planned
from temper_core.job.readings import Listed, Place, Read, answer_of, counted, question_of, steps_of
from temper_core.job.snapshot import LoopSnapshot, start_from
from temper_core.job.state import Override, Seen
from temper_core.job.verify.facts import SignedOff
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Fluid, Product
from temper_core.products.compatibility import old_limit_percent
from temper_core.science import Glycol, mass_fraction_at_freeze, strength_of


def _job_opened(t: LedgerFold, facts: JobOpened, entry: Entry) -> None:
    if facts.found is not None:
        t.found, t.strength_read = facts.found, False
    elif t.signed_at is not None and t.product is not None:
        t.found = Fluid(t.product.base, t.product.family, t.inside_strength_percent)
        t.strength_read = t.read_since is not None or (bool(finished_questions(t)) and not t.diluted)
    t.base = t.found.base
    glycol = (t.base.glycol if t.base else None) or Glycol.ETHYLENE
    strength = VolumePercent(t.found.strength_percent or 0.0)
    t.strength_known = t.found.strength_percent is not None or t.base is Base.NONE
    other = 0.0 if facts.found is not None else t.other_percent
    t.contents = Contents.full(t.loop.layout, glycol, strength).with_other(other / 100)
    t.conductivity, t.watered = None, False
    t.job_id, t.route, t.opened_at, t.signed_at = entry.job_id, facts.route, entry.happened_at, None
    t.asked, t.told, t.routed, t.seen, t.skipped = facts.route, None, None, [], []
    t.ready, t.isolated = {}, False
    t.observation, t.flush, t.clocks, t.stopped, t.warm, t.paused, t.hands = None, Flush(), [], None, [], None, None
    t.planned, t.drained, t.product, t.proof, t.mixed = None, None, None, None, True
    t.fill, t.levels, t.diluted, t.read_since, t.amendments = Filling(), [], [], None, []
    t.reads = []
    t.pours, t.readings, t.flags, t.poured_before_plan, t.before_sign_off = [], [], [], 0, None


def _told(t: LedgerFold, facts: ReportedContents) -> None:
    """What is said of the filling replaces what was believed of it, but not what was read of its strength."""
    t.told = facts
    unsure = facts.topped_up in (ToppedUp.OTHER, ToppedUp.UNKNOWN)
    family = None if facts.topped_up is ToppedUp.OTHER else facts.family
    strength = t.found.strength_percent if t.strength_read or not unsure else None
    if facts.topped_up is ToppedUp.WATER and not t.strength_read:
        strength = None
    t.found = Fluid(facts.base, family, strength)
    t.families = (facts.family,) if facts.family else ()
    if facts.changed_on is not None or facts.changed_km is not None or facts.changed_hours is not None:
        t.parts = (AgePart(1.0, facts.changed_on, facts.changed_km, facts.changed_hours, facts.family),)
    if t.drained is None and not t.pours:
        other = t.other_percent
        t.base = facts.base
        glycol = (t.base.glycol if t.base else None) or Glycol.ETHYLENE
        t.strength_known = strength is not None or t.base is Base.NONE
        t.contents = Contents.full(t.loop.layout, glycol, VolumePercent(strength or 0.0)).with_other(other / 100)


def _routed(t: LedgerFold, facts: Routed, entry: Entry) -> None:
    t.routed, t.route = facts, facts.route
    if facts.overrides:
        names = {"route": ROUTE_NAMES[facts.route], "advised": ROUTE_NAMES[facts.advised]}
        said = say("against_advice", "{route}, against advice ({advised}): {why}", why=facts.reason, **names)
        t.overrides.append(Override(entry.id, entry.job_id, entry.happened_at, entry.person, facts, False, said))


def _acknowledged(t: LedgerFold, facts: Acknowledged) -> None:
    t.overrides = [replace(row, acknowledged=True) if row.entry_id == facts.entry_id else row for row in t.overrides]


def _signed(t: LedgerFold, facts: SignedOff, entry: Entry) -> None:
    t.signed_at, t.proof = entry.happened_at, facts.proof
    t.observation = replace(t.observation, left=True) if t.observation else None
    if t.product is not None:
        _renewed(t, entry)
        if t.route is not Route.TOP_UP:
            t.strengths = _left_strength(t, entry)
    if t.route is Route.CLEAN:
        t.cleaned_at.append(entry.happened_at)
    _trust_readings(t)


def _left_strength(t: LedgerFold, entry: Entry) -> list[TrendPoint]:
    """From a service on the history begins again, at what was read, or at what the litres say."""
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    strength = together.strength_percent if together else strength_of(t.glycol, t.contents.total.glycol_w)
    return [TrendPoint(entry.happened_at, strength)]


def _renewed(t: LedgerFold, entry: Entry) -> None:
    """What the filling is from now on: a mixture keeps every family that stayed beyond its limit."""
    product = t.product
    if product is None:
        return
    limit = old_limit_percent(product, t.found, t.policy)
    stayed = limit is not None and t.finished_old_percent > limit
    old = t.families if stayed else ()
    t.families = (product.family, *(family for family in old if family is not product.family))
    t.parts = refilled(t.parts, t.finished_old_percent / 100, _fresh(t, product, entry))


def _fresh(t: LedgerFold, product: Product, entry: Entry) -> AgePart:
    """What went in, of today and of the meters as last seen."""
    meter = t.meters[-1][1] if t.meters else None
    distance_km, hours = (meter.distance_km, meter.hours) if meter else (None, None)
    return AgePart(1.0, entry.happened_at.date(), distance_km, hours, product.family)


def _planned(t: LedgerFold, facts: Planned, entry: Entry) -> None:
    t.planned = facts
    if facts.reason.strip():
        said = say("emergency", "{product}, for emergencies only: {why}", product=facts.product.name, why=facts.reason)
        t.overrides.append(Override(entry.id, entry.job_id, entry.happened_at, entry.person, None, False, said))
    t.poured_before_plan = len(t.pours)


def _poured(t: LedgerFold, facts: Poured, entry: Entry) -> None:
    if t.route is Route.TOP_UP and t.drained is None:  # what goes in was missing before, of the mixed loop
        t.contents = t.contents.lose(facts.product_l + facts.water_l)
    if facts.product:
        t.product = facts.product
        _change_base(t, facts.product)
    t.contents = poured_into(t.contents, facts, t.glycol)
    t.pours.append(facts)
    t.conductivity = None
    t.watered = t.watered or (t.loop.need.low_conductivity and facts.water_l > 0)
    t.fill.pour_ids.append(entry_key(entry))
    t.mixed = False
    t.proof = None


def _change_base(t: LedgerFold, product: Product) -> None:
    if t.base is None and t.found.base is None:  # nobody knows what is inside: as bad as another base
        t.contents = t.contents.old_is_other()
    if product.base is t.base or product.base.glycol is None:
        t.base = t.base if t.base is not None and product.base is not t.base else product.base
        return
    if t.contents.total_l > 0.05 and t.base not in (None, Base.NONE):
        t.flags.append(say("other_base_left", "A remainder of the other base is inside: it is counted as water."))
    t.contents = t.contents.with_base(product.base.glycol, poured=bool(t.pours))
    t.base = product.base


def _read(t: LedgerFold, facts: Read, entry: Entry) -> None:
    t.readings.append((entry.id, facts))
    t.proof = None
    _note_strength(t, facts, entry)
    if facts.place is Place.AS_FOUND and facts.instrument is not None:
        _flag_found(t, facts)
    if facts.edge is not Edge.SHARP:
        return
    if facts.place is Place.AS_FOUND and t.drained is None and not t.pours:
        strength = found_strength(t.glycol, facts, t.policy)
        if strength is not None:
            t.found = replace(t.found, strength_percent=strength)
            t.strength_known, t.strength_read = True, facts.instrument is None or counted(facts)
            t.contents = t.contents.as_found(VolumePercent(strength))
    if facts.place is Place.FINISHED and facts.after_hot_run:
        t.contents = t.contents.circulate()
        t.mixed = True


def _note_strength(t: LedgerFold, facts: Read, entry: Entry) -> None:
    """A reading of the loop for its history, with what its instrument leaves open; told figures count without a doubt."""
    if facts.place is Place.RINSE or (facts.place is Place.FINISHED and not facts.after_hot_run):
        return
    if facts.instrument is not None and not counted(facts):
        return
    strength, sd = found_strength(t.glycol, facts, t.policy), _reading_sd(t, facts) or 0.0
    if strength is not None:
        t.strengths.append(TrendPoint(entry.happened_at, strength, sd))


def _reading_sd(t: LedgerFold, facts: Read) -> float | None:
    """Standard deviation that its instrument leaves a reading [% by volume]; None where it was told."""
    if facts.instrument is None or not counted(facts):
        return None
    answer = read(question_of(t.glycol, facts), t.policy)
    return answer.spread.strength_percent if answer.spread else None


def _flag_found(t: LedgerFold, facts: Read) -> None:
    """What is to be known of a reading of the fluid as found: a wrong scale, a mixture, a zero that is off."""
    known = {said.code for said in t.flags}
    answer = answer_of(t.base, facts, t.policy, mixed=bool(t.told and t.told.mixed))
    t.flags += [say(flag.code, flag.message) for flag in answer.flags if flag.code not in known]


def found_strength(glycol: Glycol, facts: Read, policy: Policy) -> float | None:
    """Strength [% by volume] that a reading of the fluid as found comes to; of steps, the middle. None off scale."""
    if facts.instrument is None:
        return strength_of(glycol, mass_fraction_at_freeze(glycol, facts.value, facts.branch))
    steps = steps_of(glycol, facts, policy)
    if steps is not None:
        return steps.middle_percent
    answer = read(question_of(glycol, facts), policy)
    if answer.below_detection:
        return 0.0
    return answer.strength_percent


def _trust_readings(t: LedgerFold) -> None:
    """What leaves the bay is as strong as it read, not as strong as the litres said."""
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    if together is not None:
        t.before_sign_off = t.contents
        t.contents = t.contents.read_as(VolumePercent(min(100.0, together.strength_percent)))


def apply(t: LedgerFold, entry: Entry) -> None:
    """Let one entry act on the tally."""
    if apply_flush(t, entry) or apply_fill(t, entry):
        return
    match entry.facts:
        case JobOpened() as facts:
            _job_opened(t, facts, entry)
        case Planned() as facts:
            _planned(t, facts, entry)
        case Poured() as facts if entry.job_id is None:
            poured_between(t, facts, entry)
        case Listed():
            pass
        case Read() as facts if entry.job_id is None:
            told_or_read = facts.instrument is None or counted(facts)
            strength = found_strength(t.glycol, facts, t.policy) if told_or_read else None
            if strength is not None:
                read_between(t, strength, entry)
                t.read_since_sd = _reading_sd(t, facts)
                _note_strength(t, facts, entry)
        case Poured() as facts:
            _poured(t, facts, entry)
        case Read() as facts:
            _read(t, facts, entry)
        case SignedOff() as facts:
            _signed(t, facts, entry)
        case _:
            _apply_test(t, entry)


def _apply_test(t: LedgerFold, entry: Entry) -> None:
    """Facts of know and test: what is told, seen, skipped and decided."""
    match entry.facts:
        case ReportedContents() as facts:
            _told(t, facts)
        case Metered() as facts:
            t.meters.append((entry.happened_at, facts))
        case Tested() as facts:
            t.seen.append(Seen(entry.id, None, facts))
            if facts.check is Check.CONDUCTIVITY and t.pours:
                t.conductivity = (entry.id, facts, t.mixed)
        case Skipped() as facts:
            t.skipped.append(facts)
        case Routed() as facts:
            _routed(t, facts, entry)
        case Acknowledged() as facts:
            _acknowledged(t, facts)
        case PhotoAdded() | Voided():
            pass  # pictures hang on entries; voids are taken out by standing()


def standing(entries: Iterable[Entry]) -> list[Entry]:
    """Entries in ledger order without the voided ones and without the voids."""
    entries = sorted(entries, key=lambda entry: entry.order)
    voided = {entry.facts.entry_id for entry in entries if isinstance(entry.facts, Voided)}
    return [entry for entry in entries if entry.id not in voided and not isinstance(entry.facts, Voided)]


def open_job(entries: Iterable[Entry]) -> tuple[str | None, bool]:
    """The last job of a ledger, and whether it is signed off, by its entries alone."""
    job_id, signed = None, False
    for entry in standing(entries):
        if isinstance(entry.facts, JobOpened):
            job_id, signed = entry.job_id, False
        elif isinstance(entry.facts, SignedOff):
            signed = True
    return job_id, signed


def walk(loop: Loop, entries: Sequence[Entry], policy: Policy, carried: LoopSnapshot | None = None) -> LedgerFold:
    """Walk the ledger once; with carried, only what came after the job that handed it on."""
    t = start(loop, policy) if carried is None else start_from(loop, policy, carried)
    for entry in standing(entries):
        apply(t, entry)
        t.changed_at = entry.happened_at
    if entries:
        t.last_entry_id = max(entries, key=lambda entry: (entry.seq, entry.recorded_at, entry.id)).id
    return t
