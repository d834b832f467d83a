"""What is recorded of a drain: litres as reported, or the containers they were caught in."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import say
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.job.fact import Fact


@dataclass(frozen=True, slots=True)
class Caught:
    """One container: from which drain (its letter), which vessel (its name), or '' for all together.

    Either gross and tare [kg], or litres by marks at a temperature; spilled_l: what missed it, as estimated.
    """

    where: str = ""
    gross_kg: float | None = None
    tare_kg: float = 0.0
    marks_l: float | None = None
    at_c: float = 20.0
    spilled_l: float = 0.0


MOST_CAUGHT = 20


class Measured(StrEnum):
    """How litres were found."""

    WEIGHED = "weighed"
    MARKS = "marks"
    GUESSED = "guessed"


MEASURED_NAMES = {Measured.WEIGHED: "weighed", Measured.MARKS: "jug marks", Measured.GUESSED: "guessed"}


@dataclass(frozen=True, slots=True)
class Drained(Fact):
    """Litres out (at 20 degC), reported in all or per vessel; or the containers they were caught in, as weighed or marked.

    measured: how reported litres were found. corrected_l: what the containers really held in all, as somebody corrected it.
    Closes the round that is open, if one is. ran_with_cap_on: it ran freely with the cap left on, which asks for a leak.
    """

    drained_l: float | None = None
    measured: Measured | None = None
    by_vessel: Mapping[str, float] = field(default_factory=dict)
    caught: tuple[Caught, ...] = ()
    ran_with_cap_on: bool = False
    corrected_l: float | None = None

    def __post_init__(self) -> None:
        if (self.drained_l is None) != bool(self.caught):
            raise CoreError(
                "drained_l", "Litres and containers are both given, or neither. Enter one of the two.", "required"
            )
        if len(self.caught) > MOST_CAUGHT:
            raise CoreError("caught", f"{len(self.caught)} containers: at most {MOST_CAUGHT} at once.", "out_of_range")
        if self.corrected_l is not None:
            if self.drained_l is not None:
                raise CoreError("corrected_l", "The litres are given in total already. Edit drained_l.", "not_both")
            check_between("corrected_l", self.corrected_l, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        if self.drained_l is not None and self.measured is None:
            raise CoreError(
                "measured", "How the litres were measured is missing. Choose weighed, by marks or guessed.", "required"
            )
        if self.drained_l is None:
            if self.by_vessel:
                raise CoreError("by_vessel", "Each container names its drain. Leave this out.", "not_both")
            return
        check_between("drained_l", self.drained_l, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        for vessel, litres in self.by_vessel.items():
            check_between(f"by_vessel.{vessel}", litres, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        if self.by_vessel and abs(sum(self.by_vessel.values()) - self.drained_l) > 0.01:
            total = sum(self.by_vessel.values())
            words = "The vessels add up to {total_l:2}, not {drained_l:2}. Make both agree."
            raise CoreError("drained_l", say("sum_does_not_close", words, total_l=total, drained_l=self.drained_l))
