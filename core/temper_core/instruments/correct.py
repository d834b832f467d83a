"""What a reading really says: zero and temperature taken off on the instrument's own axis, the right glycol, how sure."""

from __future__ import annotations

from functools import lru_cache

from temper_core.basis.errors import CoreError, called
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.instruments.axis import Axis, axis_of
from temper_core.instruments.errors import errors_at, errors_of, unbiased
from temper_core.instruments.question import Flag, ReadingAnswer, ReadingQuestion, ReadingSpread
from temper_core.instruments.scales import FACTS, Scale, depression_k_per_w, is_off_scale, mark
from temper_core.science import (
    Branch,
    Glycol,
    boil_c,
    freeze_point,
    refractive_index_20c,
    strength_of,
)


def zero_off_k(q: ReadingQuestion) -> float:
    """How far off the zero is, as a difference of freeze point at zero strength [K]; 0 where none was taken."""
    if q.zero is None:
        return 0.0
    axis = axis_of(q)
    step = 0.01
    per_w = (axis.at_20c(step) - axis.at_20c(0.0)) / step
    return abs(mark(q.scale, q.zero) - axis.at(0.0)) / per_w * depression_k_per_w(q.glycol)


def _flags(q: ReadingQuestion, policy: Policy) -> list[Flag]:
    flags = []
    if q.scale.glycol not in (None, q.glycol):
        said = f"Read on the {q.scale.glycol} scale, but the loop holds {q.glycol} glycol."
        flags.append(Flag("other_scale", f"{said} Converted through the refractive index; read again on the right scale."))
    low = policy["compensation_low_c"] if q.compensation_low_c is None else q.compensation_low_c
    high = policy["compensation_high_c"] if q.compensation_high_c is None else q.compensation_high_c
    if not low <= q.sample_c <= high:
        holds = "the compensation is valid" if q.compensated else "the temperature correction is valid"
        words = "The sample is at {sample_c}; {holds} from {low_c:0} to {high_c:0}. "
        words += "Let it come to room temperature and read again."
        figures = {"sample_c": q.sample_c, "low_c": low, "high_c": high}
        flags.append(Flag.of(say("outside_compensation", words, holds=holds, **figures)))
    if zero_off_k(q) > policy["zero_tolerance_k"] * (1 + 1e-3):
        at, figures = _on_scale(q.scale, "zero", q.zero or 0.0)
        words = f"Water read {at}, more than {{tolerance_k}} off. Clean the prism, set the zero, read again."
        flags.append(Flag.of(say("zero_off", words, tolerance_k=policy["zero_tolerance_k"], **figures)))
    return flags


def read(q: ReadingQuestion, policy: Policy | None = None) -> ReadingAnswer:
    """Correct one reading; see ReadingAnswer. Raises CoreError (density_flat) for propylene too strong for a hydrometer.

    >>> a = read(ReadingQuestion(Glycol.ETHYLENE, Scale.FREEZE_ETHYLENE, -44.6, zero=-0.4))
    >>> round(a.freeze_c, 1)
    -42.6
    """
    return _corrected(q, policy or Policy())


@lru_cache(maxsize=4096)  # a ledger is folded again with every entry, its readings stay
def _corrected(q: ReadingQuestion, policy: Policy) -> ReadingAnswer:
    flags = _flags(q, policy)
    if is_off_scale(q.scale, q.value):
        return _off_scale(q, flags)
    axis = axis_of(q)
    offset = 0.0 if q.zero is None else mark(q.scale, q.zero) - axis.at(0.0)
    with called("value"):
        seen = mark(q.scale, q.value) - offset
    detectable = policy["detection_sds"] * errors_at(q, policy, 0.0).near_water
    floor = axis.at(0.0) + detectable
    below = seen < floor
    if below:
        flags.append(Flag("below_detection", "Not distinguishable from water: the strength is an upper limit."))
    if seen < axis.at(0.0) - detectable:
        flags.append(Flag("weaker_than_water", "Reads weaker than water: check the zero, then read again."))
    w = axis.glycol_w(floor if below else seen)
    if w is None:
        if axis.top_w < 1:
            said = f"Propylene glycol above {100 * axis.top_w:g} % by mass cannot be measured by density."
            raise CoreError("value", f"{said} Use a refractometer.", "density_flat")
        return _off_scale(q, flags)
    if not below:
        w = unbiased(q, w)
    point = freeze_point(q.glycol, w)
    if point.branch is Branch.RICH:
        flags.append(Flag("past_the_turn", "Too strong: more glycol protects less. Add water."))
    return ReadingAnswer(
        refractive_index_20c=refractive_index_20c(q.glycol, w) if below else _index_20c(q, axis, w, seen),
        glycol_mass_percent=w * 100,
        strength_percent=strength_of(q.glycol, w),
        freeze_c=point.freeze_c,
        freeze_below_c=point.freeze_below_c,
        boil_c=boil_c(q.glycol, w),
        spread=_spread(q.glycol, w, errors_of(q, policy, w).whole),
        below_detection=below,
        flags=tuple(flags),
    )


def _index_20c(q: ReadingQuestion, axis: Axis, w: MassFraction, seen: float) -> float:
    """The index itself where a refractometer compensates; else that of the strength found."""
    measured = q.compensated and q.scale is not Scale.SPECIFIC_GRAVITY
    return seen if measured else refractive_index_20c(q.glycol, w)


def _on_scale(scale: Scale, name: str, value: float) -> tuple[str, dict[str, float]]:
    """A mark in the words of its scale, and the figure in them; degrees follow the units on show, other scales have one."""
    unit = FACTS[scale].unit
    if unit == "°C":
        return f"{{{name}_c}}", {f"{name}_c": value}
    return f"{value:g}{' ' + unit if unit else ''}", {}


def _off_scale(q: ReadingQuestion, flags: list[Flag]) -> ReadingAnswer:
    facts = FACTS[q.scale]
    seen, figures = _on_scale(q.scale, "seen", q.value)
    words = f"{seen} is stronger than pure glycol: no value."
    if is_off_scale(q.scale, q.value):
        end, more = _on_scale(q.scale, "end", facts.first if q.value < facts.first else facts.last)
        words, figures = f"{seen} is past the end of the scale ({end}): no value.", figures | more
    flags.append(Flag.of(say("off_scale", words, **figures)))
    return ReadingAnswer(None, None, None, None, None, None, None, False, tuple(flags))


def _spread(glycol: Glycol, w: float, sd_w: float) -> ReadingSpread:
    low, high = MassFraction(max(0.0, w - sd_w)), MassFraction(min(1.0, w + sd_w))
    percent = strength_of(glycol, high) - strength_of(glycol, low)
    kelvin = [point.freeze_c for point in (freeze_point(glycol, MassFraction(at)) for at in (low, w, high))]
    slope = _kelvin_per_w(kelvin, (low, w, high))
    return ReadingSpread(None if slope is None else slope * sd_w, percent * sd_w / (high - low or 1.0))


def _kelvin_per_w(freezes: list[float | None], ws: tuple[float, float, float]) -> float | None:
    """Slope of the freeze curve there [K per unit of mass fraction], by the side that is tabulated; None where none is."""
    known = [(f, at) for f, at in zip(freezes, ws, strict=True) if f is not None]
    if freezes[1] is None or len(known) < 2:
        return None
    (first, low), (last, high) = known[0], known[-1]
    return abs(last - first) / (high - low) if high > low else None
