"""What is recorded before a job is signed off, and the sign-off."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.job.fact import Fact


class Level(StrEnum):
    """The level, read cold against its own rule."""

    AT_MARK = "at_mark"
    LOW = "low"
    OVER = "over"


LEVEL_NAMES = {Level.AT_MARK: "at the cold mark", Level.LOW: "low", Level.OVER: "over the cold mark"}


class FinishPoint(StrEnum):
    """What is looked at before a name goes under it."""

    COVERS = "covers"
    SPILL = "spill"
    WASTE = "waste"
    LABEL = "label"


FINISH_NAMES = {
    FinishPoint.COVERS: "Covers and undertray on, heater back as found",
    FinishPoint.SPILL: "Spill cleaned, tray and floor dry",
    FinishPoint.WASTE: "Waste closed and labelled",
    FinishPoint.LABEL: "Label on the machine",
}


class LeakMethod(StrEnum):
    """How the loop was shown to be tight."""

    PRESSURE = "pressure"
    VACUUM = "vacuum"


@dataclass(frozen=True, slots=True)
class LeakProof:
    """A hold by value: start [kPa against ambient], drop in so many minutes."""

    method: LeakMethod
    start_kpa: float
    drop_kpa: float
    minutes: float

    def __post_init__(self) -> None:
        check_between("start_kpa", self.start_kpa, 1, 250, "kPa", "What the gauge showed at the start.")
        check_between("drop_kpa", self.drop_kpa, 0, self.start_kpa, "kPa", "How far it fell; it cannot fall below zero.")
        check_between("minutes", self.minutes, 0.5, 240, "minutes", "How long it was watched.")


@dataclass(frozen=True, slots=True)
class FinishChecked(Fact):
    """The final check: level read cold (level_c: how warm), leak test by value or why not, and the points that are done."""

    level: Level
    level_c: float
    leak: LeakProof | None = None
    no_leak_proof: str = ""
    done: tuple[FinishPoint, ...] = ()

    def __post_init__(self) -> None:
        check_between("level_c", self.level_c, -40, 130, "°C", "How warm it was when the level was read.")
        if self.leak is None and not self.no_leak_proof.strip():
            raise CoreError("no_leak_proof", "The leak test is missing. Enter it, or say why there is none.", "required")


@dataclass(frozen=True, slots=True)
class SignedOff(Fact):
    """The person's name stands for the result. reason is asked when it is not verified.

    service_mode_ended: what was isolated for the job works again, service mode is left.
    """

    proof: str
    reason: str = ""
    service_mode_ended: bool = False

    def __post_init__(self) -> None:
        if self.proof not in ("proven", "protected", "glycol_free", "checked") and not self.reason.strip():
            raise CoreError("reason", f"The strength is not verified ({self.proof}). Say why you sign off.", "required")
