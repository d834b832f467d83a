"""Reads of instruments."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime, timedelta

from depots.models import Depot
from instruments.models import Instrument, Reading, ZeroCheck
from instruments.shapes import InstrumentOut
from temper_core.judge.zero import ZeroCheck as CoreZeroCheck
from temper_core.judge.zero import zero_state
from temper_core.policy import Policy
from temper_core.reading import Scale

DRAWN_DAYS = 400  # older checks say nothing of today's drift


def instruments_of(depot: Depot) -> list[InstrumentOut]:
    """All instruments of a depot by name; one query for all their checks."""
    now, rows = depot.now, list(depot.instruments.all())
    checks: dict[int, list[CoreZeroCheck]] = defaultdict(list)
    for check in ZeroCheck.objects.filter(instrument__depot=depot, at__gte=now - timedelta(days=DRAWN_DAYS)):
        checks[check.instrument_id].append(check.core)
    return [instrument_out(row, checks[row.id], now, depot.policy) for row in rows]


def one_instrument(instrument: Instrument) -> InstrumentOut:
    """One of them, as it is now."""
    return next(row for row in instruments_of(instrument.depot) if row.id == instrument.id)


def instrument_out(row: Instrument, checks: list[CoreZeroCheck], now: datetime, policy: Policy) -> InstrumentOut:
    """An instrument with its zero; readings are counted only where its zero is not good."""
    state = zero_state(Scale(row.scale), row.resolution, checks, now, policy)
    in_doubt = 0
    if checks and state.doubtful_since is not None:
        in_doubt = Reading.objects.filter(instrument=row, voided=False, taken_at__gt=state.doubtful_since).count()
    return InstrumentOut(
        id=row.id,
        name=row.name,
        scale=Scale(row.scale),
        resolution=row.resolution,
        zero=row.zero,
        zeroed_at=row.zeroed_at,
        state=state,
        in_doubt=in_doubt,
    )
