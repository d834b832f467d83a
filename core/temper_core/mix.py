"""How much concentrate and how much water reach a freeze point, on top of what is still inside.

Mass is conserved: a mix contracts, so litres do not add up, kilograms do. All volumes are at 20 degC.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.errors import called, check_between
from temper_core.glycol import (
    DEFAULT_CONCENTRATE,
    FreezePoint,
    Glycol,
    boil_c,
    curve_doubt_k,
    density_20c,
    freeze_point,
    mass_fraction_at_freeze,
    mass_fraction_of,
    strength_of,
)
from temper_core.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.spread import Z95, Interval, chance_below, propagate

LARGEST_LOOP_L = 5000.0  # a railcar holds some hundreds; above this a figure was mistyped
WEAKEST_CONCENTRATE_W = 0.30
WARM_TAIL = 0.025  # a 95 % interval leaves this much on its warm side


@dataclass(frozen=True, slots=True)
class Inside:
    """What the loop still holds: litres, and its strength by volume of the default concentrate."""

    volume_l: float
    strength_percent: VolumePercent = VolumePercent(0.0)


@dataclass(frozen=True, slots=True)
class Spread:
    """Standard deviations of what goes into a plan."""

    loop_volume_l: float = 0.0
    drained_l: float = 0.0
    inside_strength_percent: float = 0.0
    glycol_mass_percent: float = 0.0


@dataclass(frozen=True, slots=True)
class MixQuestion:
    """A loop filled to its cold mark with concentrate and water so that it freezes at target_freeze_c."""

    glycol: Glycol
    loop_volume_l: float
    inside: Inside
    target_freeze_c: float
    concentrate: MassFraction = DEFAULT_CONCENTRATE
    spread: Spread | None = None

    def __post_init__(self) -> None:
        check_loop(self.loop_volume_l, self.inside)
        check_concentrate(self.concentrate)
        with called("target_freeze_c"):
            mass_fraction_at_freeze(self.glycol, self.target_freeze_c)
        if self.spread:
            for name in ("loop_volume_l", "drained_l"):
                check_between(
                    f"spread.{name}", getattr(self.spread, name), 0, self.loop_volume_l, "L", "A spread is a size."
                )
            for name in ("inside_strength_percent", "glycol_mass_percent"):
                check_between(f"spread.{name}", getattr(self.spread, name), 0, 50, "%", "A spread is a size.")


@dataclass(frozen=True, slots=True)
class Final:
    """A full loop, well mixed. freeze_c is None where nobody tabulates it, freeze_below_c then says below what."""

    volume_l: float
    strength_percent: float
    poured_percent: float
    glycol_mass_percent: float
    freeze_c: float | None
    freeze_below_c: float | None
    boil_c: float


@dataclass(frozen=True, slots=True)
class Likely:
    """95 % interval of the freeze point, and how many of the cases could not be at all."""

    freeze_c_low: float
    freeze_c_high: float
    refused_percent: float


@dataclass(frozen=True, slots=True)
class LitresSpread:
    """How far the right litres may lie from the planned ones: half-widths of 95 % intervals [l]."""

    concentrate_l: float
    water_l: float


@dataclass(frozen=True, slots=True)
class Infeasible:
    """Why a target is out of reach, what would bring it into reach, and the best that can be had."""

    code: str
    message: str
    drain_more_l: float | None
    best_freeze_c: float | None


@dataclass(frozen=True, slots=True)
class MixAnswer:
    """What to pour. When feasible is false the litres are the best reachable ones, and reason says by how much it misses.

    blend_percent: strength of what is poured as blended in a bucket, by volume of the concentrate in use.
    """

    feasible: bool
    concentrate_l: float
    water_l: float
    blend_percent: float
    final: Final
    likely: Likely | None = None
    likely_with_curve: Likely | None = None
    litres_spread: LitresSpread | None = None
    reason: Infeasible | None = None


def check_loop(loop_volume_l: float, inside: Inside) -> None:
    """Refuse a loop or a residual that cannot be; raises OutOfRange with the field's path."""
    check_between("loop_volume_l", loop_volume_l, 0.1, LARGEST_LOOP_L, "L", "Check the capacity.")
    todo = "More cannot be inside than the loop holds: wrong litres, or wrong capacity?"
    check_between("inside.volume_l", inside.volume_l, 0, loop_volume_l, "L", todo)
    check_between("inside.strength_percent", inside.strength_percent, 0, 100, "% by volume")


def check_concentrate(glycol_w: MassFraction) -> None:
    """Refuse a concentrate that is none, and a fraction typed for a percent."""
    low = WEAKEST_CONCENTRATE_W * 100
    todo = "Read the glycol content in percent by mass from the product's data sheet."
    check_between("concentrate.glycol_mass_percent", glycol_w * 100, low, 100, "% by mass", todo)


@dataclass(frozen=True, slots=True)
class _Masses:
    """Kilograms of glycol and water."""

    glycol: float
    water: float

    @property
    def total(self) -> float:
        return self.glycol + self.water


