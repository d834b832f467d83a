"""Walk the ledger's facts of opening, draining, flushing and waiting: what each does to the tally."""

from __future__ import annotations

import math
from dataclasses import replace

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.calculate.cooldown import HORIZON_MIN
from temper_core.instruments import read
from temper_core.job.drain.facts import Drained
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.effects import engine_ran, note_opened
from temper_core.job.entries import Entry
from temper_core.job.flush.facts import FlushEnded, RoundFilled, VesselRinsed, WasteKept
from temper_core.job.flush.rinse_reading import Found, read_rinse
from temper_core.job.flush.rounds import Round, drain, fill, sweep
from temper_core.job.fold_questions import cooled, enough_of, out_of
from temper_core.job.fold_state import LedgerFold, capacity_sd_l
from temper_core.job.inspect.facts import Check, Sampled, Tested
from temper_core.job.open.facts import EngineRun, GateObserved, Ready, ReadyConfirmed, Warmth
from temper_core.job.open.state import Observation
from temper_core.job.readings import Place, Read, counted, question_of
from temper_core.job.state import Seen
from temper_core.job.waiting.facts import Clock, ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged

LEAST_POINTS, MOST_LEARNED = 2, 5


def apply_flush(t: LedgerFold, entry: Entry) -> bool:
    """Let an entry act on the tally, if it is one of these."""
    match entry.facts:
        case Drained() as facts:
            _drained(t, facts, entry)
        case RoundFilled() as facts:
            _filled(t, facts, entry)
        case VesselRinsed() as facts:
            _swept(t, facts, entry)
        case EngineRun() as facts:
            engine_ran(t, facts, entry)
        case Read(place=Place.RINSE) as facts:
            _read_rinse(t, facts, entry)
        case Tested(check=Check.COMBUSTION_GAS) if t.observation is not None:
            t.seen.append(Seen(entry.id, None, entry.facts))
            t.observation = t.observation.after_run(EngineRun(neck_open=True))  # the engine warmed it for the test
            t.stopped, t.warm = (entry.id, entry.happened_at), []
        case Sampled() as facts:
            _sampled(t, facts, entry)
        case FlushEnded() as facts:
            _flush_ended(t, facts)
        case WasteKept() as facts:
            t.flush.waste.append(facts)
        case _:
            return _apply_waiting(t, entry)
    return True


def _round(t: LedgerFold, entry: Entry, facts: RoundFilled | VesselRinsed | None) -> Round:
    number = 1 + sum(1 for row in t.flush.rounds if row.facts is not None) if facts is not None else 0
    return Round(number, entry.id, entry.happened_at, entry.person, facts)


def _drained(t: LedgerFold, facts: Drained, entry: Entry) -> None:
    held, alone = t.contents.total_l, out_of(t, facts)
    out = alone
    if t.drained is not None and t.flush.in_work is None and not t.pours:  # more of the same drain: its doubt adds up
        out = replace(out, sd_l=math.hypot(t.drained.sd_l, out.sd_l))
    if out.litres > held + 0.05:
        t.flags.append(
            say("more_than_inside", "{out_l} out of {held_l} cannot be: void the entry.", out_l=out.litres, held_l=held)
        )
    before = t.contents
    t.contents = before.drain(out.litres, out.by_vessel)
    drain(t.flush, before, t.contents, alone, capacity_sd_l(t.loop, t.policy), _round(t, entry, None), bool(t.pours))
    if facts.ran_with_cap_on:
        t.flags.append(say("ran_with_cap_on", "It ran freely with the cap on: air gets in somewhere. Pressure test first."))
    note_opened(t.fill, facts, t.loop.layout)
    _opened_up(t, out)


def _opened_up(t: LedgerFold, out: DrainedVolume | None) -> None:
    """What stays inside has changed: the mix is to be planned again."""
    _learn_cooling(t)
    t.drained, t.pours, t.poured_before_plan, t.proof = out, [], 0, None
    t.stopped, t.warm, t.clocks = None, [], [row for row in t.clocks if row[1].clock is Clock.VACUUM_HOLD]
    if t.planned:
        t.planned = replace(t.planned, target_freeze_c=None, concentrate_l=None, water_l=None)
    t.readings = [(i, r) for i, r in t.readings if r.place is Place.AS_FOUND]


