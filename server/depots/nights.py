"""The night's low at a depot: as entered, as forecast, or the coldest expected."""

from __future__ import annotations

from django.conf import settings
from django.db import transaction

from depots.models import Depot, NightLow
from depots.schemas import NightOut, Service
from depots.weather import last_heard
from people.models import Person
from people.shown import person_out
from temper_core.basis.errors import check_between
from temper_core.job.between.season import Season, frost_dates
from temper_core.job.parking.state import night_low


def tonight(depot: Depot) -> NightOut:
    """The low of the coming night as it is known now; one query."""
    night = depot.night
    rows = list(NightLow.objects.filter(depot=depot, night=night).select_related("person").order_by("id"))
    entered = next((row for row in reversed(rows) if row.person is not None), None)
    forecast = next((row for row in reversed(rows) if row.person is None), None)
    if entered is not None and entered.low_c is None:
        entered = None
    expected = frost_dates(depot.now.date(), depot.policy).season is not Season.FREE
    low = night_low(
        night,
        entered.low_c if entered else None,
        forecast.low_c if forecast else None,
        depot.coldest_c if expected else None,
    )
    heard = last_heard(depot)
    service = Service.NONE if not settings.WEATHER else Service.CONNECTED
    if settings.WEATHER and (heard is None or heard.wrong):
        service = Service.NOT_CONNECTED
    return NightOut(
        low=low,
        by=person_out(entered.person) if entered is not None and entered.person is not None else None,
        service=service,
        wrong=heard.wrong if heard is not None and settings.WEATHER else "",
        forecast_c=forecast.low_c if forecast else None,
    )


def enter_low(depot: Depot, low_c: float | None, *, actor: Person) -> NightLow:
    """Enter the coming night's low [degC], or with None take back what was entered; raises OutOfRange."""
    if low_c is not None:
        check_between("low_c", low_c, -70, 40, "°C", "Tonight's lowest temperature outdoors.")
    with transaction.atomic():
        return NightLow.objects.create(depot=depot, night=depot.night, low_c=low_c, person=actor)