def inside_masses(glycol: Glycol, inside: Inside) -> _Masses:
    """Kilograms of glycol and water in what is still inside."""
    w = mass_fraction_of(glycol, inside.strength_percent)
    kg = inside.volume_l * density_20c(glycol, w) / 1000
    return _Masses(kg * w, kg * (1 - w))


def final_of(glycol: Glycol, volume_l: float, glycol_w: MassFraction, concentrate: MassFraction) -> Final:
    """Describe a full loop of this mass fraction."""
    point: FreezePoint = freeze_point(glycol, glycol_w)
    return Final(
        volume_l=volume_l,
        strength_percent=strength_of(glycol, glycol_w),
        poured_percent=strength_of(glycol, glycol_w, concentrate),
        glycol_mass_percent=glycol_w * 100,
        freeze_c=point.freeze_c,
        freeze_below_c=point.freeze_below_c,
        boil_c=boil_c(glycol, glycol_w),
    )


def _parts(q: MixQuestion, glycol_w: float) -> tuple[float, float]:
    """Concentrate and water [l] that bring the full loop to glycol_w; either may come out negative."""
    return _parts_of(q.glycol, q.loop_volume_l, q.inside, q.concentrate, glycol_w)


def _parts_of(
    glycol: Glycol, loop_volume_l: float, inside: Inside, concentrate: float, glycol_w: float
) -> tuple[float, float]:
    have = inside_masses(glycol, inside)
    total = loop_volume_l * density_20c(glycol, glycol_w) / 1000
    concentrate_kg = (total * glycol_w - have.glycol) / concentrate
    water_kg = total - have.total - concentrate_kg
    return concentrate_kg / density_20c(glycol, concentrate) * 1000, water_kg / WATER_DENSITY_20C * 1000


def _filled_with(q: MixQuestion, added_w: float) -> MassFraction:
    """Mass fraction of the full loop when only a liquid of added_w is poured on top of what is inside."""
    have = inside_masses(q.glycol, q.inside)

    def volume(added_kg: float) -> float:
        total = have.total + added_kg
        w = (have.glycol + added_kg * added_w) / total
        return 1000 * total / density_20c(q.glycol, w)

    low, high = 0.0, q.loop_volume_l * 1.2
    if have.total == 0:
        return MassFraction(added_w)
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if volume(middle) < q.loop_volume_l else (low, middle)
    return MassFraction((have.glycol + low * added_w) / (have.total + low))


def mix(q: MixQuestion) -> MixAnswer:
    """Litres of concentrate and of water to the target on top of what is inside; see MixAnswer.

    >>> q = MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5, VolumePercent(0.0)), -45.0)
    >>> a = mix(q)
    >>> a.feasible, round(a.concentrate_l, 1), round(a.water_l, 1)
    (True, 18.3, 6.6)
    """
    target_w = mass_fraction_at_freeze(q.glycol, q.target_freeze_c)
    concentrate_l, water_l = _parts(q, target_w)
    tiny = 1e-9 * q.loop_volume_l
    reason = None
    w = target_w
    if water_l < -tiny:
        w = _filled_with(q, q.concentrate)
        reason = _too_weak(q, target_w, w)
    elif concentrate_l < -tiny:
        w = _filled_with(q, 0.0)
        reason = _too_strong(q, target_w, w)
    if reason:
        concentrate_l, water_l = _parts(q, w)
    # what is left of a root search is a rounding remainder, never a litre
    concentrate_l, water_l = (0.0 if litres < tiny else litres for litres in (concentrate_l, water_l))
    poured = concentrate_l + water_l
    likely, with_curve = _likely(q, q.spread, concentrate_l, w) if q.spread else (None, None)
    return MixAnswer(
        feasible=reason is None,
        concentrate_l=concentrate_l,
        water_l=water_l,
        blend_percent=100 * concentrate_l / poured if poured > 0 else 0.0,
        final=final_of(q.glycol, q.loop_volume_l, w, q.concentrate),
        likely=likely,
        likely_with_curve=with_curve,
        litres_spread=_litres_spread(q, q.spread, w) if q.spread else None,
        reason=reason,
    )


def _drain_more(q: MixQuestion, target_w: float, part: int) -> float | None:
    """How many litres more must come out, of what is inside, before the target is in reach; None if even empty fails."""
    low, high = 0.0, q.inside.volume_l

    def spare(out: float) -> float:
        left = Inside(q.inside.volume_l - out, q.inside.strength_percent)
        return _parts_of(q.glycol, q.loop_volume_l, left, q.concentrate, target_w)[part]

    if spare(high) < 0:
        return None
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if spare(middle) < 0 else (low, middle)
    return high