def _learn_cooling(t: LedgerFold) -> None:
    """Temperatures logged since the last run teach how this loop cools; the last few of its jobs count."""
    if t.stopped is None or len(t.warm) < LEAST_POINTS:
        return
    try:
        answer = cooled(t)
    except CoreError:
        return
    if answer.points_counted >= LEAST_POINTS and 1 <= answer.time_constant_min <= HORIZON_MIN:
        t.cooled_min = [*t.cooled_min, answer.time_constant_min][-MOST_LEARNED:]


def _filled(t: LedgerFold, facts: RoundFilled, entry: Entry) -> None:
    t.contents = fill(t.flush, t.contents, _round(t, entry, facts), t.policy)
    if not t.strength_known:
        t.flags.append(say("rinsed_unknown", "Strength as found was never read: what is left is counted as water."))


def _swept(t: LedgerFold, facts: VesselRinsed, entry: Entry) -> None:
    t.contents = sweep(t.flush, t.contents, _round(t, entry, facts), t.policy)
    sd = t.drained.sd_l if t.drained else 0.0
    missing = t.contents.layout.volume_l - t.contents.total_l
    note_opened(t.fill, facts, t.loop.layout)
    _opened_up(t, DrainedVolume(missing, sd, {}, missing))


def _read_rinse(t: LedgerFold, facts: Read, entry: Entry) -> None:
    """A reading of the last round; without an instrument, or before the first drain, it says nothing."""
    if not counted(facts) or not t.flush.rounds:
        return
    row, answer = t.flush.rounds[-1], read(question_of(t.glycol, facts), t.policy)
    sd = t.policy["inside_sd_read" if t.strength_read else "inside_sd_unread"]
    found = Found(t.found.strength_percent if t.strength_known else None, sd)
    row.read = (entry.id, answer)
    agreement = t.policy["agreement_sds"]
    t.contents, row.said = read_rinse(t.flush, t.contents, answer, found, agreement, t.loop.equipment)


def _sampled(t: LedgerFold, facts: Sampled, entry: Entry) -> None:
    """A sample of the test; once drained, the jar of the last round."""
    if t.flush.rounds:
        t.flush.rounds[-1].sampled = (entry.id, facts)
    else:
        t.seen.append(Seen(entry.id, facts, None))


def _flush_ended(t: LedgerFold, facts: FlushEnded) -> None:
    t.flush.early = not enough_of(t).enough
    t.flush.ended = facts


def _apply_waiting(t: LedgerFold, entry: Entry) -> bool:
    """Facts of waiting: what was felt, clocks, temperatures, pauses."""
    match entry.facts:
        case GateObserved() as facts:
            between = entry.job_id is None
            t.observation = Observation(entry.id, entry.happened_at, entry.person, entry.person_id, facts, between=between)
            if t.ran_seq > entry.seq:
                t.observation = t.observation.after_run(EngineRun())
            t.ready |= dict.fromkeys(facts.ready, entry.happened_at)
            t.isolated = t.isolated or Ready.ISOLATED in facts.ready
            if facts.temperature_c is not None and facts.warmth is not Warmth.HAND:
                t.warm.append((entry.happened_at, facts.temperature_c))
        case ReadyConfirmed() as facts:
            t.ready |= dict.fromkeys(facts.ready, entry.happened_at)
        case TemperatureLogged() as facts:
            t.warm.append((entry.happened_at, facts.c))
        case ClockStarted() as facts:
            t.clocks.append((entry, facts))
            if facts.clock is Clock.WARM_UP:  # the engine runs
                t.observation = t.observation.after_run(EngineRun()) if t.observation else None
                t.ran_seq = max(t.ran_seq, entry.seq)
                t.stopped, t.warm = None, []
        case ClockStopped() as facts:
            t.clocks = [row for row in t.clocks if row[0].id != facts.entry_id]
        case Paused() as facts:
            t.paused, t.ready = (entry, facts), {}
            t.observation = replace(t.observation, handed_on=True) if t.observation else None
        case Resumed():
            t.paused, t.hands, t.ready = None, (entry.person_id, entry.person), {}
            t.observation = replace(t.observation, handed_on=True) if t.observation else None
        case _:
            return False
    return True
