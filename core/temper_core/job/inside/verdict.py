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
from temper_core.job.doubt.inputs import Source
from temper_core.job.doubt.solve import Sure
from temper_core.science import COLDEST_TARGET_C, Glycol, freeze_interval, freeze_point, mass_fraction_at_freeze


class Proof(StrEnum):
    """Verdicts on a strength."""

    PROVEN = "proven"
    PROTECTED = "protected"
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
    Proof.PROTECTED.value: "protected, off target",
    Proof.READ_AGAIN.value: "read again",
    Proof.TOO_WEAK.value: "too weak",
    Proof.TOO_STRONG.value: "past the useful maximum",
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


SAFE = frozenset({Proof.PROVEN, Proof.PROTECTED})  # protects as far as it has to: signed off without a reason
# no verdict on the strength stands beside these: only a lead signs them off, with a reason
LEADS_ONLY = frozenset({Proof.MIXED_BASES, Proof.WRONG_PRODUCT, Proof.WATER_IN, Proof.USE_UNKNOWN, Proof.CONDUCTS})


@dataclass(frozen=True, slots=True)
class Prediction:
    """What the litres say: mass percent of the full, mixed loop, and its standard deviation; sure: where it comes from."""

    glycol_mass_percent: float
    sd_mass_percent: float
    sure: Sure | None = None


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


@dataclass(frozen=True, slots=True)
class Together:
    """What readings and litres say together: mass percent, and its standard deviation.

    once_more_sd: what one more reading of the same kind would leave of it. in_the_way: the source that adds most to it.
    """

    glycol_mass_percent: float
    sd_mass_percent: float
    once_more_sd: float
    in_the_way: str = ""


def safe_to(glycol: Glycol, glycol_mass_percent: float, sd_mass_percent: float) -> float:
    """Warm end [degC] of the 95 % interval, the curve's own doubt in it."""
    return freeze_interval(glycol, glycol_mass_percent / 100, sd_mass_percent / 100, with_curve=True).high


def judge_proof(
    glycol: Glycol,
    readings: Repeats,
    target_c: float,
    coldest_c: float,
    prediction: Prediction | None = None,
    policy: Policy | None = None,
    together: Together | None = None,
) -> ProofVerdict:
    """Verdict on readings of a circulated, cooled loop. together None: the readings stand alone.

    Verified: what readings and litres say together is safe at its warm end, they agree, and the target lies in its 95 %
    interval. Protected: as safe, but off the target. Read again: not safe at the warm end, and one more reading could make
    it so. Too weak: not safe, and no reading would change that.
    """
    policy = policy or Policy()
    both = together or Together(readings.glycol_mass_percent, readings.sd_mass_percent, readings.sd_mass_percent)
    w = readings.glycol_mass_percent / 100
    freeze_c = freeze_point(glycol, MassFraction(w)).freeze_c
    warm_end = safe_to(glycol, both.glycol_mass_percent, both.sd_mass_percent)
    warm_end = max(warm_end, freeze_point(glycol, MassFraction(w)).at_most_c)  # never colder than it reads
    verdict = _verdict(glycol, readings, both, target_c, coldest_c, prediction, warm_end, policy)
    predicted = freeze_point(glycol, MassFraction(prediction.glycol_mass_percent / 100)).at_most_c if prediction else None
    weaker = prediction is not None and w * 100 < prediction.glycol_mass_percent
    middle_c = freeze_point(glycol, MassFraction(both.glycol_mass_percent / 100)).at_most_c
    doubtful = verdict is Proof.TOO_WEAK and middle_c <= coldest_c
    middle = middle_c if together is not None and freeze_c is not None else freeze_c
    said = _say(
        verdict, freeze_c, middle, warm_end, target_c, coldest_c, predicted or 0.0, weaker, both if doubtful else None
    )
    off = middle - target_c if middle is not None else None
    return ProofVerdict(verdict, said, freeze_c, warm_end, off, predicted)


