"""What is recorded between two services."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError
from temper_core.job.fact import Fact
from temper_core.job.verify.facts import Level


@dataclass(frozen=True, slots=True)
class LevelSeen(Fact):
    """A look between services, or the level, cold."""

    level: Level
    note: str = ""


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
