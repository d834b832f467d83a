"""How much additive brings an inhibitor back: a dose by what the strip said at most, never past what is allowed.

Strips read bands, so a dose is reckoned from the upper edge of the band read to the lower third of the allowed range; the
additive's own label comes first. Source: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import Message, say

DOSE_STEP_ML = 5.0  # as a measuring cup shows it; rounded down


@dataclass(frozen=True, slots=True)
class Strength:
    """What one label dose of an additive does: millilitres for so many litres raise the inhibitor by so much [mg/l]."""

    dose_ml: float
    treats_l: float
    raises_mg_l: float

    def __post_init__(self) -> None:
        check_between("dose_ml", self.dose_ml, 1, 250_000, "ml", "As the label says.")
        check_between("treats_l", self.treats_l, 0.1, 5000, "L", "As the label says.")
        check_between("raises_mg_l", self.raises_mg_l, 1, 20_000, "mg/l", "As the label or the data sheet says.")

    def raised_by(self, ml: float, loop_l: float) -> float:
        """What so many millilitres raise in a loop [mg/l]."""
        return self.raises_mg_l * (ml / self.dose_ml) * (self.treats_l / loop_l)


@dataclass(frozen=True, slots=True)
class AdditiveDose:
    """Millilitres to pour, and where that takes the inhibitor at most [mg/l]; 0 ml where the strip may already be there."""

    ml: float
    at_most_mg_l: float
    said: Message


def additive_dose(strength: Strength, loop_l: float, upper_mg_l: float, low_mg_l: float, high_mg_l: float) -> AdditiveDose:
    """The dose for a loop whose strip read at most upper_mg_l, where low to high is allowed. Raises CoreError.

    >>> additive_dose(Strength(500, 20, 1200), 20, 600, 800, 3200).ml
    415.0
    """
    if not 0 <= low_mg_l < high_mg_l:
        raise CoreError("low_mg_l", "The allowed range is empty. Check the rules.", "empty_range")
    check_between("upper_mg_l", upper_mg_l, 0, 10_000, "mg/l", "The upper edge of the band that the strip read.")
    check_between("loop_l", loop_l, 0.1, 5000, "L")
    target = low_mg_l + (high_mg_l - low_mg_l) / 3
    if upper_mg_l >= target:
        said = say(
            "no_dose",
            "No dose: it may be at {now} mg/l already, {target} is enough.",
            now=f"{upper_mg_l:g}",
            target=f"{target:.0f}",
        )
        return AdditiveDose(0.0, upper_mg_l, said)
    exact = (target - upper_mg_l) / strength.raised_by(1.0, loop_l)
    ml = DOSE_STEP_ML * (exact // DOSE_STEP_ML)
    most = upper_mg_l + strength.raised_by(ml, loop_l)
    words = "Pour {ml} ml, let it circulate, then strips again: at most {most} mg/l, up to {high} is allowed."
    return AdditiveDose(ml, most, say("dose", words, ml=f"{ml:g}", most=f"{most:.0f}", high=f"{high_mg_l:g}"))


def check_dose(strength: Strength, ml: float, loop_l: float, upper_mg_l: float, high_mg_l: float) -> None:
    """No overdose: raises CoreError for a dose that may take the inhibitor past what is allowed."""
    most = upper_mg_l + strength.raised_by(ml, loop_l)
    if most > high_mg_l:
        words = f"{ml:g} ml may take it to {most:.0f} mg/l, over {high_mg_l:g}: an overdose. Pour less, or drain part first."
        raise CoreError("dose_ml", words, "overdose")
