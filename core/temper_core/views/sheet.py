"""The job sheet: what was done to a loop and how it left, from the same facts for the page, the print and the customer."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from temper_core.basis.dates import day_words
from temper_core.basis.message import Message, capitalised, say
from temper_core.basis.policy import Policy
from temper_core.instruments import FACTS, read
from temper_core.instruments.kinds import FREEZES
from temper_core.job.entries import Entry
from temper_core.job.inside.verdict import Proof
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.job_types import JOB_TYPE_NAMES
from temper_core.job.loop_state import LoopState, ReadingState
from temper_core.job.read.facts import Place, Read, question_of, steps_of
from temper_core.job.verify.facts import FINISH_NAMES, LeakMethod, Level, SignedOff
from temper_core.products.chemistry import BASE_NAMES, FAMILY_NAMES, Base, Family
from temper_core.science import Glycol
from temper_core.views.sheet_litres import SheetLine, lines_in, lines_out

PROOF_NAMES = {
    Proof.PROVEN: "verified",
    Proof.PROTECTED: "protected, off target",
    Proof.READ_AGAIN: "not verified: read again",
    Proof.TOO_WEAK: "too weak",
    Proof.TOO_STRONG: "past the useful maximum",
    Proof.DOES_NOT_AGREE: "reading and litres do not agree",
    Proof.MIXED_BASES: "mixed bases, no verdict",
    Proof.WRONG_PRODUCT: "wrong product, no verdict",
    Proof.WATER_IN: "water in a low-conductivity loop, no verdict",
    Proof.USE_UNKNOWN: "use not entered, no verdict",
    Proof.NOT_MEASURED: "conductivity not measured",
    Proof.CONDUCTS: "conductivity too high",
}


@dataclass(frozen=True, slots=True)
class SheetPart:
    """A part of the sheet under its head."""

    head: str
    lines: tuple[SheetLine, ...]


@dataclass(frozen=True, slots=True)
class JobSheet:
    """The sheet in parts, and the same in the customer's plain words."""

    parts: tuple[SheetPart, ...]
    plain: tuple[Message, ...]


def job_sheet(state: LoopState, entries: Sequence[Entry]) -> JobSheet:
    """The sheet of one job. state: as it was signed, or as it stands; entries: of this job that stand, in order."""
    made = (
        ("Coolant", _coolant(state, entries)),
        ("Drained and rinsed", lines_out(state)),
        ("Filled", lines_in(state)),
        ("Verdict", _proof(state, entries)),
        ("Final check", _finish(state)),
        ("Decided", _decided(entries)),
        ("Next", _ahead(state)),
    )
    parts = tuple(SheetPart(head, tuple(lines)) for head, found in made if (lines := list(found)))
    return JobSheet(parts, tuple(_plain(state)))


def _chemistry(family: Family | None, base: Base | None) -> str:
    known = [FAMILY_NAMES[family] if family else "", BASE_NAMES[base] if base else ""]
    return ", ".join(word for word in known if word) or "unknown"


def _as_found(state: LoopState, facts: Read) -> Message:
    """The first reading of the fluid as found: reported, or corrected from what the instrument showed."""
    if facts.instrument is None:
        return say("found", "{now_c}, {how}", now_c=facts.value, how="reported")
    glycol = (state.found.base.glycol if state.found.base else None) or Glycol.ETHYLENE
    steps = steps_of(glycol, facts, Policy())
    if steps is not None:
        return say("found", "at least {now_c}, by steps", now_c=steps.at_least_c or 0.0)
    answer = read(question_of(glycol, facts))
    if answer.freeze_c is None:
        return say("found", "off scale on {instrument}", instrument=facts.instrument.name)
    return say("found", "{now_c}, {how}", now_c=answer.freeze_c, how="read")


def _coolant(state: LoopState, entries: Sequence[Entry]) -> Iterator[SheetLine]:
    was = say("was", "{what}", what=capitalised(_chemistry(state.found.family, state.found.base)))
    yield SheetLine("Was", was)
    first = next((entry.facts for entry in entries if isinstance(entry.facts, Read)), None)
    if first is not None and first.place is Place.AS_FOUND:
        yield SheetLine("As found", _as_found(state, first))
    if state.plan is not None:
        p = state.plan.product
        words = "{product}: {what}"
        yield SheetLine("Inside now", say("now", words, product=p.name, what=_chemistry(p.family, p.base)))


def _seen(row: ReadingState) -> Message:
    """A reading as it was seen: degrees in the reader's unit, any other scale as it is engraved."""
    on: dict[str, float | str] = {"instrument": row.instrument or "no instrument", "sample_c": row.sample_c}
    if row.steps is not None:
        return say("reading", "{steps} steps on {instrument}, sample at {sample_c:0}", steps=f"{row.value:g}", **on)
    zero = FACTS[row.scale].water if row.zero is None and row.scale else row.zero or 0.0
    if row.scale in FREEZES:
        words = "{value_c} on {instrument}, water read {zero_c}, sample at {sample_c:0}"
        return say("reading", words, value_c=row.value, zero_c=zero, **on)
    seen = f"{row.value:g} {FACTS[row.scale].unit}".strip() if row.scale else f"{row.value:g}"
    words = "{seen} on {instrument}, water read {zero}, sample at {sample_c:0}"
    return say("reading", words, seen=seen, zero=f"{zero:g}", **on)


