"""What is reported of a filling, and the meters of its machine."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.job.fact import Fact
from temper_core.products.chemistry import Base, Family


class ToppedUp(StrEnum):
    """Who topped it up, with what, as far as anybody can tell."""

    NOTHING = "nothing"
    SAME = "same"
    WATER = "water"
    OTHER = "other"
    UNKNOWN = "unknown"


TOPPED_UP_NAMES = {
    ToppedUp.NOTHING: "nothing",
    ToppedUp.SAME: "the same",
    ToppedUp.WATER: "water",
    ToppedUp.OTHER: "another kind",
    ToppedUp.UNKNOWN: "not known",
}


@dataclass(frozen=True, slots=True)
class ReportedContents(Fact):
    """What is reported of the filling: its chemistry, its last change, what was topped up. None: not known.

    changed_km, changed_hours: the meters at the last change, from which distance and hours count.
    """

    base: Base | None = None
    family: Family | None = None
    topped_up: ToppedUp = ToppedUp.UNKNOWN
    changed_on: date | None = None
    changed_km: float | None = None
    changed_hours: float | None = None

    def __post_init__(self) -> None:
        if self.changed_km is not None:
            check_between("changed_km", self.changed_km, 0, 5_000_000, "km", "Enter the meter at the last change.")
        if self.changed_hours is not None:
            check_between("changed_hours", self.changed_hours, 0, 200_000, "h", "Enter the meter at the last change.")

    @property
    def other_on_top(self) -> bool:
        """Another coolant went on top of it, or not known what did."""
        return self.topped_up is ToppedUp.OTHER


@dataclass(frozen=True, slots=True)
class Metered(Fact):
    """Distance and hours as the machine shows them; replaced: a new meter, so that it may stand lower than before."""

    distance_km: float | None = None
    hours: float | None = None
    replaced: bool = False

    def __post_init__(self) -> None:
        if self.distance_km is None and self.hours is None:
            raise CoreError("distance_km", "Enter the distance, the hours, or both.", "required")
        if self.distance_km is not None:
            check_between("distance_km", self.distance_km, 0, 5_000_000, "km", "Enter what the machine shows.")
        if self.hours is not None:
            check_between("hours", self.hours, 0, 200_000, "h", "Enter what the machine shows.")
