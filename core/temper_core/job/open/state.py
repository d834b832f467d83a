"""The safe-to-open check as it stands."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from temper_core.basis.message import Message
from temper_core.job.open.facts import EngineRun, GateObserved, Ready

OTHER_DAY, HANDED_ON, RAN_SINCE, LEFT, LONG_AGO = "other_day", "handed_on", "ran_since", "left", "long_ago"


@dataclass(frozen=True, slots=True)
class Observation:
    """What was observed, when and by whom; ran: what ran since; handed_on: paused or handed over since.

    neck_open: the neck stood open through every run since. between: without a job, where nobody records runs; left: the
    job was signed off since.
    """

    entry_id: str
    at: datetime
    by: str
    by_id: str
    facts: GateObserved
    ran: EngineRun | None = None
    handed_on: bool = False
    neck_open: bool = True
    between: bool = False
    left: bool = False

    def after_run(self, ran: EngineRun) -> Observation:
        """What is left of it once something ran."""
        return replace(self, ran=ran, neck_open=self.neck_open and ran.neck_open)


@dataclass(frozen=True, slots=True)
class Asked:
    """One thing that has to stand ready, and its name."""

    ready: Ready
    name: str


@dataclass(frozen=True, slots=True)
class Gate:
    """Whether the loop may be opened, by what was observed, and the reasons: those that shut it, or the two signs.

    asked: what has to stand ready before the cap is touched on this loop; asked_drain, asked_run: before a drain and before
    a run, as far as it is not confirmed. observed: something was observed, safe or not. by, by_id:
    whose observation it is; names may be shared, ids are not. never_under_pressure: passed cold, and the neck stood open
    through every run since: a bleed may be topped up through the funnel, a gas test read on its vented tester. It opens
    nothing else. ran_shut: it ran since it was felt with its neck shut, so it may stand under pressure.
    """

    open: bool
    reasons: tuple[Message, ...]
    asked: tuple[Asked, ...]
    observed: bool
    observed_at: datetime | None
    by: str
    by_id: str
    never_under_pressure: bool = False
    ran_shut: bool = False
    asked_drain: tuple[Asked, ...] = ()
    asked_run: tuple[Asked, ...] = ()

    @property
    def passed_before(self) -> bool:
        """Open, or shut for nothing but a night or a pause: it was passed, and nothing has warmed the loop since."""
        return self.open or (self.observed and all(said.code in (OTHER_DAY, HANDED_ON) for said in self.reasons))
