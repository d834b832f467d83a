"""A job that was signed before, judged by today's rules: which verdict or due date would now be worse, and what to do."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from temper_core.basis.dates import day_words
from temper_core.basis.message import Message, say
from temper_core.job.inside.verdict import SAFE, Proof
from temper_core.job.loop_state import LoopState

GREEN = frozenset({"proven", "protected", "glycol_free", "checked"})


@dataclass(frozen=True, slots=True)
class Signed:
    """What was signed: the verdict, and the due date as it was said then."""

    proof: str
    due_on: date | None


@dataclass(frozen=True, slots=True)
class Worse:
    """One thing that is worse by today's rules, and the next act for it."""

    code: str
    said: Message
    act: Message


_ACTS = {
    Proof.MIXED_BASES: "Keep it indoors. Start a job: change type.",
    Proof.WRONG_PRODUCT: "Start a job: change type.",
    Proof.WATER_IN: "Take it out of service. Start a job: drain, fill with its own ready-mix.",
    Proof.USE_UNKNOWN: "Enter the use of the loop, then measure the conductivity after a run.",
    Proof.NOT_MEASURED: "Start a check: measure the conductivity after a run.",
    Proof.CONDUCTS: "Take it out of service. Start a job: drain, fill with its own ready-mix.",
}


def judge_again(signed: Signed, state: LoopState) -> Iterator[Worse]:
    """What is worse now. state: the loop folded by today's rules as it stood when it was signed."""
    proof = state.proof
    if signed.proof in GREEN and signed.proof != "checked" and proof is not None and proof.verdict not in SAFE:
        said = say("verdict_worse", "Signed as verified, today no verdict: {why}", why=proof.said.sentence)
        yield Worse(proof.verdict.value, said, say("act", _ACTS.get(proof.verdict, "Read it again, then decide.")))
    due = state.due
    if due is None or signed.due_on is None:
        return
    if due.on is None and due.said.code == "changed_unknown":
        words = "Signed as due {then}. {percent} of the coolant is of unknown age: treat as due."
        said = say("due_unknown", words, then=day_words(signed.due_on), percent=f"{due.oldest_percent:.0f} %")
        yield Worse("due_unknown", said, say("act", "Enter when it was last changed, or start a job: refill."))
    elif due.on is not None and due.on < signed.due_on:
        words = "Signed as due {then}. {percent} of the coolant is older: due {now}."
        shown = {"then": day_words(signed.due_on), "now": day_words(due.on), "percent": f"{due.oldest_percent:.0f} %"}
        act = say("act_due", "Plan a refill by {now}, or swap more now.", now=shown["now"])
        yield Worse("due_sooner", say("due_sooner", words, **shown), act)
