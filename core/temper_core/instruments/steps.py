"""Step testers, with floating balls or rising discs: each step says "at least", so a reading is an interval.

A step is a density, engraved as a freeze point of one glycol. In the other glycol the same density means another strength.
"""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, called, check_between
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.instruments.axis import FLAT_PROPYLENE_W
from temper_core.instruments.question import Flag
from temper_core.science import COLDEST_TARGET_C, Glycol, density_20c, freeze_point, mass_fraction_at_freeze, strength_of

MOST_STEPS = 12
WIDE_K = 10.0  # a wider interval says little of a target


@dataclass(frozen=True, slots=True)
class StepTester:
    """A tester's own table: the freeze point [degC] from which on so many steps show; the first step first.

    glycol: what it was made for.
    """

    glycol: Glycol
    freezes_c: tuple[float, ...]

    def __post_init__(self) -> None:
        if not 1 <= len(self.freezes_c) <= MOST_STEPS:
            message = f"{len(self.freezes_c)} steps: 1 to {MOST_STEPS} are allowed, as printed in its table."
            raise CoreError("freezes_c", message, "out_of_range")
        for i, freeze_c in enumerate(self.freezes_c):
            check_between(f"freezes_c.{i}", freeze_c, COLDEST_TARGET_C[self.glycol], 0, "°C", "As printed on the tester.")
        if any(b >= a for a, b in zip(self.freezes_c, self.freezes_c[1:], strict=False)):
            raise CoreError("freezes_c", "Each step is colder than the one before: put them in order.", "not_in_order")


@dataclass(frozen=True, slots=True)
class StepReading:
    """What so many steps say: protects at least to at_least_c, and not as far as not_to_c (None: that end is open).

    low_percent, high_percent: the same as strengths [% by volume].
    """

    at_least_c: float | None
    not_to_c: float | None
    low_percent: float | None
    high_percent: float | None
    flags: tuple[Flag, ...]

    @property
    def middle_percent(self) -> float | None:
        """The middle of the interval, water its weak end; None where its strong end is open: nobody can tell."""
        return None if self.high_percent is None else ((self.low_percent or 0.0) + self.high_percent) / 2


def read_steps(
    tester: StepTester, steps: int, glycol: Glycol, sample_c: float = 20.0, policy: Policy | None = None
) -> StepReading:
    """The interval of a reading; see StepReading. Raises CoreError for more steps than the tester has.

    >>> r = read_steps(StepTester(Glycol.ETHYLENE, (-7, -18, -29, -40)), 2, Glycol.ETHYLENE)
    >>> r.at_least_c, r.not_to_c
    (-18, -29)
    """
    policy = policy or Policy()
    count = len(tester.freezes_c)
    if not 0 <= steps <= count:
        raise CoreError("steps", f"{steps} steps: this tester has {count}. Count the visible steps.", "out_of_range")
    check_between("sample_c", sample_c, -5, 60, "°C", "Let the sample come to room temperature.")
    low = _end(tester, tester.freezes_c[steps - 1], glycol) if steps else None
    high = _end(tester, tester.freezes_c[steps], glycol) if steps < count else None
    at_least = freeze_point(glycol, low).freeze_c if low is not None else None
    not_to = freeze_point(glycol, high).freeze_c if high is not None else None
    if tester.glycol is glycol:  # as engraved, not through the curve and back
        at_least = tester.freezes_c[steps - 1] if steps else None
        not_to = tester.freezes_c[steps] if steps < count else None
    return StepReading(
        at_least,
        not_to,
        strength_of(glycol, low) if low is not None else None,
        strength_of(glycol, high) if high is not None else None,
        tuple(_flags(tester, steps, glycol, sample_c, at_least, not_to, policy)),
    )


def _end(tester: StepTester, freeze_c: float, glycol: Glycol) -> MassFraction | None:
    """The mass fraction of the loop's glycol that is as dense as the step; None where its density says nothing."""
    with called("freezes_c"):
        w = mass_fraction_at_freeze(tester.glycol, freeze_c)
    if tester.glycol is glycol:
        return w
    wanted, low, high = density_20c(tester.glycol, w), 0.0, FLAT_PROPYLENE_W if glycol is Glycol.PROPYLENE else 1.0
    if density_20c(glycol, MassFraction(high)) < wanted:
        return None
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if density_20c(glycol, MassFraction(middle)) < wanted else (low, middle)
    return MassFraction((low + high) / 2)


def _flags(
    tester: StepTester,
    steps: int,
    glycol: Glycol,
    sample_c: float,
    at_least: float | None,
    not_to: float | None,
    policy: Policy,
) -> list[Flag]:
    flags = [Flag("at_least", "A step tester says “at least”, never an exact value. Use a refractometer.")]
    if tester.glycol is not glycol:
        said = f"Made for {tester.glycol} glycol, and the loop holds {glycol} glycol: converted through the density."
        flags.append(Flag("other_scale", f"{said} Take another tester."))
    if steps and at_least is None:
        said = "Propylene glycol this dense cannot be measured by density. Use a refractometer."
        flags.append(Flag("density_flat", said))
    elif steps == 0:
        flags.append(Flag("no_step", "No step visible: weaker than the first step, perhaps water."))
    elif not_to is None:
        flags.append(Flag("all_steps", "Every step visible: stronger than the last step, upper value unknown."))
    elif at_least is not None and at_least - not_to > WIDE_K:
        words = "Its step is {step_k:0} wide: too coarse to verify a target."
        flags.append(Flag.of(say("wide", words, step_k=at_least - not_to)))
    low, high = policy["compensation_low_c"], policy["compensation_high_c"]
    if not low <= sample_c <= high:
        words = "The sample is at {sample_c}: cold fluid reads too strong, warm fluid too weak."
        flags.append(Flag.of(say("outside_compensation", words, sample_c=sample_c)))
    return flags
