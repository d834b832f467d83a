"""Rules that are policy, not physics: one table with reasons and origin. A depot may override any of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from temper_core.errors import CoreError

PRACTICE = "common practice, no source"
OWN = "Temper's default"


@dataclass(frozen=True, slots=True)
class Rule:
    """One figure of policy: what it is, its unit, why it is so and where it comes from."""

    key: str
    value: float
    unit: str
    reason: str
    origin: str


SHIPPED: tuple[Rule, ...] = (
    Rule("margin_k", 5.0, "K", "kept below the coldest expected temperature", PRACTICE),
    Rule("corrosion_minimum_percent", 40.0, "% by volume", "inhibitors are dosed for it, even in the tropics", PRACTICE),
    Rule("thumb_percent", 60.0, "% by volume", "what many fill with after flushing, to make up for water inside", PRACTICE),
    Rule("bay_c", 10.0, "°C", "a loop is filled, and its level read, about this cold", PRACTICE),
    Rule("hot_c", 95.0, "°C", "as hot as an engine loop usually runs", PRACTICE),
    Rule("bucket_l", 25.0, "L", "the bucket a mix is blended in", PRACTICE),
    Rule("jug_l", 5.0, "L", "the measuring jug", PRACTICE),
    Rule("old_limit_change_percent", 5.0, "% of the full loop", "old coolant tolerated at a change of chemistry", PRACTICE),
    Rule("old_limit_family_percent", 10.0, "% of the full loop", "old coolant tolerated within one family", PRACTICE),
    Rule("proof_tolerance_k", 1.0, "K", "how far a reading may stand from the target and still prove it", OWN),
    Rule("agreement_sds", 2.0, "standard deviations", "reading and litres disagree beyond this", OWN),
    Rule("capacity_sd_measured", 1.0, "% of the capacity", "filled from empty by weight or marked jugs", OWN),
    Rule("capacity_sd_manual", 3.0, "% of the capacity", "book figures differ between equipment levels", OWN),
    Rule("capacity_sd_remembered", 10.0, "% of the capacity", "somebody's memory", OWN),
    Rule("capacity_sd_learned", 1.5, "% of the capacity", "from readings; the spread learned with it goes first", OWN),
    Rule("drained_sd_weighed", 0.7, "% of the litres", "a bay scale, and what clings to the tray", OWN),
    Rule("drained_sd_marks", 2.0, "% of the litres", "marks on a jug or canister", OWN),
    Rule("drained_sd_guessed", 12.0, "% of the litres", "by eye", OWN),
    Rule("poured_sd", 1.0, "% of the litres", "jug marks and what stays in the can", OWN),
    Rule("inside_sd_read", 1.5, "% by volume", "strength as found, read with a refractometer", OWN),
    Rule("inside_sd_unread", 15.0, "% by volume", "strength as found, never read", OWN),
    Rule("product_sd", 0.5, "% by mass", "glycol content on a data sheet", OWN),
    Rule("compensation_low_c", 10.0, "°C", "below it a compensated refractometer is not compensated", PRACTICE),
    Rule("compensation_high_c", 30.0, "°C", "above it a compensated refractometer is not compensated", PRACTICE),
    Rule("zero_tolerance_k", 1.0, "K", "a zero further off asks for cleaning and setting the instrument", OWN),
)


@dataclass(frozen=True, slots=True)
class Policy:
    """The shipped rules with a depot's own values laid over them."""

    overrides: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        unknown = set(self.overrides) - {rule.key for rule in SHIPPED}
        if unknown:
            raise CoreError("policy", f"No rule of policy is called {', '.join(sorted(unknown))}.", "unknown_rule")

    def __getitem__(self, key: str) -> float:
        if key in self.overrides:
            return self.overrides[key]
        return _SHIPPED_VALUES[key]


_SHIPPED_VALUES = {rule.key: rule.value for rule in SHIPPED}
