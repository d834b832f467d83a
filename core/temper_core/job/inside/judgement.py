"""What is inside, judged: what the litres predict, what the readings say together, the verdict, the claim, the advice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.mix import Spread
from temper_core.instruments import ReadingQuestion, Repeats, repeats
from temper_core.instruments.sameness import Sameness, judge_sameness
from temper_core.job.doubt.known import freeze_sure, known
from temper_core.job.doubt.quantities import mixed_w
from temper_core.job.doubt.seen import ReadW
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.balance import plan_spread, prediction_of
from temper_core.job.inside.claim import claim_of
from temper_core.job.inside.questions import coldest_of, finished_questions, finished_readings
from temper_core.job.inside.verdict import Prediction, Proof, ProofVerdict, Together, judge_proof
from temper_core.job.inspect.advice import advice_of, due_of
from temper_core.job.inspect.state import Advice
from temper_core.job.job_types import JobType
from temper_core.job.life.due import Due
from temper_core.job.loop_state import Claim
from temper_core.job.verify.blocked import verdict_with
from temper_core.products.chemistry import Base
from temper_core.science import COLDEST_TARGET_C, freeze_interval, freeze_point


@dataclass(frozen=True, slots=True)
class Judgement:
    """Everything of one loop that is judged and not only counted. likely: the predicted freeze point's interval [degC]."""

    spread: Spread
    prediction: Prediction | None
    together: Repeats | None
    sameness: Sameness | None
    proof: ProofVerdict | None
    likely: Interval | None
    claim: Claim
    due: Due | None
    advice: Advice | None


def judgement_of(t: LedgerFold) -> Judgement:
    """The loop judged as it is now; never raises on a record whose entries were validated."""
    spread = plan_spread(t)
    prediction = prediction_of(t)
    finished = finished_questions(t)
    together = repeats(finished, t.policy) if finished else None
    by = [facts.instrument.id if facts.instrument else "" for _, facts in finished_readings(t)]
    same = judge_sameness(finished, t.policy, by)
    both = both_of(t, finished) if together is not None else None
    proof = _proof(t, together, prediction, both)
    if proof is not None and same is not None and same.apart:  # no verdict, and nothing to correct by, from such a mean
        proof = replace(proof, verdict=Proof.READ_AGAIN, said=same.said)
    due = due_of(t, t.now)
    return Judgement(
        spread,
        prediction,
        together,
        same,
        verdict_with(t, proof),
        likely_of(t, prediction, with_curve=False),
        claim_of(t, together, both),
        due,
        advice_of(t, due),
    )


def likely_of(t: LedgerFold, prediction: Prediction | None, with_curve: bool) -> Interval | None:
    """Where the predicted freeze point lies [degC], with the doubt of the curve or without; None without a prediction."""
    if prediction is None:
        return None
    if not with_curve and prediction.sure is not None:
        return freeze_sure(t, prediction.sure)
    return freeze_interval(t.glycol, prediction.glycol_mass_percent / 100, prediction.sd_mass_percent / 100, with_curve)


def both_of(t: LedgerFold, finished: Sequence[ReadingQuestion]) -> Together | None:
    """Readings of the finished loop and litres together; None where the litres say nothing of it."""
    if not t.job.pours or t.base is Base.NONE:
        return None
    now = known(t)
    sure = now.sure(mixed_w)
    once_more = now.sd_with_one_more(mixed_w, t.acts[-1]) if isinstance(t.acts[-1], ReadW) else sure.sd
    in_the_way = sure.parts[0].source.value if sure.parts else ""
    return Together(100 * min(1.0, max(0.0, sure.value)), 100 * sure.sd, 100 * once_more, in_the_way)


def _proof(
    t: LedgerFold, together: Repeats | None, prediction: Prediction | None, both: Together | None
) -> ProofVerdict | None:
    if together is None or t.job.mix.planned is None:
        return None
    target_c = t.job.mix.planned.target_freeze_c
    if target_c is None and t.job.job_type is JobType.TOP_UP:
        target_c = _topped_up_target(t, prediction)
    if target_c is None:
        return None
    return judge_proof(t.glycol, together, target_c, t.job.mix.planned.coldest_c, prediction, t.policy, both)


def _topped_up_target(t: LedgerFold, prediction: Prediction | None) -> float | None:
    """A top-up aims at where its litres end, and at least at the coldest it stands in."""
    if prediction is None:
        return None
    predicted_c = freeze_point(t.glycol, MassFraction(prediction.glycol_mass_percent / 100)).at_most_c
    return max(min(predicted_c, coldest_of(t)), COLDEST_TARGET_C[t.glycol])
