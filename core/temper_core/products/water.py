"""Mixing water: an analysis held against the limits of policy."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import check_between
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy


class WaterKind(StrEnum):
    """Where mixing water comes from. Distilled and demineralised are equal; softened is not."""

    DEMINERALISED = "demineralised"
    TAP = "tap"
    SOFTENED = "softened"


WATER_NAMES = {WaterKind.DEMINERALISED: "demineralised", WaterKind.TAP: "tap", WaterKind.SOFTENED: "softened"}


@dataclass(frozen=True, slots=True)
class Analysis:
    """What a laboratory or a strip says of a water [mg/l; hardness as CaCO3]; None: not analysed."""

    chloride_mg_l: float | None = None
    sulphate_mg_l: float | None = None
    hardness_mg_l: float | None = None
    solids_mg_l: float | None = None
    ph: float | None = None

    def __post_init__(self) -> None:
        for name in ("chloride_mg_l", "sulphate_mg_l", "hardness_mg_l", "solids_mg_l"):
            value = getattr(self, name)
            if value is not None:
                check_between(name, value, 0, 50_000, "mg/l", "Milligrams in a litre, as on the analysis.")
        if self.ph is not None:
            check_between("ph", self.ph, 0, 14, "pH")


class WaterVerdict(StrEnum):
    """May it go into a loop?"""

    FIT = "fit"
    RINSE_ONLY = "rinse_only"
    UNKNOWN = "unknown"


WATER_VERDICT_NAMES = {
    WaterVerdict.FIT: "for mixes and last rinses",
    WaterVerdict.RINSE_ONLY: "early rinses only",
    WaterVerdict.UNKNOWN: "early rinses only, until analysed",
}


@dataclass(frozen=True, slots=True)
class WaterJudged:
    """fit: mixes and last rinses; rinse_only: early rinses, never the last; unknown: not analysed, treat as rinse only."""

    verdict: WaterVerdict
    reasons: tuple[Message, ...]


_LIMITS = (
    ("chloride_mg_l", "water_chloride_mg_l", "Chloride"),
    ("sulphate_mg_l", "water_sulphate_mg_l", "Sulphate"),
    ("hardness_mg_l", "water_hardness_mg_l", "Hardness"),
    ("solids_mg_l", "water_solids_mg_l", "Total solids"),
)


def judge_water(kind: WaterKind, analysis: Analysis, policy: Policy | None = None) -> WaterJudged:
    """May this water make a mix? Never raises; limits are policy (ASTM D3306 annex, from memory).

    >>> judge_water(WaterKind.TAP, Analysis(chloride_mg_l=85)).verdict
    <WaterVerdict.RINSE_ONLY: 'rinse_only'>
    """
    policy = policy or Policy()
    against, missing = [], []
    if kind is WaterKind.SOFTENED:
        against.append(say("softened", "Softened: the hardness is exchanged for salt, not taken out."))
    for field, key, name in _LIMITS:
        value = getattr(analysis, field)
        if value is None:
            missing.append(name.lower())
        elif value > policy[key]:
            words = "{name} {value} mg/l, limit {limit} mg/l."
            against.append(say(key, words, name=name, value=f"{value:g}", limit=f"{policy[key]:g}"))
    low, high = policy["water_ph_low"], policy["water_ph_high"]
    if analysis.ph is None:
        missing.append("pH")
    elif not low <= analysis.ph <= high:
        words = "pH {value}, {low} to {high} is allowed."
        against.append(say("water_ph", words, value=f"{analysis.ph:g}", low=f"{low:g}", high=f"{high:g}"))
    if against:
        return WaterJudged(WaterVerdict.RINSE_ONLY, tuple(against))
    if kind is WaterKind.DEMINERALISED:
        return WaterJudged(WaterVerdict.FIT, (say("demineralised", "Demineralised or distilled: suitable for mixes."),))
    if missing:
        said = say("not_analysed", "Not analysed: {missing}. Early rinses only.", missing=", ".join(missing))
        return WaterJudged(WaterVerdict.UNKNOWN, (said,))
    return WaterJudged(WaterVerdict.FIT, (say("within", "Every figure is within its limit."),))
