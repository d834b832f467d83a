"""What is known of a depot's night, as shown."""

from __future__ import annotations

from enum import StrEnum

from config.shapes import Answer
from people.shown import PersonOut
from temper_core.job.parking.state import NightLow as Low


class Service(StrEnum):
    """Whether a weather service is there: none is set up, it answered last, or it did not."""

    NONE = "none"
    CONNECTED = "connected"
    NOT_CONNECTED = "not_connected"


class StartStep(StrEnum):
    """What a new depot needs, in the order of the page."""

    COOLANTS = "coolants"
    WATER = "water"
    INSTRUMENT = "instrument"
    PEOPLE = "people"
    MACHINE = "machine"


class StartStepOut(Answer):
    """One of them. many: how many are there; labels_missing: of coolants from the list, whose label nobody has entered."""

    step: StartStep
    many: int
    done: bool
    labels_missing: int = 0


class GettingStarted(Answer):
    """The first day. shown: it is neither done nor put away."""

    steps: list[StartStepOut]
    shown: bool


class NightOut(Answer):
    """The coming night's low outdoors [degC], where it comes from; low null: no frost is expected at this time of the year.

    by: the lead who entered it. wrong: why the weather service is not connected. forecast_c: what it said, null: nothing.
    """

    low: Low | None
    by: PersonOut | None
    service: Service
    wrong: str
    forecast_c: float | None