def _verdict(
    glycol: Glycol,
    readings: Repeats,
    both: Together,
    target_c: float,
    coldest_c: float,
    prediction: Prediction | None,
    warm_end: float,
    policy: Policy,
) -> Proof:
    if prediction and disagree(readings, prediction, policy):
        return Proof.DOES_NOT_AGREE
    w, half = both.glycol_mass_percent / 100, Z95 * both.sd_mass_percent / 100
    useful_w = mass_fraction_at_freeze(glycol, COLDEST_TARGET_C[glycol])
    if min(w, readings.glycol_mass_percent / 100) > useful_w:
        return Proof.TOO_STRONG
    if warm_end > coldest_c:
        once_more = safe_to(glycol, both.glycol_mass_percent, both.once_more_sd)
        return Proof.READ_AGAIN if once_more <= coldest_c else Proof.TOO_WEAK
    near_w = abs(w - mass_fraction_at_freeze(glycol, target_c))
    return Proof.PROVEN if near_w <= max(half, _tolerance_w(glycol, target_c, policy)) else Proof.PROTECTED


WORTH_SAYING_K = 0.25  # nearer, reading and litres are one figure to whoever reads it
_PROTECTS = "Protects to {safe_c:0}; coldest here {coldest_c:0}."
_ON_OR_OFF = "{with_litres}{gap_k} {side} than the target {target_c:0}. " + _PROTECTS
_WORDS = {
    Proof.PROVEN: _ON_OR_OFF,
    Proof.PROTECTED: _ON_OR_OFF,
    Proof.READ_AGAIN: "protects only to {safe_c:0} for sure; coldest here {coldest_c:0}. One more reading can settle it.",
    Proof.TOO_WEAK: "{with_litres}{gap_k} short of the target {target_c:0}. " + _PROTECTS,
    Proof.TOO_STRONG: "more glycol protects less from here on. Swap some for water.",
}
_DOUBTFUL = "protects only to {safe_c:0} for sure; coldest here {coldest_c:0}. More readings cannot settle it: {why}."
WAYS_OUT = {
    Source.ZERO.value: "set the zero with demineralised water",
    Source.LINE.value: "use a finer instrument",
    Source.INSTRUMENT.value: "use a finer instrument",
    Source.CURVE.value: "plan it colder",
    Source.CAPACITY.value: "measure the capacity, or plan it colder",
}


def _say(
    verdict: Proof,
    freeze_c: float | None,
    middle_c: float | None,
    safe_c: float,
    target_c: float,
    coldest_c: float,
    predicted: float,
    weaker: bool,
    doubtful: Together | None,
) -> Message:
    reads = "Reads {freeze_c}, " if freeze_c is not None else "Reads stronger than tabulated, "
    gap = abs(middle_c - target_c) if middle_c is not None else 0.0
    side = "warmer" if middle_c is not None and middle_c > target_c else "colder"
    moved = middle_c is not None and freeze_c is not None and abs(middle_c - freeze_c) >= WORTH_SAYING_K
    if verdict is Proof.DOES_NOT_AGREE:
        why = "weaker than the litres predict: more was inside, or less was poured"
        if not weaker:
            why = "stronger than the litres predict: less was inside, or more was poured"
        words = f"the litres predict {{predicted_c}}. It is {why}. Check the zero first, then the litres."
    elif doubtful is not None:
        words = _DOUBTFUL
    else:
        words = _WORDS[verdict].replace("{with_litres}", "with the litres {middle_c}: " if moved else "")
    return say(
        verdict.value,
        reads + words,
        freeze_c=freeze_c if freeze_c is not None else "",
        gap_k=gap,
        middle_c=middle_c if middle_c is not None else "",
        side=side,
        target_c=target_c,
        safe_c=safe_c,
        coldest_c=coldest_c,
        predicted_c=predicted,
        why=WAYS_OUT.get(doubtful.in_the_way, "plan it colder") if doubtful is not None else "",
    )


def _tolerance_w(glycol: Glycol, target_c: float, policy: Policy) -> float:
    """Distance from the target that still verifies it however sure the readings are, in mass fraction."""
    warmer = min(target_c + policy["proof_tolerance_k"], 0.0)
    return mass_fraction_at_freeze(glycol, target_c) - mass_fraction_at_freeze(glycol, warmer)


def verdict_templates() -> dict[str, str]:
    """The sentence of each verdict on a strength by its code, for a job that was signed in other words."""
    return {proof.value: "Reads {freeze_c}, " + words.replace("{with_litres}", "") for proof, words in _WORDS.items()}


def disagree(readings: Repeats, prediction: Prediction, policy: Policy) -> bool:
    """Whether they differ by more than chance."""
    gap = abs(readings.glycol_mass_percent - prediction.glycol_mass_percent)
    sd = math.hypot(readings.sd_mass_percent, prediction.sd_mass_percent)
    return gap > max(policy["agreement_sds"] * sd, 1.0)
