"""Rules that are policy, not physics: one table with reasons and origin. A depot may override any of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from temper_core.errors import CoreError, check_between

PRACTICE = "common practice, no source"
OWN = "Temper's default"


class Group(StrEnum):
    """What a rule is about; the page keeps this order."""

    TARGET = "target"
    CHEMISTRY = "chemistry"
    PROOF = "proof"
    SPREAD = "spread"


@dataclass(frozen=True, slots=True)
class Rule:
    """One figure of policy: what it is, its unit, what it may be set to, why it is so and where it comes from."""

    group: Group
    key: str
    name: str
    value: float
    unit: str
    low: float
    high: float
    reason: str
    origin: str

    def check(self, value: float) -> None:
        """Refuse a value this rule cannot have; raises OutOfRange."""
        todo = f"Shipped: {self.value:g} {self.unit}."
        check_between("value", value, self.low, self.high, self.unit, todo)


# fmt: off
SHIPPED: tuple[Rule, ...] = (
    Rule(Group.TARGET, "margin_k", "Margin below the coldest expected", 5.0, "K", 0, 30,
         "kept below the coldest expected temperature", PRACTICE),
    Rule(Group.TARGET, "corrosion_minimum_percent", "Least strength for corrosion protection", 40.0, "% by volume", 0, 70,
         "inhibitors are dosed for it, even in the tropics", PRACTICE),
    Rule(Group.TARGET, "thumb_percent", "Rule of thumb shown beside the plan", 60.0, "% by volume", 10, 100,
         "what many fill with after flushing, to make up for water inside", PRACTICE),
    Rule(Group.TARGET, "bay_c", "Cold, for the rise", 10.0, "°C", -30, 40,
         "a loop is filled, and its level read, about this cold", PRACTICE),
    Rule(Group.TARGET, "hot_c", "Hot, for the rise and the boiling margin", 95.0, "°C", 50, 125,
         "as hot as an engine loop usually runs", PRACTICE),
    Rule(Group.TARGET, "bucket_l", "Blending bucket holds", 25.0, "L", 1, 1000,
         "the bucket a mix is blended in", PRACTICE),
    Rule(Group.TARGET, "jug_l", "Measuring jug holds", 5.0, "L", 0.1, 50,
         "the measuring jug", PRACTICE),
    Rule(Group.CHEMISTRY, "old_limit_change_percent", "Old coolant left, new chemistry", 5.0, "% of the full loop", 0, 50,
         "old coolant tolerated at a change of chemistry", PRACTICE),
    Rule(Group.CHEMISTRY, "old_limit_family_percent", "Old coolant left, same family", 10.0, "% of the full loop", 0, 100,
         "old coolant tolerated within one family", PRACTICE),
    Rule(Group.PROOF, "proof_tolerance_k", "Distance from the target that still proves it", 1.0, "K", 0.01, 10,
         "how far a reading may stand from the target and still prove it", OWN),
    Rule(Group.PROOF, "agreement_sds", "Reading and litres disagree beyond", 2.0, "standard deviations", 1, 5,
         "nearer than this they may differ by chance", OWN),
    Rule(Group.PROOF, "compensation_low_c", "Compensated from", 10.0, "°C", -5, 19,
         "below it a compensated refractometer is not compensated", PRACTICE),
    Rule(Group.PROOF, "compensation_high_c", "Compensated up to", 30.0, "°C", 20, 60,
         "above it a compensated refractometer is not compensated", PRACTICE),
    Rule(Group.PROOF, "zero_tolerance_k", "Zero that is still good", 1.0, "K", 0.1, 5,
         "a zero further off asks for cleaning and setting the instrument", OWN),
    Rule(Group.SPREAD, "capacity_sd_measured", "Capacity, measured", 1.0, "% of the capacity", 0.1, 30,
         "filled from empty by weight or marked jugs", OWN),
    Rule(Group.SPREAD, "capacity_sd_manual", "Capacity, from the book", 3.0, "% of the capacity", 0.1, 30,
         "book figures differ between equipment levels", OWN),
    Rule(Group.SPREAD, "capacity_sd_remembered", "Capacity, remembered", 10.0, "% of the capacity", 0.1, 50,
         "somebody's memory", OWN),
    Rule(Group.SPREAD, "capacity_sd_learned", "Capacity, learned", 1.5, "% of the capacity", 0.1, 30,
         "from readings; the spread learned with it goes first", OWN),
    Rule(Group.SPREAD, "drained_sd_weighed", "Litres out, weighed", 0.7, "% of the litres", 0.1, 30,
         "a bay scale, and what clings to the tray", OWN),
    Rule(Group.SPREAD, "drained_sd_marks", "Litres out, by marks", 2.0, "% of the litres", 0.1, 30,
         "marks on a jug or canister", OWN),
    Rule(Group.SPREAD, "drained_sd_guessed", "Litres out, guessed", 12.0, "% of the litres", 0.1, 50,
         "by eye", OWN),
    Rule(Group.SPREAD, "poured_sd", "Litres in", 1.0, "% of the litres", 0.1, 30,
         "jug marks and what stays in the can", OWN),
    Rule(Group.SPREAD, "inside_sd_read", "Strength as found, read", 1.5, "% by volume", 0.1, 30,
         "read with a refractometer", OWN),
    Rule(Group.SPREAD, "inside_sd_unread", "Strength as found, never read", 15.0, "% by volume", 0.1, 50,
         "believed, never read", OWN),
    Rule(Group.SPREAD, "product_sd", "Glycol in the product", 0.5, "% by mass", 0, 10,
         "glycol content on a data sheet", OWN),
)
# fmt: on
RULES: dict[str, Rule] = {rule.key: rule for rule in SHIPPED}


@dataclass(frozen=True, slots=True)
class Policy:
    """The shipped rules with a depot's own values laid over them."""

    overrides: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        unknown = set(self.overrides) - set(RULES)
        if unknown:
            raise CoreError("policy", f"No rule of policy is called {', '.join(sorted(unknown))}.", "unknown_rule")

    def __getitem__(self, key: str) -> float:
        if key in self.overrides:
            return self.overrides[key]
        return RULES[key].value
