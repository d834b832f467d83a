"""Fold a loop's ledger into its state: what is inside, how far it protects, which stage, what hands do next."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from temper_core.basis.message import Saying, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.mix import Spread, suggested_target_c, target_note
from temper_core.instruments import Repeats, repeats
from temper_core.instruments.sameness import Sameness, judge_sameness
from temper_core.job.balance import learned_capacity, mix_inside, plan_glycol, plan_spread, prediction_of
from temper_core.job.between.state import AfterState
from temper_core.job.between.view import after_of
from temper_core.job.due import Due
from temper_core.job.entries import Entry
from temper_core.job.fill.bleed_view import observed_now
from temper_core.job.fill.view import fill_of
from temper_core.job.flush.view import flush_of, standing_words
from temper_core.job.fold_state import Carried, Tally, finished_questions, finished_readings
from temper_core.job.inspect.advice import advice_of, due_of, inspection_of
from temper_core.job.job_types import Route
from temper_core.job.ledger import tally
from temper_core.job.open.rules import judge_gate
from temper_core.job.readings import Place, answer_of, steps_of
from temper_core.job.stages import current_stage, next_action, stage_line
from temper_core.job.state import Claim, InsideState, Loop, LoopState, PlanState, PourState, ReadingState, VesselState
from temper_core.job.verdict import Prediction, Proof, ProofVerdict, judge_proof, safe_to
from temper_core.job.verify.blocked import verdict_with
from temper_core.job.verify.causes import causes_of
from temper_core.job.verify.correction import correction_of, finish_of
from temper_core.job.waiting.view import pause_of, timers_of
from temper_core.products.chemistry import Base
from temper_core.science import COLDEST_TARGET_C, density_20c, freeze_interval, freeze_point, mass_fraction_of, strength_of


def fold(
    loop: Loop,
    entries: Sequence[Entry],
    policy: Policy | None = None,
    now: datetime | None = None,
    carried: Carried | None = None,
) -> LoopState:
    """State of a loop from its ledger.

    entries: all entries of this loop, in any order; with carried, those since the job that handed it on. now: the depot's
    clock; without it nothing is due. Never raises on a ledger whose entries were admitted one by one (see
    admit.check_entry); what does not add up after a void becomes a flag.
    """
    policy = policy or Policy()
    t = tally(loop, entries, policy, carried)
    t.gate = judge_gate(observed_now(t, now), loop.equipment, policy, now, loop.high_voltage, t.ready)
    t.over_limit = now is not None and any(row.limit_at is not None and row.limit_at <= now for row in timers_of(t, now))
    spread = plan_spread(t)
    prediction = prediction_of(t, spread)
    finished = finished_questions(t)
    together = repeats(finished, policy) if finished else None
    by = [facts.instrument.id if facts.instrument else "" for _, facts in finished_readings(t)]
    same = judge_sameness(finished, policy, by)
    proof = _proof(t, together, prediction)
    if proof is not None and same is not None and same.apart:  # no verdict, and nothing to correct by, from such a mean
        proof = replace(proof, verdict=Proof.READ_AGAIN, said=same.said)
    proof = verdict_with(t, proof)
    likely = _likely(t, prediction, with_curve=False)
    claim = _claim(t, together)
    poured = _poured(t)
    predicted_c = freeze_point(t.glycol, t.by_litres.total.glycol_w).freeze_c if prediction else None
    with_curve = _likely(t, prediction, with_curve=True)
    due = due_of(t, now)
    advice = advice_of(t, due)
    return LoopState(
        loop_id=loop.id,
        last_entry_id=t.last_entry_id,
        job_id=t.job_id,
        route=t.route,
        opened_at=t.opened_at,
        signed_at=t.signed_at,
        changed_at=t.changed_at,
        stage=current_stage(t),
        stages=stage_line(t, likely),
        vessels=_vessels(t, spread),
        found=t.found,
        inside=_inside(t, spread),
        drained_l=t.drained.drained_l if t.drained else None,
        flush=flush_of(t),
        fill=fill_of(t, now),
        standing=standing_words(t, claim.freeze_c),
        timers=timers_of(t, now),
        paused=pause_of(t),
        hands_id=t.hands[0] if t.hands else None,
        plan=_plan(t),
        suggested_target_c=suggested_target_c(plan_glycol(t), _coldest(t), t.policy),
        target_note=target_note(plan_glycol(t), _coldest(t), t.policy),
        mix_inside=mix_inside(t),
        spread=spread,
        poured=poured,
        readings=_readings(t),
        repeats=together,
        sameness=same,
        outlier_id=_outlier(t, same),
        predicted_freeze_c=predicted_c,
        predicted_likely_c=likely,
        predicted_safe_c=with_curve.high if with_curve else None,
        proof=proof,
        causes=causes_of(t, together, proof),
        correction=correction_of(t, together, proof),
        finish=finish_of(t),
        after=after_of(t, now),
        ran_hot=bool(t.pours) and t.mixed,
        top_up_share=_top_up_share(t),
        learned=learned_capacity(t, spread, together, proof, _flags(t)),
        claim=claim,
        frost_risk=_frost_risk(t, claim),
        inspection=inspection_of(t),
        advice=advice,
        gate=t.gate,
        due=due,
        isolated=t.isolated,
        overrides=tuple(t.overrides),
        flags=_flags(t),
        next_action=next_action(t, poured, proof, advice),
    )


@dataclass(frozen=True, slots=True)
class AtRest:
    """A loop between jobs: what is owed to it, when its filling is due; claim: None while nothing was done to it since.

    base: what kind of coolant is inside, None where nobody knows.
    """

    after: AfterState | None
    due: Due | None
    claim: Claim | None
    base: Base | None


def at_rest(
    loop: Loop, since: Sequence[Entry], carried: Carried, policy: Policy | None = None, now: datetime | None = None
) -> AtRest:
    """The same as `fold` says of a loop that left, from what its last job handed on and the entries since."""
    t = tally(loop, since, policy or Policy(), carried)
    touched = bool(t.diluted) or t.read_since is not None
    return AtRest(after_of(t, now), due_of(t, now), _claim(t, None) if touched else None, t.base)


def _coldest(t: Tally) -> float:
    return t.planned.coldest_c if t.planned else t.loop.coldest_c


def _inside_sd_l(spread: Spread) -> float:
    return math.hypot(spread.loop_volume_l, spread.drained_l)


def _vessels(t: Tally, spread: Spread) -> tuple[VesselState, ...]:
    states = []
    inside_l, open_round = t.contents.total_l, t.flush.in_work
    doubt = _inside_sd_l(spread) / inside_l if t.drained and not t.pours and open_round is None and inside_l > 0 else 0.0
    for node in t.loop.layout.nodes:
        content, litres = t.contents.by_vessel[node.id], t.contents.litres(node.id)
        wet = litres > 1e-6
        known = wet and (t.strength_known or bool(t.pours) or t.flush.rinsed)
        states.append(
            VesselState(
                id=node.id,
                name=node.name,
                kind=node.kind,
                volume_l=node.volume_l,
                litres=litres,
                litres_sd=doubt * litres,
                old_percent=100 * content.old_l / litres if wet else None,
                old_sd_percent=100 * content.old_l / litres * t.flush.doubt if wet else 0.0,
                strength_percent=strength_of(t.glycol, content.glycol_w) if known else None,
                freeze_c=freeze_point(t.glycol, content.glycol_w).at_most_c if known else None,
            )
        )
    return tuple(states)


def _inside(t: Tally, spread: Spread) -> InsideState:
    litres = t.contents.total_l
    known = t.strength_known or bool(t.pours)
    family = t.product.family if t.product else t.found.family
    return InsideState(
        litres=litres,
        sd_l=_inside_sd_l(spread) if t.drained and not t.pours else spread.loop_volume_l,
        old_percent=100 * t.contents.total.old_l / litres if litres > 1e-6 else None,
        finished_old_percent=t.finished_old_percent,
        strength_percent=t.contents.strength if known else None,
        freeze_c=freeze_point(t.glycol, t.contents.total.glycol_w).freeze_c if known else None,
        base=t.base,
        family=family,
    )


def _plan(t: Tally) -> PlanState | None:
    if t.planned is None:
        return None
    p = t.planned
    return PlanState(p.product, p.coldest_c, p.margin_k, p.target_freeze_c, p.concentrate_l, p.water_l, p.dilute, p.reason)


def _poured(t: Tally) -> PourState:
    since = t.pours[t.poured_before_plan :]
    planned_product = (t.planned.concentrate_l or 0.0) if t.planned else 0.0
    planned_water = (t.planned.water_l or 0.0) if t.planned else 0.0
    return PourState(
        product_l=sum(pour.product_l for pour in t.pours),
        water_l=sum(pour.water_l for pour in t.pours),
        left_product_l=max(0.0, planned_product - sum(pour.product_l for pour in since)),
        left_water_l=max(0.0, planned_water - sum(pour.water_l for pour in since)),
        room_l=t.loop.capacity_l - t.contents.total_l,
        at_mark=bool(t.pours) and t.pours[-1].at_mark,
    )


def _readings(t: Tally) -> tuple[ReadingState, ...]:
    states, mixed = [], any(said.code == "other_base_left" for said in t.flags)
    for entry_id, facts in t.readings:
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


def _outlier(t: Tally, same: Sameness | None) -> str | None:
    """The entry of the repeat that stands apart."""
    if same is None or same.outlier is None:
        return None
    return finished_readings(t)[same.outlier][0]


def _likely(t: Tally, prediction: Prediction | None, with_curve: bool) -> Interval | None:
    if prediction is None:
        return None
    return freeze_interval(t.glycol, prediction.glycol_mass_percent / 100, prediction.sd_mass_percent / 100, with_curve)


def _proof(t: Tally, together: Repeats | None, prediction: Prediction | None) -> ProofVerdict | None:
    if together is None or t.planned is None:
        return None
    target_c = t.planned.target_freeze_c
    if target_c is None and t.route is Route.TOP_UP:
        target_c = _topped_up_target(t, prediction)
    if target_c is None:
        return None
    return judge_proof(t.glycol, together, target_c, t.planned.coldest_c, prediction, t.policy)


def _topped_up_target(t: Tally, prediction: Prediction | None) -> float | None:
    """A top-up aims at what its litres come to, and at least at the coldest it stands in."""
    if prediction is None:
        return None
    predicted_c = freeze_point(t.glycol, MassFraction(prediction.glycol_mass_percent / 100)).at_most_c
    return max(min(predicted_c, _coldest(t)), COLDEST_TARGET_C[t.glycol])


def _claim(t: Tally, together: Repeats | None) -> Claim:
    if t.bases_mixed:
        words = "Mixed bases: no scale is right, nobody knows how far it protects."
        return Claim("mixed_bases", None, None, None, say("mixed_bases", words))
    if t.base is Base.NONE:
        return Claim("glycol_free", 0.0, 0.0, None, say("glycol_free", "No glycol: freezes at 0 °C, keep in."))
    if t.signed_at is not None and (t.diluted or t.read_since is not None):
        return _claim_since(t)
    if together and together.freeze_c is not None and t.mixed:
        warm = safe_to(t.glycol, together)
        said = say("read", "Read {freeze_c}, safe to {safe_c:0}.", freeze_c=together.freeze_c, safe_c=warm)
        return Claim("read", together.freeze_c, warm, None, said)
    if not t.strength_known and not t.pours and not t.flush.rinsed:
        return Claim("unknown", None, None, None, say("unknown", "Never read: nobody knows how far it protects."))
    weakest = t.contents.weakest()
    if weakest is None:
        return Claim("empty", None, None, None, say("empty", "Empty."))
    vessel, freeze_c = weakest
    name = next(node.name for node in t.loop.layout.nodes if node.id == vessel)
    if t.mixed:
        if t.pours:
            why, words = "by_litres", "Run hot; by the litres it freezes at {freeze_c}, not read yet."
        elif t.flush.rinsed:
            why, words = "rinse_water", "What is in it freezes at {freeze_c}."
        elif t.strength_read:
            why, words = "as_found", "As found it freezes at {freeze_c}."
        else:
            why, words = "believed", "Believed to freeze at {freeze_c}, never read."
        return Claim(why, freeze_c, freeze_c, None, say(why, words, freeze_c=freeze_c))
    words = "Not yet run hot. First to freeze: {vessel}, at {freeze_c}."
    return Claim("weakest_vessel", freeze_c, freeze_c, vessel, say("weakest_vessel", words, vessel=name, freeze_c=freeze_c))


def _claim_since(t: Tally) -> Claim:
    """How far it protects after what was done to it without a job."""
    if t.inside_strength_percent is None:
        return Claim("unknown", None, None, None, say("unknown", "Never read: nobody knows how far it protects."))
    freeze_c = freeze_point(t.glycol, t.contents.total.glycol_w).at_most_c
    read_or_thinned = t.read_since is not None or t.diluted[-1].was_read
    sd = t.policy["inside_sd_read" if read_or_thinned else "inside_sd_unread"]
    if t.read_since is not None and t.read_since_sd is not None:
        sd = t.read_since_sd
    safe_c = _safe_since(t, sd)
    if t.read_since is not None:
        said = say("read_since", "Read {freeze_c} since it left, safe to {safe_c:0}.", freeze_c=freeze_c, safe_c=safe_c)
        return Claim("read_since", freeze_c, safe_c, None, said)
    words = "Topped up since: by the litres it freezes at {freeze_c}, safe to about {safe_c:0}, not read yet."
    return Claim("diluted", freeze_c, safe_c, None, say("diluted", words, freeze_c=freeze_c, safe_c=safe_c))


def _safe_since(t: Tally, sd_percent: float) -> float:
    """Warm end [degC] of what is inside now, its strength known to sd_percent [% by volume], the curve's doubt in it."""
    w, strength = t.contents.total.glycol_w, t.contents.strength
    sd_w = w - mass_fraction_of(t.glycol, VolumePercent(max(0.0, strength - sd_percent)))
    return freeze_interval(t.glycol, w, sd_w, with_curve=True).high


