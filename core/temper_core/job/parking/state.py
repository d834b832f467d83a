"""Where a machine is by the records of its loops, and the coming night's low there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum

from temper_core.basis.policy import Policy
from temper_core.job.parking.facts import Parking


class LowSource(StrEnum):
    """Where the night's low comes from: a lead, the weather service, or the coldest expected at the depot."""

    ENTERED = "entered"
    FORECAST = "forecast"
    COLDEST = "coldest"


LOW_SOURCE_NAMES = {
    LowSource.ENTERED: "entered",
    LowSource.FORECAST: "forecast",
    LowSource.COLDEST: "coldest expected here",
}


@dataclass(frozen=True, slots=True)
class NightLow:
    """The lowest air temperature outdoors [degC] of the night that begins on this day or is not yet over."""

    night: date
    low_c: float
    source: LowSource


@dataclass(frozen=True, slots=True)
class LoopParked:
    """What one loop's record says: since when, where (None: not said), and whether hands are on it."""

    at: datetime
    where: Parking | None
    in_hands: bool


def night_of(now: datetime) -> date:
    """The night that is coming or not yet over at this moment, by the day it begins on: it turns over at noon.

    >>> night_of(datetime(2026, 11, 30, 4)), night_of(datetime(2026, 11, 30, 14))
    (datetime.date(2026, 11, 29), datetime.date(2026, 11, 30))
    """
    return (now - timedelta(hours=12)).date()


def night_low(night: date, entered_c: float | None, forecast_c: float | None, coldest_c: float | None) -> NightLow | None:
    """What a lead entered for this night [degC] goes before the forecast, that before the coldest expected (None: no frost
    is expected at this time of the year); None without any of them.
    """
    sources = ((entered_c, LowSource.ENTERED), (forecast_c, LowSource.FORECAST), (coldest_c, LowSource.COLDEST))
    return next((NightLow(night, low_c, source) for low_c, source in sources if low_c is not None), None)


def parking_of(loops: Sequence[LoopParked]) -> Parking:
    """Where a machine is. In hands it is in the bay; else what was said last counts; not said counts as outdoors.

    loops: what the record of each of its loops says; a machine without any record is outdoors.

    >>> parking_of([])
    <Parking.OUTDOORS: 'outdoors'>
    """
    in_hands = [row for row in loops if row.in_hands]
    rows = in_hands or loops
    if not rows:
        return Parking.OUTDOORS
    said = max(rows, key=lambda row: row.at).where
    return said or (Parking.BAY if in_hands else Parking.OUTDOORS)


def low_at(where: Parking, low_c: float, policy: Policy) -> float:
    """The night's low [degC] where a machine is parked; a hall is never colder than the night outside. By the depot's rules.

    >>> low_at(Parking.INDOORS, -12.0, Policy())
    2.0
    """
    if where is Parking.OUTDOORS:
        return low_c
    return max(low_c, policy["bay_low_c" if where is Parking.BAY else "hall_low_c"])


def can_freeze(warm_end_c: float | None, where: Parking, night: NightLow | None, policy: Policy) -> bool:
    """Whether what is inside can freeze tonight where it is parked.

    warm_end_c: warm end of its freeze point [degC], None where nothing is known or nothing is inside. A low at it counts as
    freezing. night None: no frost is expected.
    """
    if warm_end_c is None or night is None:
        return False
    return low_at(where, night.low_c, policy) <= warm_end_c
