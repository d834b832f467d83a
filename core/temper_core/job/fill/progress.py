"""The filling and bleeding of a loop as the ledger is walked: what stands open, what was looked at, where the bleed is.

A bleed's timed steps follow from its start and its pauses alone: nothing has to be recorded for a step to end.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from temper_core.job.entries import Entry
from temper_core.job.fill.facts import BleedEnded, LookedUnder, StrengthAdjusted, VacuumPulled
from temper_core.job.verify.facts import FinishChecked
from temper_core.machine.bleed_run import BleedRun
from temper_core.machine.bleeding import FinishSign


@dataclass(slots=True)
class Filling:
    """What the walk carries of filling, bleeding and the final check. opened: by this job, in order; shut: since."""

    opened: list[str] = field(default_factory=list)
    shut: set[str] = field(default_factory=set)
    under: LookedUnder | None = None
    vacuum: tuple[str, VacuumPulled, float] | None = None  # entry, facts, litres of air then
    pour_ids: list[tuple[str, datetime, str]] = field(default_factory=list)  # entry, when, by
    run: BleedRun | None = None
    ended: list[tuple[str, datetime, BleedEnded]] = field(default_factory=list)
    corrected: tuple[str, StrengthAdjusted] | None = None
    read_sd_percent: float | None = None  # of the reading that a correction started from
    finish: tuple[str, FinishChecked] | None = None

    @property
    def bled(self) -> tuple[FinishSign, ...]:
        """The signs by which the last bleed was finished; empty while it is not."""
        return self.ended[-1][2].signs if self.ended and self.ended[-1][2].outcome == "finished" else ()


def last_pour(filling: Filling) -> tuple[str, datetime, str] | None:
    """The last pour's entry, when, by whom."""
    return filling.pour_ids[-1] if filling.pour_ids else None


def entry_key(entry: Entry) -> tuple[str, datetime, str]:
    """What is kept of a pour's entry."""
    return (entry.id, entry.happened_at, entry.person)
