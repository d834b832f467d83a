"""What the readings of a depot say together: protection that falls, what the ledger did not expect, who disagrees."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace
from datetime import timedelta
from functools import partial

from django.db.models import F, Max, QuerySet, Window
from django.db.models.functions import RowNumber

from depots.models import Depot
from fleet.models import Loop
from instruments.log import contradicted, readings_of
from instruments.models import Reading
from instruments.queries import spans_of
from instruments.schemas import Compared, LogFlag, Watch
from jobs.models import Entry, JobLoop, cores_of
from jobs.queries import guarded
from temper_core.basis.policy import Policy
from temper_core.instruments.agreement import Agreement, SampleRead, agreement, same_samples
from temper_core.instruments.trend import Falling, Trend, TrendPoint, meets, trend
from temper_core.job.job_types import JobType
from temper_core.job.read.facts import Place
from temper_core.science import Glycol
from temper_core.views.history import history

LOOKED_BACK_DAYS = 800
MOST_PER_LOOP = 40
MOST_COMPARED = 20_000
SMALL_JOBS = [JobType.CHECK.value, JobType.DOSE.value, JobType.TOP_UP.value]  # that serve nothing
PAIRS_SHOWN = 200


def watch_of(depot: Depot) -> Watch:
    """Flags and agreements; a ledger is read only where the readings fall."""
    compared = _compared(depot)
    return Watch(flags=[*_falling(depot), *_contradictions(depot), *_disagreements(compared)], compared=compared)


def _numbered(depot: Depot) -> QuerySet[Reading]:
    """Readings that give a number, of the years that matter."""
    since = depot.now - timedelta(days=LOOKED_BACK_DAYS)
    rows = readings_of(depot).filter(glycol_mass_percent__isnull=False, edge="sharp", taken_at__gte=since)
    return rows.exclude(place=Place.RINSE.value).exclude(place=Place.FINISHED.value, after_hot_run=False)


def _latest(depot: Depot, most: int) -> dict[int, list[Reading]]:
    """The latest of each loop, oldest first; one query."""
    number = Window(RowNumber(), partition_by=F("loop"), order_by=F("taken_at").desc())
    rows = _numbered(depot).annotate(nth=number).filter(nth__lte=most).order_by("taken_at")
    found: dict[int, list[Reading]] = defaultdict(list)
    for row in rows:
        found[row.loop_id].append(row)
    return found


def _falling(depot: Depot) -> list[LogFlag]:
    """Loops whose readings since the last service fall."""
    served = dict(
        JobLoop.objects.filter(loop__machine__depot=depot, signed_at__isnull=False, job__entries__kind="poured")
        .exclude(result__state__route__in=SMALL_JOBS)  # as it was called up to 0.6.0
        .exclude(result__state__job_type__in=SMALL_JOBS)
        .values_list("loop")
        .annotate(Max("job__opened_at"))
        .order_by()
    )
    rows, policy, flags = _latest(depot, MOST_PER_LOOP), depot.policy, []
    loops = {loop.id: loop for loop in Loop.objects.filter(pk__in=rows).select_related("machine__depot")}
    for loop_id, readings in rows.items():
        loop, since = loops[loop_id], served.get(loop_id)
        glycol = Glycol(readings[-1].glycol or Glycol.ETHYLENE)
        kept = [row for row in readings if (since is None or row.taken_at >= since) and row.glycol in ("", glycol.value)]
        line = trend([TrendPoint(row.taken_at, row.glycol_mass_percent or 0.0) for row in kept])
        if line is not None and line.slope < 0:  # worth its ledger: the flag and the loop's own page say the same
            found = guarded(loop, partial(_by_its_ledger, loop, glycol, policy))
            if found is not None:
                about = f"{loop.machine.fleet_number} {loop.name}"
                flags.append(LogFlag(code="falling", about=about, loop_id=loop_id, at=kept[-1].taken_at, said=found.said))
    return flags


def _by_its_ledger(loop: Loop, glycol: Glycol, policy: Policy) -> Falling | None:
    """The slope of the loop's own history, and where it leads."""
    entries = Entry.objects.filter(loop=loop).select_related("person")
    past = history(loop.core, cores_of(entries), policy)
    read = [event for event in past.events if event.strength_percent is not None]
    if past.slope is None or not read:
        return None
    line = Trend(past.slope.percent_per_month, past.slope.half_width, past.slope.count)
    last = TrendPoint(read[-1].at, read[-1].strength_percent or 0.0)
    return meets(line, last, glycol, loop.core.coldest_c, policy)


def _contradictions(depot: Depot) -> list[LogFlag]:
    """Loops whose latest reading is not what their ledger expected."""
    policy, flags = depot.policy, []
    latest = {loop_id: rows[-1] for loop_id, rows in _latest(depot, 1).items()}
    names = Loop.objects.filter(pk__in=latest).select_related("machine").in_bulk()
    for loop_id, row in latest.items():
        said = contradicted(row, policy)
        if said is not None:
            about = f"{names[loop_id].machine.fleet_number} {names[loop_id].name}"
            flags.append(LogFlag(code="contradicts", about=about, loop_id=loop_id, at=row.taken_at, said=said))
    return flags


def _compared(depot: Depot) -> list[Compared]:
    """Instruments on the same samples; readings in doubt take no part."""
    policy, spans = depot.policy, spans_of(depot)
    rows = _numbered(depot).filter(instrument__isnull=False).order_by("-taken_at")
    values = rows.values_list("loop_id", "place", "instrument__name", "taken_at", "glycol_mass_percent", "instrument_id")
    reads = [
        SampleRead(str(loop), place, name, at, percent)
        for loop, place, name, at, percent, pk in values[:MOST_COMPARED]
        if percent is not None and not any(span.holds(at) for span in spans.get(pk, ()))
    ]
    return [
        Compared(first=first, second=second, pairs=pairs[-PAIRS_SHOWN:], agreement=agreement(pairs, policy))
        for (first, second), pairs in sorted(same_samples(reads, policy).items())
    ]


def agreement_of(depot: Depot, first: str, second: str) -> Agreement | None:
    """How much more the first reads than the second, on samples that both read; None with too few."""
    for row in _compared(depot):
        if row.agreement is not None and {row.first, row.second} == {first, second}:
            return row.agreement if row.first == first else replace(row.agreement, bias=-row.agreement.bias)
    return None


def _disagreements(compared: list[Compared]) -> list[LogFlag]:
    """Instruments that read more or less than another; one that disagrees with several is named first."""
    apart = [row for row in compared if row.agreement is not None and row.agreement.disagrees]
    count: dict[str, int] = defaultdict(int)
    for row in apart:
        count[row.first] += 1
        count[row.second] += 1
    flags = []
    for row in apart:
        about = f"{row.first} and {row.second}"
        if row.agreement is not None:
            flags.append((max(count[row.first], count[row.second]), about, row.agreement.said))
    flags.sort(key=lambda flag: (-flag[0], flag[1]))
    return [LogFlag(code="disagrees", about=about, loop_id=None, at=None, said=said) for _, about, said in flags]
