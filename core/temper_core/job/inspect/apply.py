"""What samples, checks and the decision do to the state of a loop."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Check, Sampled, Tested
from temper_core.job.job_types import JOB_TYPE_NAMES
from temper_core.job.open.facts import EngineRun
from temper_core.job.state import Override, Seen


def sampled(t: LedgerFold, facts: Sampled, entry: Entry) -> None:
    """A sample of the test; once drained, the jar of the last round."""
    if t.flush.rounds:
        t.flush.rounds[-1].sampled = (entry.id, facts)
    else:
        t.seen.append(Seen(entry.id, facts, None))


def tested(t: LedgerFold, facts: Tested, entry: Entry) -> None:
    t.seen.append(Seen(entry.id, None, facts))
    if facts.check is Check.COMBUSTION_GAS and t.observation is not None:  # the engine warmed it for the test
        t.observation = t.observation.after_run(EngineRun(neck_open=True))
        t.stopped, t.warm = (entry.id, entry.happened_at), []
    if facts.check is Check.CONDUCTIVITY and t.pours:
        t.conductivity = (entry.id, facts, t.circulated)


def skipped(t: LedgerFold, facts: Skipped, entry: Entry) -> None:
    t.skipped.append(facts)


def job_type_chosen(t: LedgerFold, facts: JobTypeChosen, entry: Entry) -> None:
    t.job_type_chosen, t.job_type = facts, facts.job_type
    if facts.overrides:
        names = {"job_type": JOB_TYPE_NAMES[facts.job_type], "advised": JOB_TYPE_NAMES[facts.advised]}
        said = say("against_advice", "{job_type}, against advice ({advised}): {why}", why=facts.reason, **names)
        t.overrides.append(Override(entry.id, entry.job_id, entry.happened_at, entry.person, facts, False, said))
