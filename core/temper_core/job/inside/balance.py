"""The mass balance of a loop: what a plan counts in, what the litres predict, what a reading teaches of the capacity."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message
from temper_core.basis.quantity import WATER_DENSITY_20C, VolumePercent
from temper_core.basis.uncertainty import propagate
from temper_core.calculate.mix import Believed, CapacityQuestion, Inside, LearnedCapacity, Spread, learn_capacity
from temper_core.instruments import Repeats
from temper_core.job.fill.facts import Poured
from temper_core.job.fold_state import LedgerFold, capacity_sd_l
from temper_core.job.inside.verdict import Prediction, Proof, ProofVerdict
from temper_core.machine.contents import Content
from temper_core.products.chemistry import Base
from temper_core.science import Glycol, strength_of
from temper_core.science.density import density_20c

VOLUMES_IN_DOUBT = frozenset({"more_than_room", "less_than_room", "more_than_inside"})


def plan_spread(t: LedgerFold) -> Spread:
    """Standard deviations that a plan for this loop must count in."""
    policy = t.policy
    strength = policy["inside_sd_read" if t.strength_read else "inside_sd_unread"]
    if t.job.flush.rinsed and t.contents.total_l > 0:
        share = t.contents.total.old_l / t.contents.total_l
        strength = share * math.hypot(strength, (t.found.strength_percent or 0.0) * t.job.flush.doubt)
    if t.job.fill.read_sd_percent is not None:  # a correction starts from what was read
        strength = t.job.fill.read_sd_percent
    if t.base is Base.NONE:
        strength = 0.0
    drained = t.job.drained.sd_l if t.job.drained else 0.0
    return Spread(capacity_sd_l(t.loop, policy), drained, strength, policy["product_sd"])


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


def _product_sd(t: LedgerFold, spread: Spread) -> float:
    """Of the glycol poured, as a share: jug marks, and the data sheet."""
    return math.hypot(t.policy["poured_sd"] / 100, spread.glycol_mass_percent / 100)


def prediction_of(t: LedgerFold, spread: Spread) -> Prediction | None:
    """Mass percent of everything inside, mixed, with its standard deviation; None before anything was poured."""
    return predicted_with(t, spread, t.job.pours)


def predicted_with(t: LedgerFold, spread: Spread, pours: Sequence[Poured]) -> Prediction | None:
    """The same as if these had been the pours: the first few, or those to come as well."""
    if not pours or t.base is Base.NONE:
        return None
    poured_glycol_kg, poured_kg = _poured(t, pours)
    mixed = mixed_loop(t, poured_glycol_kg, poured_kg)
    drained = t.job.drained.drained_l if t.job.drained else 0.0
    at = (t.loop.capacity_l, drained, 0.0, 1.0)
    sds = (spread.loop_volume_l, spread.drained_l, spread.inside_strength_percent, _product_sd(t, spread))
    sd = propagate(mixed, at, sds, ((0.0, 1e5), (0.0, 1e5), (-100.0, 100.0), (0.0, 2.0)))
    return Prediction(100 * mixed(at), 100 * sd)


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
    strength = t.contents.strength if counts else VolumePercent(0.0)
    return Inside(min(t.contents.total_l, t.loop.capacity_l), VolumePercent(min(100.0, strength)))


def _product_w(pour: Poured) -> float:
    return pour.product.glycol_mass_percent / 100 if pour.product else 0.0


def learned_capacity(
    t: LedgerFold, spread: Spread, readings: Repeats | None, proof: ProofVerdict | None, flags: Sequence[Message]
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
    if t.finished_old_percent > t.policy["old_limit_family_percent"] and not t.strength_read:
        return None
    if any(flag.code in VOLUMES_IN_DOUBT for flag in flags):
        return None
    parts = _parts(t)
    strength = strength_of(t.glycol, parts.inside.glycol_w) if parts.inside.kg > 0 else 0.0
    return learn_capacity(
        CapacityQuestion(
            glycol=t.glycol,
            capacity=Believed(t.loop.capacity_l, spread.loop_volume_l),
            drained=Believed(job.drained.drained_l, spread.drained_l),
            inside_percent=Believed(min(100.0, strength), spread.inside_strength_percent),
            poured_glycol_kg=Believed(parts.poured_glycol_kg, parts.poured_glycol_kg * _product_sd(t, spread)),
            read_w=Believed(readings.glycol_mass_percent / 100, readings.sd_mass_percent / 100),
        )
    )