def _too_weak(q: MixQuestion, target_w: MassFraction, best_w: MassFraction) -> Infeasible:
    best = freeze_point(q.glycol, best_w).freeze_c
    more = _drain_more(q, target_w, part=1)
    help_ = (
        f"Get {more:.1f} L more out (block drain, tilt, one more drain), or accept the weaker mix."
        if more is not None
        else "Even an empty loop stays short: use a stronger concentrate."
    )
    shown = f"{best:.1f} °C" if best is not None else "colder than any handbook tabulates"
    message = f"Out of reach: only concentrate on top of {q.inside.volume_l:.1f} L inside freezes at {shown}. {help_}"
    return Infeasible("too_much_inside", message, more, best)


def _too_strong(q: MixQuestion, target_w: MassFraction, best_w: MassFraction) -> Infeasible:
    best = freeze_point(q.glycol, best_w).freeze_c
    more = _drain_more(q, target_w, part=0)
    shown = f"{best:.1f} °C" if best is not None else "colder than any handbook tabulates"
    help_ = f" To reach the target, get {more:.1f} L more out." if more is not None else ""
    message = f"What is inside is too strong already: filled up with water only it freezes at {shown}.{help_}"
    return Infeasible("inside_too_strong", message, more, best)


def _likely(q: MixQuestion, spread: Spread, concentrate_l: float, plan_w: MassFraction) -> tuple[Likely, Likely]:
    """First-order 95 % interval of the freeze point with this much concentrate and water to the cold mark."""

    def full_w(x: Sequence[float]) -> float:
        volume, out, strength, product_percent = x
        inside = Inside(max(0.0, volume - out), VolumePercent(strength))
        have = inside_masses(q.glycol, inside)
        added = concentrate_l * density_20c(q.glycol, q.concentrate) / 1000 * product_percent / 100
        total = volume * density_20c(q.glycol, plan_w) / 1000
        return (have.glycol + added) / total

    at, sds, bounds = _uncertain(q, spread)
    sd_w = propagate(full_w, at, sds, bounds)
    refused = 100 * chance_below(q.inside.volume_l, (sds[0] ** 2 + sds[1] ** 2) ** 0.5, 0.0)
    plain = freeze_interval(q.glycol, plan_w, sd_w, with_curve=False)
    curve = freeze_interval(q.glycol, plan_w, sd_w, with_curve=True)
    return Likely(plain.low, plain.high, refused), Likely(curve.low, curve.high, refused)


def _litres_spread(q: MixQuestion, spread: Spread, plan_w: MassFraction) -> LitresSpread:
    """What the litres would have been, had capacity, drained litres, strength inside and product been a little other."""

    def litres(x: Sequence[float], part: int) -> float:
        volume, out, strength, product_percent = x
        inside = Inside(max(0.0, volume - out), VolumePercent(strength))
        return _parts_of(q.glycol, volume, inside, product_percent / 100, plan_w)[part]

    at, sds, bounds = _uncertain(q, spread)
    halves = [Z95 * propagate(lambda x, part=part: litres(x, part), at, sds, bounds) for part in (0, 1)]  # type: ignore[misc]
    return LitresSpread(*halves)


def _uncertain(q: MixQuestion, spread: Spread) -> tuple[list[float], list[float], list[tuple[float, float]]]:
    """Capacity, drained litres, strength inside and product: where they stand, their spread and their bounds."""
    at = [q.loop_volume_l, q.loop_volume_l - q.inside.volume_l, q.inside.strength_percent, q.concentrate * 100]
    sds = [spread.loop_volume_l, spread.drained_l, spread.inside_strength_percent, spread.glycol_mass_percent]
    bounds = [(0.1, 2 * LARGEST_LOOP_L), (0.0, 2 * LARGEST_LOOP_L), (0.0, 100.0), (WEAKEST_CONCENTRATE_W * 100, 100.0)]
    return at, sds, bounds


def freeze_interval(glycol: Glycol, glycol_w: float, sd_w: float, with_curve: bool) -> Interval:
    """95 % interval of the freeze point [degC] of a mass fraction with standard deviation sd_w.

    Ends beyond the tabulated range are given as the bound. With the curve's doubt the warm end is the 97.5 % point
    of the sum of both, the doubt uniform between the two published curves.
    """
    low_w, high_w = max(0.0, glycol_w - Z95 * sd_w), min(1.0, glycol_w + Z95 * sd_w)
    cold = freeze_point(glycol, MassFraction(high_w)).at_most_c
    warm = freeze_point(glycol, MassFraction(low_w)).at_most_c
    if not with_curve:
        return Interval(min(cold, warm), max(cold, warm))
    doubt = curve_doubt_k(glycol, glycol_w)
    centre = freeze_point(glycol, MassFraction(glycol_w)).at_most_c
    sd_k = abs(warm - centre) / Z95
    steps = 16

    def chance_warmer(t: float) -> float:
        shares = (1 - chance_below(centre + doubt * (i + 0.5) / steps, sd_k, t) for i in range(steps))
        return sum(shares) / steps

    low, high = centre, centre + doubt + 4 * sd_k + 1e-9
    for _ in range(20):  # to a millionth of the width
        middle = (low + high) / 2
        low, high = (middle, high) if chance_warmer(middle) > WARM_TAIL else (low, middle)
    return Interval(min(cold, warm), high)
