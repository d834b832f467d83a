"""How much concentrate and how much water reach a freeze point, on top of what is still inside.

Mass is conserved: a mix contracts, so litres do not add up, kilograms do. All volumes are at 20 degC.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.calculate.mix.certainty import Mixed
from temper_core.calculate.mix.likely import InputShare, Likely, LitresSpread
from temper_core.calculate.mix.masses import litres_of
from temper_core.calculate.mix.question import (
    Final,
    Infeasible,
    MixQuestion,
    filled_with,
    final_of,
    measured_spread,
    parts_of,
)
from temper_core.science import COLDEST_TARGET_C, freeze_point, mass_fraction_at_freeze

SURE_WITHIN_K = 0.02
_WATER = MassFraction(0.0)


@dataclass(frozen=True, slots=True)
class MixAnswer:
    """What to pour. When feasible is false the litres are the best reachable ones, and reason says by how much it misses.

    blend_percent: strength of what is poured as blended in a bucket, by volume of the concentrate in use.
    kept_back_l: litres of water that do not fit before the mix has settled; they go in when topping up.
    inputs: where the doubt comes from, largest share first. warnings: what the person must know all the same. own_freeze_c:
    of the product as it is, inside_takes_k: by how much what is inside makes the finish warmer; only where it is poured so.
    """

    feasible: bool
    concentrate_l: float
    water_l: float
    kept_back_l: float
    blend_percent: float
    final: Final
    likely: Likely | None = None
    likely_with_curve: Likely | None = None
    litres_spread: LitresSpread | None = None
    inputs: tuple[InputShare, ...] = ()
    reason: Infeasible | None = None
    warnings: tuple[Message, ...] = ()
    own_freeze_c: float | None = None
    inside_takes_k: float | None = None


@dataclass(frozen=True, slots=True)
class _Plan:
    """Litres, the mass fraction that follows, and why it is not the one that was asked for."""

    concentrate_l: float
    water_l: float
    w: MassFraction
    reason: Infeasible | None = None


def mix(q: MixQuestion, policy: Policy | None = None) -> MixAnswer:
    """Litres of concentrate and of water to the target on top of what is inside; see MixAnswer.

    >>> from temper_core.science import Glycol
    >>> from temper_core.calculate.mix.question import Inside
    >>> q = MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), -45.0)
    >>> a = mix(q)
    >>> a.feasible, round(a.concentrate_l, 1), round(a.water_l, 1)
    (True, 18.3, 6.6)
    """
    policy = policy or Policy()
    plan = _as_it_is(q) if q.as_it_is else _sure_plan(q) if q.be_sure else _plan(q, q.target_freeze_c)
    poured = plan.concentrate_l + plan.water_l
    room = q.loop_volume_l - _inside_l(q)
    final = final_of(q.glycol, q.loop_volume_l, plan.w, q.concentrate)
    answer = MixAnswer(
        feasible=plan.reason is None,
        concentrate_l=plan.concentrate_l,
        water_l=plan.water_l,
        kept_back_l=min(plan.water_l, max(0.0, poured - room)),
        blend_percent=100 * plan.concentrate_l / poured if poured > 0 else 0.0,
        final=final,
        reason=plan.reason,
        warnings=_warnings(final, policy),
    )
    if q.as_it_is:
        own = freeze_point(q.glycol, q.concentrate).freeze_c
        takes = final.freeze_c - own if own is not None and final.freeze_c is not None else None
        answer = replace(answer, own_freeze_c=own, inside_takes_k=takes)
    if q.spread is None:
        return answer
    mixed = Mixed(q, plan.concentrate_l, plan.water_l, plan.w)
    likely, with_curve = mixed.likely()
    return replace(
        answer,
        likely=likely,
        likely_with_curve=with_curve,
        litres_spread=mixed.litres_spread(),
        inputs=mixed.inputs(measured_spread(q, policy)),
    )


def _inside_l(q: MixQuestion) -> float:
    """Litres inside now, pours included."""
    return litres_of(q.glycol, q.have)


def _plan(q: MixQuestion, target_c: float) -> _Plan:
    target_w = mass_fraction_at_freeze(q.glycol, target_c)
    concentrate_l, water_l = _parts(q, target_w)
    tiny = 1e-9 * q.loop_volume_l
    reason, w = None, target_w
    if water_l < -tiny:
        w = filled_with(q.glycol, q.loop_volume_l, q.have, q.concentrate)
        reason = _too_weak(q, target_c, target_w, w)
    elif concentrate_l < -tiny:
        w = filled_with(q.glycol, q.loop_volume_l, q.have, _WATER)
        reason = _too_strong(q, target_c, target_w, w)
    if reason:
        concentrate_l, water_l = _parts(q, w)
    # what is left of a root search is a rounding remainder, never a litre
    concentrate_l, water_l = (0.0 if litres < tiny else litres for litres in (concentrate_l, water_l))
    return _Plan(concentrate_l, water_l, w, reason)


def _as_it_is(q: MixQuestion) -> _Plan:
    """The product alone up to the cold mark; where that is short of the target, by how much, and what helps."""
    w = filled_with(q.glycol, q.loop_volume_l, q.have, q.concentrate)
    product_l = max(0.0, _parts(q, w)[0]) if _inside_l(q) < q.loop_volume_l * (1 - 1e-12) else 0.0
    target_w = mass_fraction_at_freeze(q.glycol, q.target_freeze_c)
    if w >= target_w - 1e-9:
        return _Plan(product_l, 0.0, w)
    best, misses = _missed(q, w, q.target_freeze_c)
    more = _drain_more(q, target_w, part=1) if q.concentrate > target_w else None
    helps = (
        ("drain {more_l} more, or add concentrate.")
        if more is not None
        else "add concentrate: alone it does not reach the target."
    )
    at, figures = _shown(best, misses)
    said = say("short_as_it_is", f"Poured undiluted, the loop freezes at {at}: {helps}", more_l=more or 0.0, **figures)
    return _Plan(product_l, 0.0, w, Infeasible.of(said, more, best, misses))


def _parts(q: MixQuestion, glycol_w: float) -> tuple[float, float]:
    """Concentrate and water [l] that bring the full loop to glycol_w; either may come out negative."""
    return parts_of(q.glycol, q.loop_volume_l, q.have, q.concentrate, _WATER, glycol_w)


def _drain_more(q: MixQuestion, target_w: float, part: int) -> float | None:
    """How many litres more must come out, of what is inside, before the target is in reach; None if even empty fails."""
    inside_l = _inside_l(q)
    if inside_l <= 0:
        return None

    def spare(out: float) -> float:
        left = q.have.times(1 - out / inside_l)
        return parts_of(q.glycol, q.loop_volume_l, left, q.concentrate, _WATER, target_w)[part]

    if spare(inside_l) < 0:
        return None
    low, high = 0.0, inside_l
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if spare(middle) < 0 else (low, middle)
    return high


def _shown(freeze_c: float | None, misses_k: float | None) -> tuple[str, dict[str, float]]:
    """The best freeze point in words, and the figures in them."""
    if freeze_c is None or misses_k is None:
        return "colder than any handbook shows", {}
    words = "{best_c}, {misses_k} " + ("short" if misses_k > 0 else "past it")
    return words, {"best_c": freeze_c, "misses_k": abs(misses_k)}


def _missed(q: MixQuestion, best_w: MassFraction, target_c: float) -> tuple[float | None, float | None]:
    """The best freeze point and its distance from the target."""
    best = freeze_point(q.glycol, best_w).freeze_c
    return best, None if best is None else best - target_c


def _too_weak(q: MixQuestion, target_c: float, target_w: MassFraction, best_w: MassFraction) -> Infeasible:
    best, misses = _missed(q, best_w, target_c)
    more = _drain_more(q, target_w, part=1)
    help_ = (
        "Drain {more_l} more (block drain, tilt, one more drain), or accept the weaker mix."
        if more is not None
        else "Even an empty loop falls short: use a stronger concentrate."
    )
    at, figures = _shown(best, misses)
    words = f"Out of reach: concentrate alone on top of {{inside_l}} freezes at {at}. {help_}"
    said = say("too_much_inside", words, inside_l=_inside_l(q), more_l=more or 0.0, **figures)
    return Infeasible.of(said, more, best, misses)


def _too_strong(q: MixQuestion, target_c: float, target_w: MassFraction, best_w: MassFraction) -> Infeasible:
    best, misses = _missed(q, best_w, target_c)
    more = _drain_more(q, target_w, part=0)
    help_ = " To reach the target, drain {more_l} more." if more is not None else ""
    at, figures = _shown(best, misses)
    words = f"The coolant inside is too strong already: filled up with water it freezes at {at}.{help_}"
    return Infeasible.of(say("inside_too_strong", words, more_l=more or 0.0, **figures), more, best, misses)


def _sure_plan(q: MixQuestion) -> _Plan:
    """Plan colder until the warm end, curve included, meets the target: the end follows the plan almost one to one."""
    coldest = COLDEST_TARGET_C[q.glycol]
    aim = q.target_freeze_c
    for _ in range(12):
        plan = _plan(q, aim)
        if plan.reason is not None:
            return plan
        warm_end = Mixed(q, plan.concentrate_l, plan.water_l, plan.w).likely()[1].freeze_c_high
        off = warm_end - q.target_freeze_c
        if abs(off) < SURE_WITHIN_K or (aim == coldest and off > 0):
            break
        aim = min(0.0, max(coldest, aim - off))
    if off < SURE_WITHIN_K:
        return plan
    said = say(
        "not_sure",
        "To guarantee {target_c} the mix would have to be colder than {coldest_c:0}, which no handbook shows. "
        "The best protects to {safe_c:1}: measure more exactly, or set a warmer target.",
        target_c=q.target_freeze_c,
        coldest_c=coldest,
        safe_c=warm_end,
    )
    best = freeze_point(q.glycol, plan.w).freeze_c
    return replace(plan, reason=Infeasible.of(said, None, best, off))


def _warnings(final: Final, policy: Policy) -> tuple[Message, ...]:
    minimum = policy["corrosion_minimum_percent"]
    if final.strength_percent >= minimum - 0.05:
        return ()
    words = (
        "{strength_percent:0} by volume is under the {minimum_percent:0} needed for corrosion protection, "
        "unless the product says otherwise."
    )
    return (say("below_corrosion_minimum", words, strength_percent=final.strength_percent, minimum_percent=minimum),)
