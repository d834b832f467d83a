"""What samples, checks and the decision do to the state of a loop."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.job.dose.account import strip_read
from temper_core.job.doubt.level import level_of
from temper_core.job.doubt.record import begin
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Check, Sampled, Tested
from temper_core.job.job_types import JOB_TYPE_NAMES
from temper_core.job.life.account.movement import Movement, at_mark, level_missing
from temper_core.job.life.conducting import Conducted
from temper_core.job.loop_state import Override, Seen
from temper_core.job.open.facts import EngineRun
from temper_core.machine.level import full_of_the_same, less
from temper_core.products.conductivity import at_reference


def sampled(t: LedgerFold, facts: Sampled, entry: Entry) -> None:
    """A sample of the test; once drained, the jar of the last round."""
    if t.job.flush.rounds:
        t.job.flush.rounds[-1].sampled = (entry.id, facts)
    else:
        t.job.inspect.seen.append(Seen(entry.id, facts, None))


def tested(t: LedgerFold, facts: Tested, entry: Entry) -> None:
    """A check's answer; a gas test warmed the engine, a conductivity decides once it ran."""
    t.job.inspect.seen.append(Seen(entry.id, None, facts))
    if facts.check is Check.INHIBITOR:
        strip_read(t, facts, entry)
    if facts.check is Check.LEVEL and t.job.drained is None and not t.job.pours:
        t.contents = less(full_of_the_same(t.contents), level_of(t)[0])
        begin(t)
        _on_account(t, facts, entry)
    if facts.check is Check.COMBUSTION_GAS and t.job.open.observation is not None:  # the engine warmed it for the test
        t.job.open.observation = t.job.open.observation.after_run(EngineRun(neck_open=True))
        t.job.waiting.stopped, t.job.waiting.warm = (entry.id, entry.happened_at), []
    if facts.check is Check.CONDUCTIVITY:
        if t.job.pours:
            t.job.verify.conductivity = (entry.id, facts, t.job.circulated)
        figures = facts.figures
        value = at_reference(figures["us_cm"], figures["sample_c"], bool(facts.compensated), t.policy)
        t.life.conducted.append(Conducted(entry.happened_at, value))


def _on_account(t: LedgerFold, facts: Tested, entry: Entry) -> None:
    """The level at arrival is a look like any between services."""
    if facts.outcome == "at_mark":
        t.life.movements.append(at_mark(entry.happened_at, t.loop, t.policy))
    missing = level_missing(facts.figures, t.loop, t.policy)
    if missing is not None:
        t.life.movements.append(Movement(entry.happened_at, missing_l=missing[0], sd_l=missing[1]))


def skipped(t: LedgerFold, facts: Skipped, entry: Entry) -> None:
    """Checks that were left out."""
    t.job.inspect.skipped.append(facts)


def job_type_chosen(t: LedgerFold, facts: JobTypeChosen, entry: Entry) -> None:
    """The person's decision; against the advice it waits for a lead."""
    t.job.inspect.chosen, t.job.job_type = facts, facts.job_type
    if facts.overrides:
        names = {"job_type": JOB_TYPE_NAMES[facts.job_type], "advised": JOB_TYPE_NAMES[facts.advised]}
        said = say("against_advice", "{job_type}, against advice ({advised}): {why}", why=facts.reason, **names)
        t.life.overrides.append(Override(entry.id, entry.job_id, entry.happened_at, entry.person, facts, False, said))
