"""Which stage a loop stands in, what came of each, and the one thing hands do next."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.basis.uncertainty import Interval
from temper_core.job.doubt.known import finished_old_percent
from temper_core.job.fill.state import FillStep
from temper_core.job.fill.view import fill_step
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.gate import gate_now
from temper_core.job.inside.verdict import VERDICT_NAMES
from temper_core.job.job_types import CLOSED_TYPES, JOB_TYPE_NAMES, JobType, Stage, Status
from temper_core.job.loop_state import StageState
from temper_core.job.open.rules import loose_words, warm_words
from temper_core.products.chemistry import FAMILY_NAMES

_ALL_BUT_FLUSH = tuple(stage for stage in Stage if stage is not Stage.FLUSH)
STAGES_OF: dict[JobType, tuple[Stage, ...]] = {
    JobType.CHECK: (Stage.IDENTIFY, Stage.INSPECT),
    JobType.DOSE: (Stage.IDENTIFY, Stage.INSPECT),
    JobType.TOP_UP: (Stage.IDENTIFY, Stage.INSPECT, Stage.OPEN, Stage.FILL, Stage.VERIFY),
    JobType.ADJUST_STRENGTH: _ALL_BUT_FLUSH,
    JobType.REFILL: tuple(Stage),
    JobType.CHANGE_TYPE: tuple(Stage),
    JobType.CLEAN: tuple(Stage),
}
FLUSH_IS_A_CHOICE = frozenset({JobType.REFILL})  # same chemistry, clean sample: what stays is counted in the mix


def _done(t: LedgerFold) -> dict[Stage, bool]:
    """The exit fact of each stage that is kept."""
    job = t.job
    mixed = job.drained is not None and job.mix.planned is not None and job.mix.planned.concentrate_l is not None
    mixed = mixed or job.job_type is JobType.TOP_UP
    checking, chosen = job.job_type in CLOSED_TYPES, job.inspect.chosen is not None
    return {
        Stage.IDENTIFY: job.mix.planned is not None or (checking and (job.reported is not None or chosen)),
        Stage.INSPECT: (chosen and not checking) or job.drained is not None or job.signed_at is not None,
        Stage.OPEN: job.drained is not None or bool(job.pours) or _may_open(t),
        Stage.DRAIN: job.drained is not None,
        Stage.FLUSH: job.flush.ended is not None or (job.job_type in FLUSH_IS_A_CHOICE and not job.flush.rinsed),
        Stage.MIX: mixed,
        Stage.FILL: mixed and fill_step(t) is FillStep.DONE,
        Stage.VERIFY: job.signed_at is not None,
    }


def _may_open(t: LedgerFold) -> bool:
    """The safe-to-open check stands, and where it is drained next, what that asks for stands ready."""
    gate = gate_now(t)
    return gate.open and (t.job.job_type is JobType.TOP_UP or not gate.asked_drain)


def current_stage(t: LedgerFold) -> Stage | None:
    """First stage of the job whose exit fact is missing; None between jobs."""
    if t.job.job_type is None or t.job.signed_at is not None:
        return None
    done = _done(t)
    return next((stage for stage in STAGES_OF[t.job.job_type] if not done[stage]), None)


def stage_line(t: LedgerFold, predicted_likely_c: Interval | None) -> tuple[StageState, ...]:
    """Every stage of the job with its status and result; empty when the loop never had a job."""
    if t.job.job_type is None:
        return ()
    now, done = current_stage(t), _done(t)
    line = []
    past = True
    for stage in STAGES_OF[t.job.job_type]:
        past = past and stage is not now
        if stage is Stage.FLUSH and t.job.job_type in FLUSH_IS_A_CHOICE and not t.job.flush.rinsed and not t.job.flush.ended:
            line.append(StageState(stage, Status.CHOICE, say("choice", "a choice")))
        elif stage is now:
            line.append(StageState(stage, Status.NOW, _result(t, stage, predicted_likely_c)))
        elif past and done[stage]:
            line.append(StageState(stage, Status.DONE, _result(t, stage, predicted_likely_c)))
        else:
            line.append(StageState(stage, Status.AHEAD, _ahead(t, stage, predicted_likely_c)))
    return tuple(line)


def _result(t: LedgerFold, stage: Stage, likely: Interval | None) -> Message | None:
    if stage is Stage.IDENTIFY and t.job.mix.planned:
        return say("chosen", "{family}", family=FAMILY_NAMES[t.job.mix.planned.product.family])
    if stage is Stage.INSPECT and t.job.inspect.chosen:
        against = ", against advice" if t.job.inspect.chosen.overrides else ""
        return say("decided", "{job_type}{against}", job_type=JOB_TYPE_NAMES[t.job.inspect.chosen.job_type], against=against)
    if stage is Stage.INSPECT and t.job.inspect.seen:
        return say("seen", "{count} looked at", count=str(len(t.job.inspect.seen)))
    if stage is Stage.OPEN and t.job.open.observation:
        if not gate_now(t).open and t.job.drained is None and not t.job.pours:
            return say("shut", "shut")
        seen = t.job.open.observation.facts
        return say("signs", "{warm}, {loose}", warm=warm_words(seen), loose=loose_words(seen))
    if stage is Stage.DRAIN and t.job.drained:
        first = t.job.flush.rounds[0].out_l if t.job.flush.rounds else None
        return say("drained", "{out_l} out", out_l=first if first is not None else t.job.drained.drained_l)
    if stage is Stage.FLUSH and t.job.flush.rounds:
        return _flush_result(t)
    if stage is Stage.MIX and t.job.mix.planned and t.job.mix.planned.target_freeze_c is not None:
        return say("target", "mix for {target_c:0}", target_c=t.job.mix.planned.target_freeze_c)
    if stage is Stage.FILL and t.job.pours:
        return say("poured", "{in_l} in", in_l=sum(pour.product_l + pour.water_l for pour in t.job.pours))
    if stage is Stage.VERIFY:
        if t.job.verify.proof:
            return say("signed", "{proof}", proof=VERDICT_NAMES.get(t.job.verify.proof, t.job.verify.proof))
        return _ahead(t, stage, likely)
    return None


def _flush_result(t: LedgerFold) -> Message:
    """How many rounds, and what the finished loop would hold."""
    count, percent = len(t.job.flush.rounds) - 1, finished_old_percent(t)
    if t.job.flush.in_work is not None:
        return say("round", "round {number}", number=str(t.job.flush.in_work.number))
    if not count:
        return say("no_round", "{old_percent} old coolant after refill", old_percent=percent)
    rounds = f"{count} {'round' if count == 1 else 'rounds'}"
    early = ", ended early" if t.job.flush.ended and t.job.flush.early else ""
    return say("rounds", "{rounds}, {old_percent} old{early}", rounds=rounds, old_percent=percent, early=early)


def _ahead(t: LedgerFold, stage: Stage, likely: Interval | None) -> Message | None:
    if stage is Stage.VERIFY and likely:
        return say("expect", "expect {low_c:0} to {high_c:0}", low_c=likely.low, high_c=likely.high)
    return None
