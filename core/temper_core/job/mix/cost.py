"""What it costs to put a product into a loop: rinses, litres, time and money, from the layout and what is inside now."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.cooldown import CooldownQuestion, cooldown
from temper_core.calculate.mix import Inside, MixQuestion, mix, suggested_target_c
from temper_core.job.loop import Loop, drained_usually
from temper_core.machine.circuit import circulating
from temper_core.machine.contents import Contents
from temper_core.machine.drain_points import still_vessels
from temper_core.products.chemistry import Form, Product
from temper_core.products.compatibility import Judged

LEAST_OUT_L = 0.01


@dataclass(frozen=True, slots=True)
class Prices:
    """Per litre, in the depot's currency; None: unknown. The last rinse and the mix take demineralised water."""

    product_per_l: float | None = None
    water_per_l: float | None = None


@dataclass(frozen=True, slots=True)
class ChangeCost:
    """What the change asks for, as far as it can be estimated before anything is opened.

    rinses: after the first drain, each filled, run hot and drained (None: the drains alone never reach the limit; reason
    says so). Litres at 20 degC; waste_l: everything that comes out. hands_min: hands on; wait_min: running and cooling,
    between these two, and likely about the middle. price: product and demineralised water; None where a price is unknown.
    """

    rinses: int | None
    rinse_water_l: float
    product_l: float
    mix_water_l: float
    waste_l: float
    hands_min: float
    wait_min: Interval
    price: float | None
    reason: Message | None


def cooling_min(capacity_l: float, policy: Policy) -> Interval:
    """Minutes from hot to hand-warm by Newton's law, between the two ends of the doubt; for planning, never a proof."""
    bay_c = policy["bay_c"]
    until_c = max(bay_c + 1.0, policy["gate_probe_c"])  # a bay warmer than the gate's limit only ever gets near it
    answer = cooldown(CooldownQuestion(policy["hot_c"], bay_c, until_c, capacity_l), policy)
    return Interval(answer.minutes_low, answer.minutes_high)


def _rinses(loop: Loop, contents: Contents, limit: float | None, most: int) -> tuple[int | None, float, Contents]:
    """Rinses until the finished full loop holds at most the limit of old coolant, litres drained each time, what stays."""
    reach = drained_usually(loop)
    groups = circulating(loop.layout, True, True, still_vessels(loop.layout, loop.equipment))

    def drained(full: Contents) -> Contents:
        held = full.all_litres()
        out = {vessel: min(litres, held[vessel]) for vessel, litres in reach.items()}
        return full.drain(sum(out.values()), out)

    left = drained(contents)
    out_l = contents.total_l - left.total_l
    if limit is None:
        return 0, out_l, left
    for rinse in range(most + 1):
        if 100 * left.total.old_l / loop.capacity_l <= limit:
            return rinse, out_l, left
        left = drained(left.fill_with_water().circulate(groups))
    return None, out_l, left


def change_cost(
    loop: Loop, contents: Contents, product: Product, judged: Judged, policy: Policy, prices: Prices, coldest_c: float
) -> ChangeCost:
    """Cost of one product in one loop that now holds `contents`; see ChangeCost. Never raises.

    All drains of the layout are used each time; a rinse fills with water, runs until the thermostat opens, cools, drains.
    """
    most = int(policy["most_rounds"])
    rinses, out_l, left = _rinses(loop, contents, judged.old_limit_percent, most)
    counted = most if rinses is None else rinses
    reason = None
    if rinses is None:
        words = "More than {most} rinses through these drains: open the block drain, blow out or displace."
        reason = say("too_many_rinses", words, most=str(most))
    product_l, water_l, missed = _fill(loop, left, product, policy, coldest_c)
    runs, cool = counted + 1, cooling_min(loop.capacity_l, policy)
    warm = policy["warm_up_min"]
    return ChangeCost(
        rinses=rinses,
        rinse_water_l=counted * out_l,
        product_l=product_l,
        mix_water_l=water_l,
        waste_l=(counted + 1) * out_l,
        hands_min=policy["hands_drain_min"] + counted * policy["hands_round_min"] + policy["hands_fill_min"],
        wait_min=Interval(runs * (warm + cool.low), runs * (warm + cool.high)),
        price=_price(prices, product_l, water_l + (out_l if counted else 0.0)),
        reason=reason or missed,
    )


def _fill(
    loop: Loop, left: Contents, product: Product, policy: Policy, coldest_c: float
) -> tuple[float, float, Message | None]:
    """Litres of product and water that bring the loop to its target, or as near as these drains allow."""
    room = max(0.0, loop.capacity_l - left.total_l)
    glycol = product.base.glycol
    if glycol is None or product.form is Form.READY_MIX or room < LEAST_OUT_L:
        return room, 0.0, None
    strength = left.strength if glycol is left.glycol else VolumePercent(0.0)
    inside = Inside(min(left.total_l, loop.capacity_l), VolumePercent(min(100.0, strength)))
    target = suggested_target_c(glycol, coldest_c, policy)
    plan = mix(MixQuestion(glycol, loop.capacity_l, inside, target, MassFraction(product.glycol_mass_percent / 100)))
    if plan.reason is None:
        return plan.concentrate_l, plan.water_l, None
    best = plan.reason.best_freeze_c
    words = "Too much is left inside for {target_c:0}."
    if best is None:
        return plan.concentrate_l, plan.water_l, say("out_of_reach", words, target_c=target)
    said = say("out_of_reach", words + " Best: {best_c}.", target_c=target, best_c=best)
    return plan.concentrate_l, plan.water_l, said


def _price(prices: Prices, product_l: float, water_l: float) -> float | None:
    if prices.product_per_l is None or (prices.water_per_l is None and water_l > 0):
        return None
    return prices.product_per_l * product_l + (prices.water_per_l or 0.0) * water_l
