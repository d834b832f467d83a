"""The mass balance of a loop: what a plan counts in, what the litres predict, what a reading teaches of the capacity."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message
from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.calculate.mix import Believed, Inside, LearnedCapacity, Spread, learn_capacity
from temper_core.instruments import Repeats
from temper_core.job.doubt.known import after_pour, expected, finished_old_percent, known, likely_contents, rinse_read
from temper_core.job.doubt.quantities import capacity_l, inside_l, mixed_w
from temper_core.job.doubt.solve import Sure
from temper_core.job.doubt.world import World
from temper_core.job.fill.facts import Poured
from temper_core.job.fold_state import LedgerFold, capacity_sd_l
from temper_core.job.inside.verdict import Prediction, Proof, ProofVerdict, disagree
from temper_core.machine.contents import Content
from temper_core.products.chemistry import Base, Product
from temper_core.products.label import product_sd_percent
from temper_core.science import Glycol, strength_of
from temper_core.science.density import density_20c

LEAST_APART_W = 0.02  # what was poured has to be stronger than what was inside by this much
VOLUMES_IN_DOUBT = frozenset({"more_than_room", "less_than_room", "more_than_inside"})


LEAST_CAPACITY_SD = 1e-6
NEARLY_EMPTY = 1e-3  # of the capacity
LARGEST_PERCENT = 50.0  # more is no doubt of a strength


def plan_spread(t: LedgerFold) -> Spread:
    """Standard deviations that a plan for this loop must count in, and how they go together."""
    product = product_sd_percent(t.job.product, t.policy)
    if t.base is Base.NONE:
        return Spread(capacity_sd_l(t.loop, t.policy), _drained_sd(t), 0.0, product)
    now = known(t) if t.job.signed_at is None else expected(t)
    glycol = t.glycol

    here = mixed_w(now.world)

    def strength(world: World) -> float:
        w = mixed_w(world) if inside_l(world) > NEARLY_EMPTY * capacity_l(world) else here  # nothing has no strength
        return strength_of(glycol, MassFraction(min(1.0, w)))

    size, left = now.covariance(capacity_l, capacity_l), now.covariance(inside_l, inside_l)
    both, by_size = now.covariance(capacity_l, inside_l), now.covariance(capacity_l, strength)
    by_left, whole = now.covariance(inside_l, strength), now.covariance(strength, strength)
    size = max(size, LEAST_CAPACITY_SD)
    slope = both / size
    own_left = max(0.0, left - slope * both)
    per_size = by_size / size
    per_left = (by_left - slope * by_size) / own_left if own_left > LEAST_CAPACITY_SD else 0.0
    own = max(0.0, whole - per_size * by_size - per_left**2 * own_left)
    return Spread(size**0.5, own_left**0.5, min(LARGEST_PERCENT, own**0.5), product, slope, per_size, per_left)


def _drained_sd(t: LedgerFold) -> float:
    return t.job.drained.sd_l if t.job.drained else 0.0


def cause_spread(t: LedgerFold) -> Spread:
    """What is believed of capacity, litres out and the strength that stayed in, each by itself: how far off is unlikely."""
    policy = t.policy
    strength = policy["inside_sd_read" if t.strength_read else "inside_sd_unread"]
    if t.job.flush.rinsed and t.contents.total_l > 0:
        strength *= t.contents.total.old_l / t.contents.total_l
    if t.job.fill.read_sd_percent is not None:  # a correction starts from what was read
        strength = t.job.fill.read_sd_percent
    if t.base is Base.NONE:
        strength = 0.0
    return Spread(capacity_sd_l(t.loop, policy), _drained_sd(t), strength, product_sd_percent(t.job.product, policy))


@dataclass(frozen=True, slots=True)
class _Parts:
    """The finished loop taken apart: what stayed in, and what was poured [kg]."""

    inside: Content
    poured_glycol_kg: float
    poured_kg: float


def _poured(t: LedgerFold, pours: Sequence[Poured]) -> tuple[float, float]:
    """Glycol, and all of it, in these pours [kg]."""
    product = [p.product_l * density_20c(t.glycol, _product_w(p)) / 1000 for p in pours]
    glycol = sum(kg * _product_w(p) for kg, p in zip(product, pours, strict=True))
    return glycol, sum(product) + sum(p.water_l * WATER_DENSITY_20C / 1000 for p in pours)


def _parts(t: LedgerFold) -> _Parts:
    total = t.by_litres.total
    glycol, poured = _poured(t, t.job.pours)
    inside = Content(max(0.0, total.glycol_kg - glycol), max(0.0, total.water_kg - (poured - glycol)), total.old_l)
    return _Parts(inside, glycol, poured)


def left_inside(t: LedgerFold) -> Content:
    """What stayed in, before anything was poured [kg]."""
    return _parts(t).inside


def prediction_of(t: LedgerFold) -> Prediction | None:
    """Mass percent of everything inside, mixed, with its standard deviation; None before anything was poured."""
    if not t.job.pours or t.base is Base.NONE:
        return None
    return _predicted(expected(t).sure(mixed_w))


def _predicted(sure: Sure) -> Prediction:
    return Prediction(100 * sure.value, 100 * sure.sd, sure)


def predicted_then(t: LedgerFold, product: Product | None, product_l: float, water_l: float) -> Prediction | None:
    """The same once these litres are poured as well."""
    if t.base is Base.NONE or not (t.job.pours or product_l + water_l > 0):
        return None
    if product_l + water_l <= 0:
        return prediction_of(t)
    w = product.glycol_mass_percent / 100 if product is not None else 0.0
    return _predicted(
        after_pour(t, max(0.0, product_l), max(0.0, water_l), w, product_sd_percent(product, t.policy) / 100).sure(mixed_w)
    )


def predicted_after(t: LedgerFold, entry_id: str) -> Prediction | None:
    """Mass percent inside after one of the pours, by what is known now."""
    name = f"pour:{entry_id}"
    if t.base is Base.NONE or name not in expected(t).world.noted:
        return None
    return _predicted(expected(t).noted(name, mixed_w))


def mixed_loop(t: LedgerFold, poured_glycol_kg: float, poured_kg: float) -> Callable[[Sequence[float]], float]:
    """Mass fraction of everything, mixed, over capacity [l], litres out, strength inside (off by, % by volume), product."""
    inside = _parts(t).inside
    drained = t.job.drained.drained_l if t.job.drained else 0.0
    inside_l = max(1e-9, t.loop.capacity_l - drained)

    def mixed(x: Sequence[float]) -> float:
        capacity, out, strength_off, product = x
        scale = max(0.0, capacity - out) / inside_l
        glycol = inside.glycol_kg * scale + strength_off / 100 * inside_l * scale + poured_glycol_kg * product
        return max(0.0, glycol) / (inside.kg * scale + poured_kg)

    return mixed


def mixed_now(t: LedgerFold) -> Callable[[Sequence[float]], float]:
    """The same for what was poured so far."""
    return mixed_loop(t, *_poured(t, t.job.pours))


def plan_glycol(t: LedgerFold) -> Glycol:
    """The curves of what is going in, or of what is inside."""
    if t.job.mix.planned and t.job.mix.planned.product.base.glycol:
        return t.job.mix.planned.product.base.glycol
    return t.glycol


def mix_inside(t: LedgerFold) -> Inside:
    """What stays inside as the mix calculation takes it: another base, or a strength not known, counts as water."""
    counts = t.glycol is plan_glycol(t) and (t.strength_known or bool(t.job.pours))
    contents = likely_contents(t)
    strength = contents.strength if counts else VolumePercent(0.0)
    return Inside(min(contents.total_l, mix_capacity_l(t)), VolumePercent(min(100.0, strength)))


def mix_capacity_l(t: LedgerFold) -> float:
    """Litres that the loop most likely holds: as entered, until a rinse that was read says otherwise."""
    return likely_contents(t).layout.volume_l if rinse_read(t) else t.loop.capacity_l


def _product_w(pour: Poured) -> float:
    return pour.product.glycol_mass_percent / 100 if pour.product else 0.0


def learned_capacity(
    t: LedgerFold, readings: Repeats | None, proof: ProofVerdict | None, flags: Sequence[Message]
) -> LearnedCapacity | None:
    """What the readings teach of the loop's capacity; None where they cannot, or where it would not help.

    Asks for a clean residual, a hot run, the level at the cold mark and litres that add up. Nothing is learned from one
    job twice.
    """
    job = t.job
    if readings is None or proof is None or proof.verdict is Proof.DOES_NOT_AGREE:
        return None
    if job.drained is None or not job.pours or not job.pours[-1].at_mark or not (t.strength_read or job.flush.rinsed):
        return None
    known_at = t.loop.capacity_known_at
    if known_at is not None and job.opened_at is not None and job.opened_at <= known_at:
        return None
    if finished_old_percent(t) > t.policy["old_limit_family_percent"] and not t.strength_read:
        return None
    if any(flag.code in VOLUMES_IN_DOUBT for flag in flags):
        return None
    before, now = expected(t), known(t)
    w, inside = readings.glycol_mass_percent / 100, left_inside(t)
    if inside.kg > 0 and w <= inside.glycol_w + LEAST_APART_W:
        return None
    sure, was = now.sure(capacity_l), before.sure(capacity_l)
    believed = Believed(t.loop.capacity_l, capacity_sd_l(t.loop, t.policy))
    return learn_capacity(believed, Believed(was.value, was.sd), Believed(sure.value, sure.sd), job.drained.drained_l)


def best_w(t: LedgerFold, readings: Repeats, agree: bool) -> float:
    """Mass fraction of the full, mixed loop: readings and litres together where they agree, else the readings alone."""
    alone = readings.glycol_mass_percent / 100
    if not agree or not t.job.pours or t.base is Base.NONE:
        return min(1.0, alone)
    return min(1.0, max(0.0, known(t).value(mixed_w)))


def readings_agree(t: LedgerFold, readings: Repeats) -> bool:
    """Whether readings and litres differ by no more than chance."""
    prediction = prediction_of(t)
    return prediction is None or not disagree(readings, prediction, t.policy)
