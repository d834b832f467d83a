"""The one next action of a job, in words."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.dose.state import DoseState, DoseStep, DoseVerdict
from temper_core.job.dose.view import dose_state
from temper_core.job.fill.closing import closing_points
from temper_core.job.fill.slip import slip_of
from temper_core.job.fill.state import FillStep, PourState
from temper_core.job.fill.view import fill_step
from temper_core.job.flush.state import Step
from temper_core.job.flush.view import step_of
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.gate import gate_now
from temper_core.job.inside.questions import enough_of
from temper_core.job.inside.verdict import SAFE, Proof, ProofVerdict
from temper_core.job.inspect.state import Advice
from temper_core.job.job_types import CLOSED_TYPES, JOB_TYPE_NAMES, JobType, Stage
from temper_core.job.loop_state import NextAction
from temper_core.job.stages import current_stage
from temper_core.job.verify.correction import finish_of
from temper_core.job.verify.state import FinishState
from temper_core.job.waiting.view import cleaner_over
from temper_core.products.chemistry import Base


def _flush_action(t: LedgerFold) -> tuple[Message, Message]:
    row, step = t.job.flush.in_work, step_of(t)
    if row is None:
        if enough_of(t).enough:
            return say("enough", "Finish flush"), say("then_mix", "then plan the mix")
        coming = str(len(t.job.flush.rounds))
        return say("next_round", "Run round {number}", number=coming), say("then_jar", "then look at a sample")
    number = {"number": str(row.number)}
    if step in (Step.RUN, Step.GATE) and row.with_cleaner and cleaner_over(t):
        act = say("cleaner_over", "Cleaner over the limit: engine off, then drain")
        return act, say("then_check", "check it is safe to open first")
    if step is Step.RUN and row.with_cleaner:
        return say("run_cleaner", "Run the cleaner, heater on full"), say(
            "then_limit", "time limit first: engine off, then check it is safe to open"
        )
    if step is Step.RUN:
        return say("run_hot", "Run until both hoses are hot"), say("then_off", "heater on full; then engine off, cool")
    if step is Step.GATE:
        return say("feel_round", "Check it is safe to open, then drain"), say("then_two_signs", "elapsed time is not enough")
    return say("drain_round", "Drain round {number}, and measure", **number), say("then_jar", "then look at a sample")


def _fill_action(t: LedgerFold, poured: PourState) -> tuple[Message, Message]:
    if t.job.job_type is JobType.TOP_UP:
        return say("top_up", "Top up to the cold mark"), say("then_litres_in", "the litres decide the strength")
    step = fill_step(t)
    if step is not FillStep.POUR:
        return _fill_step_action(t, step)
    then = say("then_mark", "then to the cold mark, {room_l} of room", room_l=poured.room_l)
    slip = slip_of(t)
    if slip is not None and slip.replan is not None:
        again = slip.replan
        if not again.feasible:
            return say("plan_again", "Plan again, or accept what is reached"), say(
                "then_look", "the litres differ from the plan"
            )
        values = {"product_l": again.product_l, "water_l": again.water_l}
        return say("pour_rest", "Now {product_l} product + {water_l} water", **values), then
    left = {"product_l": poured.left_product_l, "water_l": poured.left_water_l}
    if poured.left_product_l > 0.05 and poured.left_water_l > 0.05:
        return say("pour_blend", "Mix {product_l} product + {water_l} water, pour", **left), then
    if poured.left_product_l > 0.05:
        return say("pour_product", "Pour {product_l} product", **left), then
    if poured.left_water_l > 0.05:
        return say("pour_water", "Pour {water_l} water", **left), then
    return say("to_mark", "Bring the level to the cold mark"), then


def _fill_step_action(t: LedgerFold, step: FillStep) -> tuple[Message, Message]:
    if step is FillStep.SHUT:
        taps = [row.tap for row in closing_points(t) if row.tap and not row.done]
        act = say("shut", "Shut {taps}", taps=" and ".join(taps)) if taps else say("close_up", "Refit and tighten")
        return act, say("then_pour", "check each by hand, then pour")
    if step is FillStep.UNDER:
        if t.job.fill.under is not None:
            act = say("drips", "Leak at {where}: repair it", where=t.job.fill.under.where)
            return act, say("then_under", "then look underneath again")
        return say("look_under", "Half is in: look underneath"), say("then_pour_on", "if dry, keep pouring")
    if t.job.fill.run is not None:
        return say("bleed_on", "Bleeding: follow the guided steps"), say("then_two_signs", "two signs end it")
    if t.job.fill.ended:
        return say("bleed_again", "Bleed again"), say("then_two_signs", "two signs end it")
    return say("bleed", "Bleed"), say("then_two_signs", "two signs end it")


def _know_action(t: LedgerFold) -> tuple[Message, Message]:
    if t.job.job_type in CLOSED_TYPES:
        return say("know_inside", "Enter current coolant"), say("then_look", "then inspect")
    return say("choose", "Choose a coolant"), say("then_why", "verdict and reasons first")


def _open_action(t: LedgerFold) -> tuple[Message, Message]:
    then = say("then_two_signs", "elapsed time is not enough")
    if gate_now(t).open:
        return say("ready_drain", "Confirm supports and tray"), say("then_drain", "then drain")
    if gate_now(t).observed:
        return say("feel_again", "Not safe to open: wait, check again"), then
    return say("feel", "Check it is safe to open"), then


_PROVE_NEXT = {
    Proof.PROVEN: ("sign", "Sign off"),
    Proof.PROTECTED: ("sign", "Sign off"),
    Proof.READ_AGAIN: ("read_again", "Read once more"),
    Proof.TOO_WEAK: ("too_weak", "Too weak: swap some for product"),
    Proof.TOO_STRONG: ("too_strong", "Past the useful maximum: swap some for water"),
    Proof.DOES_NOT_AGREE: ("does_not_agree", "Check the zero, then the litres"),
    Proof.MIXED_BASES: ("mixed_bases", "Mixed bases: change type, or ask a lead"),
    Proof.WRONG_PRODUCT: ("wrong_product", "Wrong product inside: drain it"),
    Proof.WATER_IN: ("water_in", "Water inside: drain it, fill again"),
    Proof.USE_UNKNOWN: ("use_unknown", "Ask a lead to enter the use"),
    Proof.NOT_MEASURED: ("not_measured", "Measure the conductivity"),
    Proof.CONDUCTS: ("conducts", "Conductivity too high: drain, fill again"),
}


def _prove_action(t: LedgerFold, proof: ProofVerdict | None, finish: FinishState | None) -> tuple[Message, Message]:
    if proof is None and t.job.product is not None and t.job.product.base is Base.NONE:
        return say("sign", "Sign off"), say("then_keep_in", "no frost protection: keep indoors, or drain")
    if proof is None and t.job.circulated:
        return say("cool_and_read", "Let it cool, then read"), say("then_repeats", "three readings, one zero")
    if proof is None:
        return say("run_and_read", "Run hot, let it cool, then read"), say("then_repeats", "three readings, one zero")
    if proof.verdict in SAFE and finish is not None and finish.missing:
        return say("last_look", "Final check: {what}", what=finish.missing[0]), say("then_sign", "then sign off")
    code, words = _PROVE_NEXT[proof.verdict]
    return say(code, words), say("then_board", "then back to the board")


_DOSE_THEN = {
    DoseStep.STRIPS: ("Read the strips", "they decide the dose"),
    DoseStep.POUR: ("Pour the additive", "then run it hot"),
    DoseStep.RUN: ("Run it hot", "then cool, strips again"),
    DoseStep.AGAIN: ("Strips again", "they decide whether it is enough"),
}


def _dose_action(dose: DoseState) -> tuple[Message, Message]:
    if dose.verdict is DoseVerdict.PROTECTED:
        return say("sign_dose", "Sign off"), say("then_board", "then back to the board")
    if dose.step is DoseStep.DONE:
        return dose.said, say("then_dose", "dose again, or another job type")
    act, then = _DOSE_THEN[dose.step]
    return say(f"dose_{dose.step}", act), say("then_dose", then)


def _test_action(t: LedgerFold, advice: Advice | None) -> tuple[Message, Message]:
    dose = dose_state(t)
    if dose is not None:
        return _dose_action(dose)
    if t.job.job_type is JobType.CHECK and t.job.inspect.chosen is not None:
        return say("sign_check", "Sign off the check"), say("then_board", "then back to the board")
    if advice is not None and advice.stop:
        return say("find_cause", "Find the cause first"), say("then_nothing", "nothing is poured before")
    if t.job.inspect.seen and advice is not None:
        return say("decide", "Decide: {job_type}", job_type=JOB_TYPE_NAMES[advice.job_type]), say(
            "then_advice", "as advised, or not"
        )
    return say("look", "Inspect, then choose the job"), say("then_job_type", "findings decide the job")


def next_action(
    t: LedgerFold, poured: PourState, proof: ProofVerdict | None, advice: Advice | None = None
) -> NextAction | None:
    """What hands do next; None between jobs."""
    stage = current_stage(t)
    if stage is None:
        return None
    if t.job.waiting.paused is not None:
        return NextAction(stage, say("resume", "Resume job"), say("then_gate", "check again that it is safe to open"))
    if stage is Stage.FLUSH:
        return NextAction(stage, *_flush_action(t))
    if stage is Stage.INSPECT:
        return NextAction(stage, *_test_action(t, advice))
    if stage is Stage.FILL:
        return NextAction(stage, *_fill_action(t, poured))
    if stage is Stage.VERIFY:
        return NextAction(stage, *_prove_action(t, proof, finish_of(t)))
    act, then = {
        Stage.IDENTIFY: _know_action(t),
        Stage.OPEN: _open_action(t),
        Stage.DRAIN: (say("drain", "Drain, and measure the litres"), say("then_litres", "the litres decide the mix")),
        Stage.MIX: (say("mix", "Set the target, accept the mix"), say("then_fill", "then mix and fill")),
    }[stage]
    return NextAction(stage, act, then)
