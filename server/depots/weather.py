"""The driver of a weather service that answers with one night's low as JSON over HTTP.

GET {TEMPER_WEATHER}?night=2026-11-30 answers {"night": "2026-11-30", "low_c": -12.0, "station": "..."}: the day the night
begins on, the lowest air temperature expected outdoors [degC], and who says so. The address is set by whoever runs the
server (docs/weather.md), never by a person of a depot. Nobody waits for it: a board asks in the background at most every
ten minutes, and shows what was heard last.
"""

from __future__ import annotations

import logging
import urllib.request
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from threading import Lock, Thread
from typing import Annotated

from django.conf import settings
from django.db import connection
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from config.apart import is_apart
from depots.models import Depot, NightLow

EVERY = timedelta(minutes=10)
TIMEOUT_S = 3.0
MOST_BYTES = 4096
log = logging.getLogger(__name__)


class WeatherError(Exception):
    """The service did not answer, or not with a night's low; its text says which."""


class Forecast(BaseModel):
    """What the service answers."""

    model_config = ConfigDict(strict=True)

    night: Annotated[date, Field(strict=False)]
    low_c: Annotated[float, Field(ge=-70, le=50)]
    station: str = Field(default="", max_length=80)


def fetch(address: str, night: date) -> Forecast:
    """Ask the service for one night; raises WeatherError."""
    url = f"{address}?night={night:%Y-%m-%d}"
    if not url.startswith(("http://", "https://")):
        raise WeatherError("The address does not begin with http:// or https://.")
    try:
        with urllib.request.urlopen(url, timeout=TIMEOUT_S) as answer:
            found = Forecast.model_validate_json(answer.read(MOST_BYTES))
    except (OSError, ValueError) as fault:
        words = "It answers, but not with a night's low." if isinstance(fault, ValidationError) else "It does not answer."
        raise WeatherError(words) from fault
    if found.night != night:
        raise WeatherError("It answers for another night.")
    return found


@dataclass(frozen=True, slots=True)
class Heard:
    """The last attempt: when, of which night, and what was wrong with it ("" nothing)."""

    at: datetime
    night: date
    wrong: str


_heard: dict[int, Heard] = {}
_asking: set[int] = set()
_lock = Lock()


def last_heard(depot: Depot) -> Heard | None:
    """The last attempt for a depot; None before the first."""
    return _heard.get(depot.pk)


def refresh(depot: Depot) -> Heard:
    """Ask now, and keep the low where it changed."""
    night, wrong = depot.night, ""
    try:
        found = fetch(settings.WEATHER, night)
        known = NightLow.objects.filter(depot=depot, night=night, person=None).order_by("-id").first()
        if known is None or known.low_c != found.low_c:
            NightLow.objects.create(depot=depot, night=night, low_c=found.low_c)
    except WeatherError as fault:
        wrong = str(fault)
    heard = Heard(timezone.now(), night, wrong)
    _heard[depot.pk] = heard
    return heard


def refresh_soon(depot: Depot) -> None:
    """Ask in the background, unless that was done in the last minutes or is being done; nothing without an address."""
    if is_apart():  # practice asks nobody outside
        return
    last = last_heard(depot)
    fresh = last is not None and last.night == depot.night and timezone.now() - last.at < EVERY
    if not settings.WEATHER or fresh:
        return
    with _lock:
        if depot.pk in _asking:
            return
        _asking.add(depot.pk)
    Thread(target=_refresh, args=(depot,), daemon=True).start()


def _refresh(depot: Depot) -> None:
    try:
        refresh(depot)
    except Exception:
        log.exception("The night's low could not be kept.")
    finally:
        connection.close()
        with _lock:
            _asking.discard(depot.pk)
