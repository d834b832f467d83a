"""Why reading and litres may disagree: each cause alone, how far it would have to be off, the likeliest first.

Each is measured in its own standard deviations, so that litres, percent and degrees can be ranked together.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from temper_core.basis.message import Message, say
from temper_core.basis.quantity import MassFraction
from temper_core.instruments import Repeats
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.balance import cause_spread, left_inside, mixed_now
from temper_core.job.inside.verdict import Proof, ProofVerdict
from temper_core.job.verify.state import Cause
from temper_core.machine.air import where_air_sits
from temper_core.machine.bleeding import FinishSign
from temper_core.science import freeze_point, mass_fraction_at_freeze

NEVER = 9.9  # standard deviations: not by this alone


def causes_of(t: LedgerFold, readings: Repeats | None, proof: ProofVerdict | None) -> tuple[Cause, ...]:
    """The causes, likeliest first; empty where reading and litres agree."""
    if readings is None or proof is None or proof.verdict is not Proof.DOES_NOT_AGREE or not t.job.pours:
        return ()
    spread, w = cause_spread(t), readings.glycol_mass_percent / 100
    drained = t.job.drained.drained_l if t.job.drained else 0.0
    at = [t.loop.capacity_l, drained, 0.0, 1.0]
    mixed = mixed_now(t)
    found = [
        _capacity(t, mixed, at, spread.loop_volume_l, w),
        _residual(t, mixed, at, spread.drained_l, w),
        _strength_inside(t, mixed, at, spread.inside_strength_percent, w),
        _air(t, w),
        _instrument(t, mixed(at), w),
    ]
    return tuple(sorted((cause for cause in found if cause is not None), key=lambda cause: cause.sds))


def _needed(
    mixed: Callable[[Sequence[float]], float], at: list[float], i: int, w: float, bounds: tuple[float, float]
) -> float | None:
    """What quantity i would have to be for the litres to give w, all else as believed; None out of bounds."""
    low, high = bounds

    def off(value: float) -> float:
        return mixed([*at[:i], value, *at[i + 1 :]]) - w

    if off(low) * off(high) > 0:
        return None
    for _ in range(60):
        middle = (low + high) / 2
        if off(low) * off(middle) <= 0:
            high = middle
        else:
            low = middle
    return (low + high) / 2


def _cause(code: str, name: str, off: float | None, sd: float, said: Message) -> Cause:
    return Cause(code, name, said, NEVER if off is None or sd <= 0 else min(NEVER, abs(off) / sd))


def _capacity(t: LedgerFold, mixed: Callable[[Sequence[float]], float], at: list[float], sd: float, w: float) -> Cause:
    value = _needed(mixed, at, 0, w, (at[1] + 1e-6, 4 * at[0]))
    if value is None:
        return _cause("capacity", "Capacity", None, sd, say("cause_not", "No capacity explains it."))
    words = "Capacity would be {needed_l}, not {believed_l}."
    return _cause("capacity", "Capacity", value - at[0], sd, say("cause_capacity", words, needed_l=value, believed_l=at[0]))


def _residual(
    t: LedgerFold, mixed: Callable[[Sequence[float]], float], at: list[float], sd: float, w: float
) -> Cause | None:
    """Litres out; what then went in up to the mark is a second measure of it."""
    if t.job.drained is None:
        return None
    value = _needed(mixed, at, 1, w, (0.0, at[0]))
    if value is None:
        return _cause("residual", "Litres still inside", None, sd, say("cause_not", "No litres left inside explain it."))
    accepted = at[1] - (t.loop.capacity_l - t.contents.total_l)
    doubt = math.hypot(sd, accepted * t.policy["poured_sd"] / 100)
    off = value - (accepted if t.job.pours[-1].at_mark else at[1])
    words = "{needed_l} would still have been inside after the drain, not {believed_l}; {in_l} was poured on top."
    values = {"needed_l": at[0] - value, "believed_l": at[0] - at[1], "in_l": accepted}
    return _cause("residual", "Litres still inside", off, doubt, say("cause_residual", words, **values))


def _strength_inside(
    t: LedgerFold, mixed: Callable[[Sequence[float]], float], at: list[float], sd: float, w: float
) -> Cause | None:
    now = 0.0 if not t.found.strength_percent or t.job.flush.rinsed else t.found.strength_percent
    if sd <= 0 or at[0] - at[1] < 0.1:
        return None
    value = _needed(mixed, at, 2, w, (-now, 100.0 - now))
    if value is None:
        return _cause("inside", "Strength left inside", None, sd, say("cause_not", "No strength inside explains it."))
    words = "The strength left inside would be {needed_percent} off."
    return _cause("inside", "Strength left inside", value, sd, say("cause_inside", words, needed_percent=value))


def _air(t: LedgerFold, w: float) -> Cause | None:
    """A vessel behind an airlock kept what stayed in it, so the rest reads nearer to what was poured: how many litres?

    As likely as half of the vessel that air sits in; half as likely once the heater was felt hot.
    """
    where = where_air_sits(t.loop.layout)
    inside, total = left_inside(t), t.by_litres.total
    if t.job.drained is None or where is None or total.kg <= 0:
        return None
    vessel = next(node for node in t.loop.layout.nodes if node.id == where)
    kept_w = inside.glycol_w
    behind_l = (w * total.kg - total.glycol_kg) / max(1e-6, w - kept_w) if w > kept_w else -1.0
    name = "Air, a vessel that did not mix"
    if behind_l <= 0:
        return _cause("air", name, None, 1.0, say("cause_not_air", "Air would make it read closer to the mix poured."))
    sd = vessel.volume_l / 2 * (0.5 if FinishSign.HEATER_HOT in t.job.fill.bled else 1.0)
    words = "{behind_l} in the {where} would not have mixed: run hot again, heater on full, and read once more."
    said = say("cause_air", words, behind_l=behind_l, where=vessel.name.lower())
    return _cause("air", name, behind_l, sd, said)


def _instrument(t: LedgerFold, predicted_w: float, w: float) -> Cause | None:
    """A zero that is off moves every reading: how many kelvin at water would do."""
    zero_c = -0.5
    per_k = mass_fraction_at_freeze(t.glycol, zero_c) / abs(zero_c)  # near water, mass fraction per kelvin of the scale
    off_k = (w - predicted_w) / per_k
    sd = t.policy["zero_tolerance_k"] / 2
    predicted_c = freeze_point(t.glycol, MassFraction(predicted_w)).at_most_c
    words = "The zero would be off by {off_k}: check it with demineralised water; it should read {predicted_c}."
    return _cause("instrument", "Instrument", off_k, sd, say("cause_zero", words, off_k=abs(off_k), predicted_c=predicted_c))
