"""What came out, in litres at 20 degC: by weight, which is best, or by marks with the fluid's temperature."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, called, check_between
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.science import Glycol, density, density_20c, mass_fraction_of

HEAVIEST_KG = 5000.0


@dataclass(frozen=True, slots=True)
class MeasureQuestion:
    """Either gross and tare [kg], or litres at a temperature; spilled_l: what missed the tray, as estimated (20 degC).

    strength_percent: of what came out [% by volume], with its standard deviation; None: nobody read it, so that it may be
    anything from water to 60 %.
    """

    glycol: Glycol
    strength_percent: VolumePercent | None
    gross_kg: float | None = None
    tare_kg: float = 0.0
    marks_l: float | None = None
    at_c: float = 20.0
    spilled_l: float = 0.0
    strength_sd_percent: float = 0.0

    def __post_init__(self) -> None:
        if (self.gross_kg is None) == (self.marks_l is None):
            raise CoreError("gross_kg", "Weight and litres are both given, or neither. Enter one of the two.", "required")
        if self.strength_percent is not None:
            check_between("strength_percent", self.strength_percent, 0, 100, "% by volume")
            check_between(
                "strength_sd_percent", self.strength_sd_percent, 0, 50, "% by volume", "A spread must be positive."
            )
        if self.gross_kg is not None:
            check_between("gross_kg", self.gross_kg, 0, HEAVIEST_KG, "kg", "Weighed with its container.")
            check_between("tare_kg", self.tare_kg, 0, HEAVIEST_KG, "kg", "The empty container.")
            if self.tare_kg > self.gross_kg:
                message = f"The empty container ({self.tare_kg:g} kg) weighs more than the full one. Swap the two."
                raise CoreError("tare_kg", message, "more_than_gross")
        if self.marks_l is not None:
            check_between("marks_l", self.marks_l, 0, LARGEST_LOOP_L, "L", "Litres cannot be negative.")
            with called("at_c"):
                density(self.glycol, mass_fraction_of(self.glycol, _middle(self)), self.at_c)
        check_between("spilled_l", self.spilled_l, 0, LARGEST_LOOP_L, "L", "Litres cannot be negative.")


@dataclass(frozen=True, slots=True)
class MeasureAnswer:
    """Litres at 20 degC, spills in them, and their standard deviation; density_kg_l: of what came out, at 20 degC."""

    litres: float
    sd_l: float
    density_kg_l: float


UNKNOWN_STRENGTH = (VolumePercent(0.0), VolumePercent(60.0))  # water to as strong as anybody fills: 1.00 to 1.08 kg/l


def _middle(q: MeasureQuestion) -> VolumePercent:
    low, high = UNKNOWN_STRENGTH
    return VolumePercent((low + high) / 2) if q.strength_percent is None else q.strength_percent


def measure(q: MeasureQuestion, policy: Policy | None = None) -> MeasureAnswer:
    """Litres out; see MeasureAnswer. A spill is estimated, so half of it is doubt.

    >>> weighed = measure(MeasureQuestion(Glycol.ETHYLENE, VolumePercent(50), gross_kg=27.4, tare_kg=1.3))
    >>> round(weighed.density_kg_l, 2), round(weighed.litres, 1)
    (1.06, 24.5)
    """
    policy = policy or Policy()
    w = mass_fraction_of(q.glycol, _middle(q))
    at_20 = density_20c(q.glycol, w)
    if q.gross_kg is not None:
        litres = 1000 * (q.gross_kg - q.tare_kg) / at_20
        share = policy["drained_sd_weighed"] / 100
    else:
        litres = (q.marks_l or 0.0) * density(q.glycol, w, q.at_c) / at_20
        share = policy["drained_sd_marks"] / 100
    unknown = 0.0
    if q.strength_percent is None and q.gross_kg is not None:
        light, heavy = (density_20c(q.glycol, mass_fraction_of(q.glycol, end)) for end in UNKNOWN_STRENGTH)
        unknown = litres * (heavy - light) / at_20 / 12**0.5  # evenly between the two
    elif q.gross_kg is not None and q.strength_percent is not None:
        ends = (max(0.0, q.strength_percent - 1.0), min(100.0, q.strength_percent + 1.0))
        light, heavy = (density_20c(q.glycol, mass_fraction_of(q.glycol, VolumePercent(end))) for end in ends)
        unknown = litres * (heavy - light) / (ends[1] - ends[0]) / at_20 * q.strength_sd_percent
    sd = ((share * litres) ** 2 + unknown**2 + (q.spilled_l / 2) ** 2) ** 0.5
    return MeasureAnswer(litres + q.spilled_l, sd, at_20 / 1000)
