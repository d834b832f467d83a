"""What is observed before a loop is opened, and what lapses it: the facts of the scald gate."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.job.fact import Fact


class Warmth(StrEnum):
    """How it was found whether the loop is cold. Infrared reads far too low on bare metal: matt black rubber only."""

    HAND = "hand"
    PROBE = "probe"
    INFRARED = "infrared"


class Pressure(StrEnum):
    """How it was found whether the loop holds pressure."""

    HOSE = "hose"
    GAUGE = "gauge"


class Ready(StrEnum):
    """What has to stand ready: before a cap is touched, before a drain, before a run."""

    SUPPORTED = "supported"
    VENTILATED = "ventilated"
    TRAY = "tray"
    GLASSES = "glasses"
    PREHEATER_OFF = "preheater_off"
    ISOLATED = "isolated"


class Ran(StrEnum):
    """What warmed the loop."""

    ENGINE = "engine"
    PREHEATER = "preheater"


RAN_SINCE_NAMES = {Ran.ENGINE: "engine ran since", Ran.PREHEATER: "preheater ran since"}


RAN_NAMES = {Ran.ENGINE: "engine", Ran.PREHEATER: "preheater"}


@dataclass(frozen=True, slots=True)
class GateObserved(Fact):
    """Two signs and what stands ready, as one person found them.

    held: cap and lower hose in the bare hand for as long as the rules say (hand only); temperature_c: probe or infrared.
    soft: the upper hose gave when squeezed (hose only); gauge_kpa: the gauge (gauge only). isolated_by_id: number of the
    person who made a high-voltage loop dead; they have to be allowed to. isolated_by: their name, joined when it is read,
    or as it was typed where no person was asked for yet.
    """

    warmth: Warmth
    pressure: Pressure
    held: bool | None = None
    temperature_c: float | None = None
    soft: bool | None = None
    gauge_kpa: float | None = None
    ready: tuple[Ready, ...] = ()
    isolated_by: str = ""
    isolated_by_id: int | None = None

    def __post_init__(self) -> None:
        if Ready.ISOLATED in self.ready and self.isolated_by_id is None and not self.isolated_by.strip():
            raise CoreError("isolated_by_id", "Choose the person who isolated it. They must be permitted to.", "required")
        if self.warmth is Warmth.HAND and self.held is None:
            raise CoreError(
                "held", "Cap and lower hose were not checked. Hold both in the bare hand and enter the result.", "required"
            )
        if self.warmth is not Warmth.HAND:
            if self.temperature_c is None:
                raise CoreError(
                    "temperature_c", "The temperature is missing. Measure with a probe or on matt black rubber.", "required"
                )
            check_between("temperature_c", self.temperature_c, -60, 150, "°C", "Measure again.")
        if self.pressure is Pressure.HOSE and self.soft is None:
            raise CoreError("soft", "The upper hose was not checked. Squeeze it and enter the result.", "required")
        if self.pressure is Pressure.GAUGE:
            if self.gauge_kpa is None:
                raise CoreError("gauge_kpa", "The gauge reading is missing. Enter what it shows.", "required")
            check_between("gauge_kpa", self.gauge_kpa, 0, 300, "kPa", "Read the gauge again.")


@dataclass(frozen=True, slots=True)
class ReadyConfirmed(Fact):
    """What stands ready for the next step, as one person found it: stands and tray for a drain, ventilation for a run."""

    ready: tuple[Ready, ...]

    def __post_init__(self) -> None:
        if not self.ready:
            raise CoreError("ready", "Nothing is ticked. Tick what is ready.", "required")


@dataclass(frozen=True, slots=True)
class EngineRun(Fact):
    """Engine or preheater ran, and is off now, so that what was observed before no longer counts.

    minutes: how long, where known. opened: the thermostat opened (both hoses hot); heater_full: heater full hot, warm air
    came. None: nobody says, which counts as not. neck_open: the neck stood open (funnel on it) since it was cold, so that
    no pressure could build.
    """

    by: Ran = Ran.ENGINE
    minutes: float | None = None
    opened: bool | None = None
    heater_full: bool | None = None
    neck_open: bool = False

    def __post_init__(self) -> None:
        if self.minutes is not None:
            check_between("minutes", self.minutes, 0, 1440, "min")
