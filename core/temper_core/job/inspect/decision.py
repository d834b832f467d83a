"""What is decided of the job: its type, and the checks that were left out."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError
from temper_core.job.fact import Fact
from temper_core.job.inspect.facts import Check
from temper_core.job.job_types import JobType


@dataclass(frozen=True, slots=True)
class Skipped(Fact):
    """Checks that were asked for and not made, and why."""

    checks: tuple[Check, ...]
    reason: str

    def __post_init__(self) -> None:
        if not self.reason.strip():
            raise CoreError("reason", "The reason is missing. Say why it is left out.", "required")


@dataclass(frozen=True, slots=True)
class JobTypeChosen(Fact):
    """The person's decision after the test. advised: what Temper advised; against it, a reason is asked."""

    job_type: JobType
    advised: JobType
    reason: str = ""

    def __post_init__(self) -> None:
        if self.job_type is not self.advised and not self.reason.strip():
            raise CoreError("reason", "Against the advice. Say why; a lead will read it.", "required")

    @property
    def overrides(self) -> bool:
        """Decided against the advice."""
        return self.job_type is not self.advised
