"""What is recorded between two services."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.job.fact import Fact
from temper_core.job.verify.facts import Level


class LostWhen(StrEnum):
    """When the coolant goes, as far as anybody saw."""

    COLD = "cold"
    HOT = "hot"
    NO_TRACE = "no_trace"


LOST_WHEN_NAMES = {
    LostWhen.COLD: "overnight, cold",
    LostWhen.HOT: "only when hot",
    LostWhen.NO_TRACE: "no trace anywhere",
}


@dataclass(frozen=True, slots=True)
class LevelSeen(Fact):
    """A look between services, or the level, cold. Of a low one how much is missing up to the mark [l] or [mm below it].

    lost_when: when the coolant goes, where somebody saw it. None: not said.
    """

    level: Level
    note: str = ""
    missing_l: float | None = None
    missing_mm: float | None = None
    lost_when: LostWhen | None = None

    def __post_init__(self) -> None:
        if self.missing_l is None and self.missing_mm is None:
            return
        if self.missing_l is not None and self.missing_mm is not None:
            raise CoreError("missing_mm", "Litres and millimetres are given. Enter one of the two.", "not_both")
        if self.level is not Level.LOW:
            raise CoreError("level", "Something is missing from a low level only. Leave the figure out.", "not_low")
        if self.missing_l is not None:
            check_between("missing_l", self.missing_l, 0, LARGEST_LOOP_L, "L", "Missing up to the mark, cold.")
        if self.missing_mm is not None:
            check_between("missing_mm", self.missing_mm, 0, 1000, "mm", "Below the mark, cold.")

    @property
    def figures(self) -> dict[str, float]:
        """What is missing, as it was entered."""
        rows = {"missing_l": self.missing_l, "missing_mm": self.missing_mm}
        return {key: value for key, value in rows.items() if value is not None}


@dataclass(frozen=True, slots=True)
class Spilled(Fact):
    """Taken out or spilled between services [l]: a sample, a hose off. No loss of the loop's own."""

    spilled_l: float
    note: str = ""

    def __post_init__(self) -> None:
        check_between("spilled_l", self.spilled_l, 0.01, LARGEST_LOOP_L, "L", "As well as it can be told.")


@dataclass(frozen=True, slots=True)
class Amended(Fact):
    """A correction to a signed job: it stays as it was, and this stands beside it."""

    text: str
    entry_id: str = ""

    def __post_init__(self) -> None:
        if not self.text.strip():
            raise CoreError("text", "The text is empty. Write what is wrong and what is right.", "required")
        if len(self.text) > 500:
            raise CoreError("text", "Longer than 500 characters. Shorten it.", "too_long")
