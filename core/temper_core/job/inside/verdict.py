"""Is the strength proven? Target, prediction and corrected readings compared in mass percent, said in degC."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Z95
from temper_core.instruments import Repeats
from temper_core.science import COLDEST_TARGET_C, Glycol, freeze_interval, freeze_point, mass_fraction_at_freeze


class Proof(StrEnum):
    """Verdicts on a strength."""

    PROVEN = "proven"
    READ_AGAIN = "read_again"
    TOO_WEAK = "too_weak"
    TOO_STRONG = "too_strong"
    DOES_NOT_AGREE = "does_not_agree"
    MIXED_BASES = "mixed_bases"
    WRONG_PRODUCT = "wrong_product"
    WATER_IN = "water_in"
    USE_UNKNOWN = "use_unknown"
    NOT_MEASURED = "not_measured"
    CONDUCTS = "conducts"


VERDICT_NAMES = {
    Proof.PROVEN.value: "verified",
    Proof.READ_AGAIN.value: "read again",
    Proof.TOO_WEAK.value: "too weak",
    Proof.TOO_STRONG.value: "too strong",
    Proof.DOES_NOT_AGREE.value: "does not agree",
    "glycol_free": "glycol-free",
    "checked": "checked",
    Proof.MIXED_BASES.value: "mixed bases",
    Proof.WRONG_PRODUCT.value: "wrong product",
    Proof.WATER_IN.value: "water inside",
    Proof.USE_UNKNOWN.value: "use not entered",
    Proof.NOT_MEASURED.value: "conductivity not measured",
    Proof.CONDUCTS.value: "conductivity too high",
}


# no verdict on the strength stands beside these: only a lead signs them off, with a reason
LEADS_ONLY = frozenset({Proof.MIXED_BASES, Proof.WRONG_PRODUCT, Proof.WATER_IN, Proof.USE_UNKNOWN, Proof.CONDUCTS})


@dataclass(frozen=True, slots=True)
class Prediction:
    """What the litres say: mass percent of the full, mixed loop, and its standard deviation."""

    glycol_mass_percent: float
    sd_mass_percent: float


@dataclass(frozen=True, slots=True)
class ProofVerdict:
    """Verdict, what to say, and the figures behind it [degC; K]. safe_to_c is the warm end with the curve's doubt.

    Figures None: nothing is right to be said of the strength, or nothing was read yet.
    """

    verdict: Proof
    said: Message
    freeze_c: float | None
    safe_to_c: float | None
    off_target_k: float | None
    predicted_freeze_c: float | None


def safe_to(glycol: Glycol, readings: Repeats) -> float:
    """Warm end [degC] of the 95 % interval with instrument, zero and curve in it."""
    return freeze_interval(glycol, readings.glycol_mass_percent / 100, readings.sd_mass_percent / 100, with_curve=True).high


def judge_proof(
    glycol: Glycol,
    readings: Repeats,
    target_c: float,
    coldest_c: float,
    prediction: Prediction | None = None,
    policy: Policy | None = None,
) -> ProofVerdict:
    """Verdict on readings of a circulated, cooled loop.

    Proven: the corrected mean within max(1 K, the instrument's 95 %) of the target and the warm end at or below the
    coldest expected temperature. Read again: the mean passes, the interval does not.
    """
    policy = policy or Policy()
    w = readings.glycol_mass_percent / 100
    freeze_c = freeze_point(glycol, MassFraction(w)).freeze_c
    warm_end = safe_to(glycol, readings)
    verdict = _verdict(glycol, readings, target_c, coldest_c, prediction, warm_end, policy)
    predicted = freeze_point(glycol, MassFraction(prediction.glycol_mass_percent / 100)).at_most_c if prediction else None
    weaker = prediction is not None and w * 100 < prediction.glycol_mass_percent
    said = _say(verdict, freeze_c, warm_end, target_c, coldest_c, predicted or 0.0, weaker)
    off = freeze_c - target_c if freeze_c is not None else None
    return ProofVerdict(verdict, said, freeze_c, warm_end, off, predicted)


def _verdict(
    glycol: Glycol,
    readings: Repeats,
    target_c: float,
    coldest_c: float,
    prediction: Prediction | None,
    warm_end: float,
    policy: Policy,
) -> Proof:
    w = readings.glycol_mass_percent / 100
    target_w = mass_fraction_at_freeze(glycol, target_c)
    tolerance_w = _tolerance_w(glycol, target_c, readings, policy)
    if prediction and _disagree(readings, prediction, policy):
        return Proof.DOES_NOT_AGREE
    if w > mass_fraction_at_freeze(glycol, COLDEST_TARGET_C[glycol]) or w > target_w + tolerance_w:
        return Proof.TOO_STRONG
    if w < target_w - tolerance_w:
        return Proof.TOO_WEAK
    return Proof.READ_AGAIN if warm_end > coldest_c else Proof.PROVEN


_WORDS = {
    Proof.PROVEN: "{gap_k} {side} than the target {target_c:0}. Protects to {safe_c:0}; coldest here {coldest_c:0}.",
    Proof.READ_AGAIN: "on target, but protects only to {safe_c:0}; coldest here {coldest_c:0}. Read once more.",
    Proof.TOO_WEAK: "{gap_k} short of the target {target_c:0}. Protects to {safe_c:0}.",
    Proof.TOO_STRONG: "{gap_k} past the target {target_c:0}. Swap some for water.",
}


def _say(
    verdict: Proof, freeze_c: float | None, safe_c: float, target_c: float, coldest_c: float, predicted: float, weaker: bool
) -> Message:
    reads = "Reads {freeze_c}, " if freeze_c is not None else "Reads stronger than tabulated, "
    gap = abs(freeze_c - target_c) if freeze_c is not None else 0.0
    side = "warmer" if freeze_c is not None and freeze_c > target_c else "colder"
    if verdict is Proof.DOES_NOT_AGREE:
        why = "weaker than the litres predict: more was inside, or less was poured"
        if not weaker:
            why = "stronger than the litres predict: less was inside, or more was poured"
        words = f"the litres predict {{predicted_c}}. It is {why}. Check the zero first, then the litres."
    else:
        words = _WORDS[verdict]
    return say(
        verdict.value,
        reads + words,
        freeze_c=freeze_c if freeze_c is not None else "",
        gap_k=gap,
        side=side,
        target_c=target_c,
        safe_c=safe_c,
        coldest_c=coldest_c,
        predicted_c=predicted,
    )


def _tolerance_w(glycol: Glycol, target_c: float, readings: Repeats, policy: Policy) -> float:
    """Largest distance from the target that still proves it, in mass fraction."""
    step = policy["proof_tolerance_k"]
    warmer = min(target_c + step, 0.0)
    target_w = mass_fraction_at_freeze(glycol, target_c)
    return max(target_w - mass_fraction_at_freeze(glycol, warmer), Z95 * readings.sd_mass_percent / 100)


def _disagree(readings: Repeats, prediction: Prediction, policy: Policy) -> bool:
    gap = abs(readings.glycol_mass_percent - prediction.glycol_mass_percent)
    sd = math.hypot(readings.sd_mass_percent, prediction.sd_mass_percent)
    return gap > max(policy["agreement_sds"] * sd, 1.0)
