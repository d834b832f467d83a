"""How much additive brings an inhibitor back: a dose by what the strip said at most, never past what is allowed.

Strips read bands, so a dose is reckoned from the upper edge of the band read to the lower third of the allowed range; the
additive's own label comes first. Source: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.products.agents import Agent

DOSE_STEP_ML = 5.0  # as a measuring cup shows it; rounded down


class Inhibitor(StrEnum):
    """What protects wet liners, by the name of its figure on a strip."""

    NITRITE = "nitrite_mg_l"
    MOLYBDATE = "molybdate_mg_l"


INHIBITOR_NAMES = {Inhibitor.NITRITE: "nitrite", Inhibitor.MOLYBDATE: "molybdate"}


@dataclass(frozen=True, slots=True)
class Allowed:
    """Where an inhibitor has to be [mg/l]; low to high."""

    low_mg_l: float
    high_mg_l: float

    def __post_init__(self) -> None:
        if not 0 <= self.low_mg_l < self.high_mg_l:
            raise CoreError("low_mg_l", "The allowed range is empty. Check the rules.", "empty_range")

    @property
    def target_mg_l(self) -> float:
        """The lower third of the range: high enough to last, far from an overdose."""
        return self.low_mg_l + (self.high_mg_l - self.low_mg_l) / 3


def allowed(inhibitor: Inhibitor, policy: Policy) -> Allowed:
    """The range by the rules; raises CoreError for one that is empty."""
    name = INHIBITOR_NAMES[inhibitor]
    return Allowed(policy[f"{name}_low_mg_l"], policy[f"{name}_high_mg_l"])


@dataclass(frozen=True, slots=True)
class Band:
    """What an inhibitor is at least and at most [mg/l]. high None: the card of the strip ends below it."""

    low_mg_l: float
    high_mg_l: float | None

    def raised(self, mg_l: float) -> Band:
        """After so much more [mg/l]."""
        return Band(self.low_mg_l + mg_l, None if self.high_mg_l is None else self.high_mg_l + mg_l)

    def meets(self, other: Band) -> bool:
        """Whether both can be true."""
        lowest_high = min((edge for edge in (self.high_mg_l, other.high_mg_l) if edge is not None), default=None)
        return lowest_high is None or max(self.low_mg_l, other.low_mg_l) <= lowest_high


def band_read(value_mg_l: float, card: Sequence[float] = ()) -> Band:
    """What a strip says that was matched to a value of its card: between the neighbours. Without a card, the figure itself.

    >>> band_read(800, (0, 400, 800, 1600))
    Band(low_mg_l=400, high_mg_l=1600)
    >>> band_read(1600, (0, 400, 800, 1600)).high_mg_l is None
    True
    """
    if not card:
        return Band(value_mg_l, value_mg_l)
    return Band(
        max((edge for edge in card if edge < value_mg_l), default=card[0]),
        min((edge for edge in card if edge > value_mg_l), default=None),
    )


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


def strengths(agent: Agent) -> dict[Inhibitor, Strength]:
    """What an additive raises, by its label; empty where that is not entered."""
    rows = {one: getattr(agent, one.value) for one in Inhibitor}
    return {one: Strength(agent.container_ml, agent.treats_l, value) for one, value in rows.items() if value is not None}


@dataclass(frozen=True, slots=True)
class AdditiveDose:
    """Millilitres to pour, and where that takes each inhibitor at most [mg/l]; 0 ml where it may already be there."""

    ml: float
    at_most_mg_l: Mapping[Inhibitor, float]
    said: Message


def additive_dose(
    raises: Mapping[Inhibitor, Strength], loop_l: float, read: Mapping[Inhibitor, Band], ranges: Mapping[Inhibitor, Allowed]
) -> AdditiveDose:
    """The dose for a loop [l] whose strips read these bands. Raises CoreError where a strip it hangs on was not read.

    >>> label = {Inhibitor.NITRITE: Strength(500, 20, 1200)}
    >>> read, ranges = {Inhibitor.NITRITE: Band(400, 600)}, {Inhibitor.NITRITE: Allowed(800, 3200)}
    >>> additive_dose(label, 20, read, ranges).ml
    415.0
    """
    check_between("loop_l", loop_l, 0.1, 5000, "L")
    upper = {one: _upper(one, read) for one in raises}
    per_ml = {one: row.raised_by(1.0, loop_l) for one, row in raises.items()}
    wanted = max((ranges[one].target_mg_l - upper[one]) / per_ml[one] for one in raises)
    most = min((ranges[one].high_mg_l - upper[one]) / per_ml[one] for one in raises)
    ml = max(0.0, DOSE_STEP_ML * (min(wanted, most) // DOSE_STEP_ML))
    after = {one: upper[one] + ml * per_ml[one] for one in raises}
    if ml <= 0:
        words = "No dose: {now} may be there already; {enough} is enough."
        enough = _listed({one: ranges[one].target_mg_l for one in raises})
        return AdditiveDose(0.0, upper, say("no_dose", words, now=_listed(upper), enough=enough))
    words = "Pour {ml} ml, run it hot, then strips again: {most} at most, up to {high} is allowed."
    high = _listed({one: ranges[one].high_mg_l for one in raises})
    return AdditiveDose(ml, after, say("dose", words, ml=f"{ml:g}", most=_listed(after), high=high))


def check_dose(
    raises: Mapping[Inhibitor, Strength],
    ml: float,
    loop_l: float,
    read: Mapping[Inhibitor, Band],
    ranges: Mapping[Inhibitor, Allowed],
) -> None:
    """No overdose: raises CoreError for a dose that may take an inhibitor past what is allowed."""
    for one, row in raises.items():
        most = _upper(one, read) + row.raised_by(ml, loop_l)
        if most > ranges[one].high_mg_l + 1e-6:
            name, high = INHIBITOR_NAMES[one], ranges[one].high_mg_l
            words = f"{ml:g} ml may take {name} to {most:.0f} mg/l, over {high:g}: an overdose."
            raise CoreError("dose_ml", f"{words} Pour less, or drain part first.", "overdose")


def _upper(one: Inhibitor, read: Mapping[Inhibitor, Band]) -> float:
    """The upper edge of the band read [mg/l]; raises CoreError where there is none."""
    band, name = read.get(one), INHIBITOR_NAMES[one]
    if band is None:
        raise CoreError("agent_id", f"This additive raises {name}. Read the strip for {name} first.", "strip_first")
    if band.high_mg_l is None:
        words = f"{name.capitalize()} reads the last band of its card: how much is inside is open. Nothing is dosed on it."
        raise CoreError("agent_id", words, "past_the_card")
    check_between("upper_mg_l", band.high_mg_l, 0, 40_000, "mg/l", "The upper edge of the band that the strip read.")
    return band.high_mg_l


def _listed(rows: Mapping[Inhibitor, float]) -> str:
    return ", ".join(f"{INHIBITOR_NAMES[one]} {value:.0f} mg/l" for one, value in rows.items())