def _proof(state: LoopState, entries: Sequence[Entry]) -> Iterator[SheetLine]:
    if state.repeats is not None and state.repeats.freeze_c is not None:
        words = "{freeze_c}, mean of {count}, {range_k} apart"
        count = f"{state.repeats.count} {'reading' if state.repeats.count == 1 else 'readings'}"
        said = say("read", words, freeze_c=state.repeats.freeze_c, count=count, range_k=state.repeats.range_k)
        yield SheetLine("Reads", said)
    for row in state.readings:
        yield SheetLine("Reading", _seen(row))
    if state.predicted_freeze_c is not None:
        yield SheetLine("Predicted from litres", say("predicted", "{predicted_c}", predicted_c=state.predicted_freeze_c))
    if state.proof is not None:
        yield SheetLine(capitalised(PROOF_NAMES[state.proof.verdict]), state.proof.said)
    else:
        yield SheetLine("Protection", state.claim.said)
    signed = next((entry for entry in reversed(entries) if isinstance(entry.facts, SignedOff)), None)
    if signed is not None and isinstance(signed.facts, SignedOff) and signed.facts.reason:
        yield SheetLine("Reason", say("reason", "{why}", why=signed.facts.reason))


_LEVEL = {Level.AT_MARK: "at the cold mark", Level.LOW: "low", Level.OVER: "over the cold mark"}


def _finish(state: LoopState) -> Iterator[SheetLine]:
    checked = state.finish.checked if state.finish is not None else None
    if state.finish is None or checked is None:
        return
    words = "{where}, read at {at_c:0}"
    yield SheetLine("Level", say("level", words, where=_LEVEL[checked.level], at_c=checked.level_c))
    if checked.leak is not None:
        kind = "vacuum" if checked.leak.method is LeakMethod.VACUUM else "pressure"
        tight = "tight" if state.finish.leak_ok else "not tight"
        words = "{tight}: {kind} {start_kpa:0}, {drop_kpa} lost in {minutes} min"
        values = {"start_kpa": checked.leak.start_kpa, "drop_kpa": checked.leak.drop_kpa}
        said = say("leak", words, tight=tight, kind=kind, minutes=f"{checked.leak.minutes:g}", **values)
        yield SheetLine("Leak test", said)
    else:
        yield SheetLine("No leak test", say("no_leak", "{why}", why=checked.no_leak_proof))
    done = "; ".join(FINISH_NAMES[point].lower() for point in checked.done)
    if done:
        yield SheetLine("Done", say("done", "{done}", done=done))
    if state.finish.missing:
        yield SheetLine("Not done", say("missing", "{missing}", missing="; ".join(state.finish.missing)))


def _decided(entries: Sequence[Entry]) -> Iterator[SheetLine]:
    for entry in entries:
        if isinstance(entry.facts, JobTypeChosen) and entry.facts.overrides:
            words = "{job_type}, advised was {advised}: {why} ({who})"
            names = {"job_type": JOB_TYPE_NAMES[entry.facts.job_type], "advised": JOB_TYPE_NAMES[entry.facts.advised]}
            yield SheetLine("Against the advice", say("override", words, why=entry.facts.reason, who=entry.person, **names))


def _ahead(state: LoopState) -> Iterator[SheetLine]:
    for row in state.after.rechecks if state.after is not None else ():
        done = f", done {day_words(row.done_at.date())}" if row.done_at is not None else ""
        yield SheetLine(f"By {day_words(row.due_on)}", say("recheck", "{what}{done}", what=row.said.sentence, done=done))
    if state.due is None:
        return
    yield SheetLine("Next service", state.due.said)
    if state.due.more_out_l is not None:
        words = "{old_percent} is that old. Swap {more_l} more of the mixed coolant to start a new interval."
        said = say("age", words, old_percent=state.due.oldest_percent, more_l=state.due.more_out_l)
        yield SheetLine("Age", said)
    if state.due.life.whose:
        yield SheetLine("Interval", state.due.life.by)


def _plain(state: LoopState) -> Iterator[Message]:
    """What a customer needs to know, without a word of the trade."""
    rounds = len(state.flush.rounds) - 1 if state.flush is not None else 0
    if rounds > 0:
        count = "once" if rounds == 1 else f"{rounds} times"
        yield say("plain_rinsed", "The old coolant was drained and the system was rinsed {count}.", count=count)
    elif state.drained_l is not None:
        yield say("plain_drained", "The old coolant was drained.")
    if state.plan is not None and state.poured.product_l > 0:
        yield say("plain_new", "The new coolant is {product}.", product=state.plan.product.name)
    claim = state.claim
    if state.inside.base is Base.NONE:
        yield say("plain_no_frost", "It has no frost protection: it must not freeze.")
    elif claim.why == "read" and claim.freeze_c is not None and claim.safe_to_c is not None:
        words = "We measured the protection: it freezes at {freeze_c:0}; with all uncertainty it protects to {safe_c:0}."
        yield say("plain_frost", words, freeze_c=claim.freeze_c, safe_c=claim.safe_to_c)
    else:
        yield say("plain_unproven", "The protection was not verified by a measurement.")
    coming = [row for row in (state.after.rechecks if state.after else ()) if row.done_at is None]
    for row in coming:
        words = "Let us check the level by {day}." if not row.with_reading else "We measure once more by {day}."
        yield say("plain_recheck", words, day=day_words(row.due_on))
    if state.plan is not None:
        yield say("plain_top_up", "If the level falls, call us before topping up. Plain water reduces the protection.")
    if state.due is not None and state.due.on is not None:
        yield say("plain_due", "The next coolant change is due by {day}.", day=day_words(state.due.on))
    yield say("plain_poison", "Coolant is poisonous. Keep children and animals away from every drop.")
