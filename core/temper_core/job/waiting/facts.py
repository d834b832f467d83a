"""Clocks, logged temperatures, pauses: the facts of waiting. What runs down is the server's, not a screen's."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.job.fact import Fact
from temper_core.job.parking.facts import Parking


class Clock(StrEnum):
    """What a person may start a clock for."""

    WARM_UP = "warm_up"
    HOSE_FLOW = "hose_flow"
    VACUUM_HOLD = "vacuum_hold"


CLOCK_NAMES = {Clock.WARM_UP: "warm-up", Clock.HOSE_FLOW: "hose flow", Clock.VACUUM_HOLD: "vacuum hold"}


@dataclass(frozen=True, slots=True)
class ClockStarted(Fact):
    """A clock runs from now for so many minutes. A warm-up runs the engine, so the safe-to-open check lapses with it."""

    clock: Clock
    minutes: float

    def __post_init__(self) -> None:
        check_between("minutes", self.minutes, 0.1, 1440, "minutes", "Run time in minutes.")


@dataclass(frozen=True, slots=True)
class ClockStopped(Fact):
    """A clock that was started is done with."""

    entry_id: str


@dataclass(frozen=True, slots=True)
class TemperatureLogged(Fact):
    """How warm the upper hose is by probe or on matt rubber [degC]: it sharpens the estimate, and opens nothing."""

    c: float

    def __post_init__(self) -> None:
        check_between("c", self.c, -60, 150, "°C", "Measure again.")


@dataclass(frozen=True, slots=True)
class Paused(Fact):
    """Paused. note: what the next person has to know. parked: where the machine is left, None: not said."""

    note: str = ""
    parked: Parking | None = None

    def __post_init__(self) -> None:
        if len(self.note) > 500:
            raise CoreError(
                "note", "Longer than 500 characters. Shorten it. Keep it to what the next person must know.", "too_long"
            )


@dataclass(frozen=True, slots=True)
class Resumed(Fact):
    """Resumed by whoever records it; the check made before no longer counts."""
