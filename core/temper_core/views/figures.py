"""What a depot reports: litres of coolant and water poured, waste kept, hours of jobs, jobs by verdict; by month."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, tzinfo
from enum import StrEnum

from temper_core.job.entries import Entry, JobOpened, standing
from temper_core.job.fill.facts import Poured, StrengthAdjusted
from temper_core.job.flush.facts import WasteKept
from temper_core.job.verify.facts import SignedOff
from temper_core.job.waiting.facts import Paused, Resumed

WATER = "water"


class FigureKind(StrEnum):
    """What is counted."""

    COOLANT = "coolant"
    WASTE = "waste"
    HOURS = "hours"
    JOBS = "jobs"


FIGURE_KIND_NAMES = {
    FigureKind.COOLANT: "coolant and water poured",
    FigureKind.WASTE: "waste kept",
    FigureKind.HOURS: "hours of jobs, without pauses",
    FigureKind.JOBS: "jobs signed off",
}
FIGURE_UNITS = {FigureKind.COOLANT: "L", FigureKind.WASTE: "L", FigureKind.HOURS: "h", FigureKind.JOBS: "jobs"}


@dataclass(frozen=True, slots=True)
class Figure:
    """One sum of a month of one loop. month: its first day; of: the coolant's name, the waste's kind, the verdict."""

    month: date
    kind: FigureKind
    of: str
    value: float


def loop_figures(entries: Sequence[Entry], since: datetime, zone: tzinfo) -> list[Figure]:
    """Figures of one loop from its record, by the depot's calendar; what was taken back or edited away counts nothing.

    since: only what happened from then on; a job counts in the month it was signed off, and from its beginning.
    """
    sums: dict[tuple[date, FigureKind, str], float] = defaultdict(float)
    opened: datetime | None = None
    paused: datetime | None = None
    away_s = 0.0

    def add(entry: Entry, kind: FigureKind, of: str, value: float) -> None:
        if value > 0 and entry.happened_at >= since:
            sums[entry.happened_at.astimezone(zone).date().replace(day=1), kind, of] += value

    for entry in standing(entries):
        facts = entry.facts
        if isinstance(facts, JobOpened):
            opened, paused, away_s = entry.happened_at, None, 0.0
        elif isinstance(facts, Paused):
            paused = entry.happened_at
        elif isinstance(facts, Resumed) and paused is not None:
            away_s, paused = away_s + (entry.happened_at - paused).total_seconds(), None
        elif isinstance(facts, Poured | StrengthAdjusted):
            if facts.product is not None:
                add(entry, FigureKind.COOLANT, facts.product.name, facts.product_l)
            add(entry, FigureKind.COOLANT, WATER, facts.water_l)
        elif isinstance(facts, WasteKept):
            add(entry, FigureKind.WASTE, facts.kind.value, facts.litres)
        elif isinstance(facts, SignedOff):
            add(entry, FigureKind.JOBS, facts.proof, 1)
            if opened is not None:
                add(entry, FigureKind.HOURS, "", ((entry.happened_at - opened).total_seconds() - away_s) / 3600)
            opened = None
    return [Figure(month, kind, of, value) for (month, kind, of), value in sorted(sums.items())]