def _top_up_share(t: Tally) -> float | None:
    """Product in a top-up, as a share of its litres: the blend of the plan; where none is planned, or once it left, as
    strong as what is inside.
    """
    product = t.product
    if t.job_id is not None and t.signed_at is None:
        plan = t.planned
        whole = (plan.concentrate_l or 0.0) + (plan.water_l or 0.0) if plan is not None else 0.0
        if plan is not None and whole > 0:
            return (plan.concentrate_l or 0.0) / whole
        product = plan.product if plan is not None and t.route is Route.TOP_UP else None
    if product is None or t.inside_strength_percent is None or product.glycol_mass_percent <= 0:
        return None
    if product.base.glycol is not t.glycol:
        return None
    product_w = MassFraction(product.glycol_mass_percent / 100)
    part = min(1.0, t.contents.total.glycol_w / product_w)  # by mass
    product_l, water_l = part / density_20c(t.glycol, product_w), (1 - part) / WATER_DENSITY_20C
    return product_l / (product_l + water_l)


def _frost_risk(t: Tally, claim: Claim) -> bool:
    """In work, opened up or without glycol, and not protected down to the coldest expected temperature."""
    in_work = t.job_id is not None and t.signed_at is None
    open_to_frost = t.drained is not None or t.base is Base.NONE
    unprotected = claim.freeze_c is not None and claim.freeze_c > _coldest(t)
    return in_work and open_to_frost and (unprotected or (t.bases_mixed and bool(t.pours)))


def _flags(t: Tally) -> tuple[Saying, ...]:
    flags = list(t.flags)
    over = t.contents.total_l - t.loop.capacity_l
    if t.pours and over > 0.03 * t.loop.capacity_l:
        words = "{over_l} more went in than fits: less was inside, some was spilled, or the capacity is larger."
        flags.append(say("more_than_room", words, over_l=over))
    elif t.pours and t.pours[-1].at_mark and -over > 0.03 * t.loop.capacity_l:
        words = "{short_l} less went in than fits, and it stands at the mark: air is trapped, or more was inside."
        flags.append(say("less_than_room", words, short_l=-over))
    return tuple(flags)
