"""Reads of instruments."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime, timedelta
from functools import lru_cache
from uuid import UUID

from django.db.models import Count, Q

from depots.models import Depot
from fleet.models import Loop
from instruments.models import Instrument, Reading, ZeroCheck
from instruments.schemas import InstrumentOut, Instruments, KindOut, ScaleOut
from temper_core.basis.policy import Policy
from temper_core.instruments import FACTS, KINDS, InstrumentKind, Scale, eyepiece
from temper_core.instruments.zero import DoubtSpan, doubt_spans, zero_state
from temper_core.instruments.zero import ZeroCheck as CoreZeroCheck

DRAWN_DAYS = 400  # older checks say nothing of today's drift


@lru_cache
def kinds_out() -> list[KindOut]:
    """The kinds of instrument, as the core has them."""
    return [
        KindOut(kind=kind, name=row.name, scales=sorted(row.scales), zeroed=row.zeroed, how=row.how)
        for kind, row in KINDS.items()
    ]


@lru_cache
def scales_out() -> list[ScaleOut]:
    """The scales, as the core has them."""
    return [
        ScaleOut(
            scale=scale,
            unit=row.unit,
            water=row.water,
            low=row.low,
            high=row.high,
            first=row.first,
            last=row.last,
            zero_reach=row.zero_reach,
            resolution=row.resolution,
            marks=eyepiece(scale),
        )
        for scale, row in FACTS.items()
    ]


def all_instruments(depot: Depot) -> Instruments:
    """The instruments page."""
    return Instruments(instruments=instruments_of(depot), kinds=kinds_out(), scales=scales_out())


def checks_of(depot: Depot) -> dict[int, list[CoreZeroCheck]]:
    """Zero checks of a depot by instrument; one query."""
    checks: dict[int, list[CoreZeroCheck]] = defaultdict(list)
    for check in ZeroCheck.objects.filter(instrument__depot=depot):
        checks[check.instrument_id].append(check.core)
    return checks


def spans_of(depot: Depot) -> dict[int, tuple[DoubtSpan, ...]]:
    """When the readings of each instrument were in doubt; two queries."""
    checks, policy = checks_of(depot), depot.policy
    rows = Instrument.objects.filter(pk__in=checks).exclude(scale="")
    return {row.id: doubt_spans(Scale(row.scale), row.resolution, checks[row.id], policy) for row in rows}


def doubtful(depot: Depot) -> Q:
    """Readings of a depot that are in doubt; two queries."""
    wanted = Q(pk__in=[])
    for pk, spans in spans_of(depot).items():
        if spans:
            wanted |= Q(instrument=pk) & in_span(spans)
    return wanted


def in_span(spans: tuple[DoubtSpan, ...]) -> Q:
    """Readings taken within any of them; nothing, where there is none."""
    wanted = Q(pk__in=[])
    for span in spans:
        row = Q()
        if span.since is not None:
            row &= Q(taken_at__gt=span.since)
        if span.until is not None:
            row &= Q(taken_at__lte=span.until)
        wanted |= row
    return wanted


def instruments_of(depot: Depot) -> list[InstrumentOut]:
    """All instruments of a depot by name; as many queries for one as for dozens."""
    now, policy, rows = depot.now, depot.policy, list(depot.instruments.all())
    checks = checks_of(depot)
    counted = Reading.objects.filter(doubtful(depot), depot=depot, voided=False).values("instrument").annotate(n=Count("pk"))
    in_doubt = {row["instrument"]: row["n"] for row in counted.order_by()}
    return [instrument_out(row, checks[row.id], in_doubt.get(row.id, 0), now, policy) for row in rows]


def doubtful_entries(loop: Loop) -> list[UUID]:
    """Entries of a loop's readings that were taken between a good zero and the check that found it off."""
    rows = Reading.objects.filter(doubtful(loop.machine.depot), loop=loop, voided=False)
    return list(rows.values_list("entry_id", flat=True))


def one_instrument(instrument: Instrument) -> InstrumentOut:
    """One of them, as it is now."""
    return next(row for row in instruments_of(instrument.depot) if row.id == instrument.id)


def instrument_out(
    row: Instrument, checks: list[CoreZeroCheck], in_doubt: int, now: datetime, policy: Policy
) -> InstrumentOut:
    """An instrument with its zero, where it has one."""
    kind = InstrumentKind(row.kind)
    recent = [check for check in checks if check.at >= now - timedelta(days=DRAWN_DAYS)]
    zeroed = KINDS[kind].zeroed and bool(row.scale)
    return InstrumentOut(
        id=row.id,
        uuid=row.uuid,
        name=row.name,
        kind=kind,
        scale=Scale(row.scale) if row.scale else None,
        resolution=row.resolution,
        compensated=row.compensated,
        compensation_low_c=row.compensation_low_c,
        compensation_high_c=row.compensation_high_c,
        steps_c=row.steps_c,
        bands=row.bands,
        address=row.address,
        by_itself=bool(row.address),
        retired=row.retired,
        edited_at=row.edited_at,
        zero=row.zero,
        zeroed_at=row.zeroed_at,
        bias_percent=row.bias_percent,
        bias_note=row.bias_note,
        state=zero_state(Scale(row.scale), row.resolution, recent, now, policy) if zeroed else None,
        in_doubt=in_doubt,
    )
