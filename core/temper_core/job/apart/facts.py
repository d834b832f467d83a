"""What somebody decided about entries that were recorded apart."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from temper_core.basis.errors import CoreError
from temper_core.job.fact import Fact

MOST_TEXT = 4000


@dataclass(frozen=True, slots=True)
class SetAside(Fact):
    """An entry made without a network that does not count: others had recorded otherwise. It stays in the record as this.

    was: its kind; said: its sentence; figures: its facts as they were sent, JSON; at: when it happened; reason: in words.
    """

    was: str
    said: str
    figures: str
    at: datetime
    reason: str = ""

    def __post_init__(self) -> None:
        if not self.said.strip():
            raise CoreError("said", "What is set aside has no sentence. Send the entry's own.", "required")
        for name, text, most in (
            ("said", self.said, 500),
            ("figures", self.figures, MOST_TEXT),
            ("reason", self.reason, 300),
        ):
            if len(text) > most:
                raise CoreError(name, f"Longer than {most} characters. Shorten it.", "too_long")
