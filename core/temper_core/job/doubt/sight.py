"""A reading in the record as something seen of a world: its number, its own doubt, and what it shares with others."""

from __future__ import annotations

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments import FACTS, ReadingQuestion, read
from temper_core.instruments.errors import errors_of
from temper_core.instruments.kinds import FREEZES, InstrumentKind
from temper_core.job.doubt.inputs import Input, Source
from temper_core.job.doubt.seen import Between, ReadW, Seen
from temper_core.job.read.facts import Read, counted, question_of, steps_of
from temper_core.science import COLDEST_TARGET_C, Glycol, mass_fraction_at_freeze, mass_fraction_of

DIGITAL_BETTER = 0.25  # a digital instrument against a glass with whole degrees


def sight_of(
    glycol: Glycol, facts: Read, policy: Policy, entry_id: str, vessels: tuple[int, ...], noted: str = ""
) -> Seen | None:
    """What a reading says of these vessels together; None where it gives no number.

    noted: the name under which their strength was noted when they ran, where the reading is of a jar.
    """
    steps = steps_of(glycol, facts, policy)
    if steps is not None:
        low = 0.0 if steps.low_percent is None else mass_fraction_of(glycol, VolumePercent(steps.low_percent))
        high = 1.0 if steps.high_percent is None else mass_fraction_of(glycol, VolumePercent(steps.high_percent))
        return Between(vessels, low, high, noted, entry_id)
    if not counted(facts) or facts.instrument is None:
        return None
    question = question_of(glycol, facts)
    answer = read(question, policy)
    if answer.glycol_mass_percent is None:
        return _past_the_end(glycol, question, vessels, noted, entry_id)
    w, name = answer.glycol_mass_percent / 100, facts.instrument.id
    errors = errors_of(question, policy, w)
    glass = DIGITAL_BETTER if facts.instrument.kind is not InstrumentKind.DIGITAL else None
    unzeroed = min(1.0, errors.line / errors.zero) if facts.zero is None and errors.zero > 0 else glass
    shared = (
        (Input(f"line:{name}:{facts.value:g}", Source.LINE, glass), errors.line),
        (Input(f"zero:{name}:{facts.zero}", Source.ZERO, unzeroed), errors.zero),
        (Input(f"instrument:{name}", Source.INSTRUMENT, glass), errors.accuracy),
        (Input(f"tables:{facts.instrument.scale.value}", Source.CURVE), errors.tables),
    )
    kept = tuple((one, sd) for one, sd in shared if sd > 0)
    return ReadW(vessels, w, errors.eye, kept, answer.below_detection, noted, entry_id)


def _past_the_end(glycol: Glycol, q: ReadingQuestion, vessels: tuple[int, ...], noted: str, entry_id: str) -> Seen | None:
    """Stronger than the last mark of a scale of the loop's own glycol: at least that; None where it tells nothing."""
    if q.scale not in FREEZES or q.scale.glycol is not glycol or q.value > FACTS[q.scale].first:
        return None
    return Between(vessels, mass_fraction_at_freeze(glycol, COLDEST_TARGET_C[glycol]), 1.0, noted, entry_id)
