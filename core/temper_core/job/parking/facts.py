"""Where a machine was parked."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.job.fact import Fact


class Parking(StrEnum):
    """Where a machine is left: in the bay, in a hall that is not heated, or in the open."""

    BAY = "bay"
    INDOORS = "indoors"
    OUTDOORS = "outdoors"


PARKING_NAMES = {Parking.BAY: "in the bay", Parking.INDOORS: "indoors", Parking.OUTDOORS: "outdoors"}


@dataclass(frozen=True, slots=True)
class Parked(Fact):
    """Where the machine was parked, as whoever parked it says."""

    where: Parking
