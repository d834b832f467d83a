"""Fold a loop's ledger into its state: what is inside, how far it protects, which stage, what hands do next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.calculate.mix import suggested_target_c, target_note
from temper_core.instruments.sameness import Sameness
from temper_core.job.between.state import AfterState
from temper_core.job.between.view import after_of
from temper_core.job.dose.view import dose_state, inhibitor_of
from temper_core.job.doubt.how_sure import how_sure
from temper_core.job.entries import Entry
from temper_core.job.entry_kind import Registry
from temper_core.job.fill.view import fill_of
from temper_core.job.flush.view import flush_of, standing_words
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.balance import learned_capacity, mix_capacity_l, mix_inside, plan_glycol
from temper_core.job.inside.claim import _top_up_share, claim_of, frost_risk
from temper_core.job.inside.gate import gate_now
from temper_core.job.inside.judgement import judgement_of, likely_of
from temper_core.job.inside.questions import coldest_of, finished_readings
from temper_core.job.inside.verdict import Prediction
from temper_core.job.inside.vessels import inside_of, pours_of, vessels_of
from temper_core.job.inspect.advice import due_of, inspection_of
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.life.due import Due
from temper_core.job.life.snapshot import LoopSnapshot
from temper_core.job.loop import Loop
from temper_core.job.loop_state import Claim, LoopState, PlanState, ReadingState
from temper_core.job.next_action import next_action
from temper_core.job.parking.facts import Parking
from temper_core.job.read.facts import Place, answer_of, steps_of
from temper_core.job.stages import current_stage, stage_line
from temper_core.job.verify.causes import causes_of
from temper_core.job.verify.correction import correction_of, finish_of
from temper_core.job.waiting.view import pause_of, timers_of
from temper_core.products.chemistry import Base
from temper_core.science import freeze_point


def fold(
    loop: Loop,
    entries: Sequence[Entry],
    policy: Policy | None = None,
    now: datetime | None = None,
    snapshot: LoopSnapshot | None = None,
    registry: Registry = REGISTRY,
) -> LoopState:
    """State of a loop from its record.

    entries: all entries of this loop, in any order; with snapshot, those since the job that handed it on. now: the depot's
    clock; without it nothing is due. Never raises on a record whose entries were validated one by one (see
    validate.check_entry); what does not add up after an entry was taken back becomes a flag.
    """
    return state_of(walk(loop, entries, policy or Policy(), snapshot, registry, now))


def state_of(t: LedgerFold) -> LoopState:
    """State of a loop from the fold of its record, as it is now."""
    loop, now, judged = t.loop, t.now, judgement_of(t)
    spread, together, same, proof = judged.spread, judged.together, judged.sameness, judged.proof
    claim, advice = judged.claim, judged.advice
    poured = pours_of(t)
    predicted_c = _predicted_c(t, judged.prediction)
    with_curve = likely_of(t, judged.prediction, with_curve=True)
    return LoopState(
        loop_id=loop.id,
        last_entry_id=t.last_entry_id,
        job_id=t.job.id,
        job_type=t.job.job_type,
        opened_at=t.job.opened_at,
        signed_at=t.job.signed_at,
        changed_at=t.changed_at,
        stage=current_stage(t),
        stages=stage_line(t, judged.likely),
        vessels=vessels_of(t),
        found=t.found,
        inside=inside_of(t),
        drained_l=t.job.drained.drained_l if t.job.drained else None,
        flush=flush_of(t),
        fill=fill_of(t, now),
        standing=standing_words(t, claim.freeze_c),
        timers=timers_of(t, now),
        paused=pause_of(t),
        parked=t.life.parked[1] if t.life.parked else None,
        hands_id=t.job.waiting.hands[0] if t.job.waiting.hands else None,
        plan=_plan(t),
        suggested_target_c=suggested_target_c(plan_glycol(t), coldest_of(t), t.policy),
        target_note=target_note(plan_glycol(t), coldest_of(t), t.policy),
        mix_inside=mix_inside(t),
        mix_capacity_l=mix_capacity_l(t),
        spread=spread,
        poured=poured,
        readings=_readings(t),
        repeats=together,
        sameness=same,
        outlier_id=_outlier(t, same),
        predicted_freeze_c=predicted_c,
        predicted_likely_c=judged.likely,
        predicted_safe_c=with_curve.high if with_curve else None,
        proof=proof,
        how_sure=how_sure(t),
        causes=causes_of(t, together, proof),
        correction=correction_of(t, together, proof),
        finish=finish_of(t),
        after=after_of(t, now),
        ran_hot=bool(t.job.pours) and t.job.circulated,
        top_up_share=_top_up_share(t),
        learned=learned_capacity(t, together, proof, _flags(t)),
        claim=claim,
        frost_risk=frost_risk(t, claim),
        inspection=inspection_of(t),
        advice=advice,
        gate=gate_now(t),
        inhibitor=inhibitor_of(t),
        dose=dose_state(t),
        due=judged.due,
        isolated=t.job.open.isolated,
        overrides=tuple(t.life.overrides),
        flags=_flags(t),
        next_action=next_action(t, poured, proof, advice),
    )


@dataclass(frozen=True, slots=True)
class AtRest:
    """A loop between jobs: what is due on it, when its filling is due; claim: None while nothing was done to it since.

    base: what kind of coolant is inside, None where not known. parked: see LoopLife.
    """

    after: AfterState | None
    due: Due | None
    claim: Claim | None
    base: Base | None
    parked: tuple[datetime, Parking | None] | None


def at_rest(
    loop: Loop, since: Sequence[Entry], snapshot: LoopSnapshot, policy: Policy | None = None, now: datetime | None = None
) -> AtRest:
    """The same as `fold` says of a loop that left, from what its last job handed on and the entries since."""
    t = walk(loop, since, policy or Policy(), snapshot, now=now)
    touched = bool(t.since.diluted) or t.since.read_at is not None
    return AtRest(after_of(t, now), due_of(t, now), claim_of(t, None) if touched else None, t.base, t.life.parked)


def _predicted_c(t: LedgerFold, prediction: Prediction | None) -> float | None:
    """Freeze point that the litres predict [degC]; None before anything was poured, and where nobody tabulates it."""
    if prediction is None:
        return None
    return freeze_point(t.glycol, MassFraction(min(1.0, max(0.0, prediction.glycol_mass_percent / 100)))).freeze_c


def _plan(t: LedgerFold) -> PlanState | None:
    if t.job.mix.planned is None:
        return None
    p = t.job.mix.planned
    return PlanState(p.product, p.coldest_c, p.margin_k, p.target_freeze_c, p.concentrate_l, p.water_l, p.dilute, p.reason)


def _readings(t: LedgerFold) -> tuple[ReadingState, ...]:
    states, mixed = [], any(said.code == "other_base_left" for said in t.job.flags)
    for entry_id, facts in t.job.verify.readings:
        if facts.instrument is None or facts.place is Place.AS_FOUND:
            continue
        states.append(
            ReadingState(
                entry_id=entry_id,
                value=facts.value,
                zero=facts.zero,
                sample_c=facts.sample_c,
                instrument=facts.instrument.name,
                scale=facts.instrument.scale,
                after_hot_run=facts.after_hot_run,
                edge=facts.edge,
                steps=steps_of(t.glycol, facts, t.policy),
                answer=answer_of(t.base, facts, t.policy, mixed),
            )
        )
    return tuple(states)


def _outlier(t: LedgerFold, same: Sameness | None) -> str | None:
    """The entry of the repeat that stands apart."""
    if same is None or same.outlier is None:
        return None
    return finished_readings(t)[same.outlier][0]


def _flags(t: LedgerFold) -> tuple[Message, ...]:
    flags = list(t.job.flags)
    over = t.contents.total_l - t.loop.capacity_l
    if t.job.pours and over > 0.03 * t.loop.capacity_l:
        words = "{over_l} more was poured than fits: less was inside, some was spilled, or the capacity is larger."
        flags.append(say("more_than_room", words, over_l=over))
    elif t.job.pours and t.job.pours[-1].at_mark and -over > 0.03 * t.loop.capacity_l:
        words = "{short_l} less was poured than fits, but the level is at the mark: air is trapped, or more was inside."
        flags.append(say("less_than_room", words, short_l=-over))
    return tuple(flags)
