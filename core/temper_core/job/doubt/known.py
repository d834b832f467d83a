"""What the record knows of a loop, asked for by name: litres, old share, strength, capacity, air, each with its doubt."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import replace

from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Interval
from temper_core.job.doubt.acts import Poured
from temper_core.job.doubt.inputs import Input, Source
from temper_core.job.doubt.program import Program, Step
from temper_core.job.doubt.quantities import mixed_w
from temper_core.job.doubt.seen import Between, ReadW
from temper_core.job.doubt.solve import Quantity, Solved, Sure
from temper_core.job.doubt.world import World
from temper_core.job.fold_state import LedgerFold
from temper_core.job.read.facts import Place
from temper_core.machine.contents import Contents
from temper_core.science import freeze_interval, freeze_point

KEPT = 256
_kept: OrderedDict[tuple[Step, ...], Solved] = OrderedDict()  # a ledger is folded again with every entry and every look


def solved(steps: Sequence[Step], near: Solved | None = None) -> Solved:
    """The most likely world of these acts; near: of almost the same ones, where the search begins."""
    key = tuple(steps)
    found = _kept.get(key)
    if found is None:
        found = _kept[key] = Solved(Program.of(key), near)
        if len(_kept) > KEPT:
            _kept.popitem(last=False)
    return found


def finished_ids(t: LedgerFold) -> frozenset[str]:
    """Entries of the readings of the finished loop that now stand."""
    return frozenset(entry_id for entry_id, facts in t.job.verify.readings if facts.place is Place.FINISHED)


def _acts(t: LedgerFold) -> Sequence[Step]:
    """Of the job that stands; once it is signed off, as they were then."""
    return t.job.verify.signed_acts or t.acts


def expected(t: LedgerFold) -> Solved:
    """What litres and earlier readings say, before the finished loop is read."""
    ids = finished_ids(t)
    return solved([step for step in _acts(t) if not (isinstance(step, (ReadW, Between)) and step.entry_id in ids)])


def known(t: LedgerFold) -> Solved:
    """What everything together says."""
    return solved(_acts(t), expected(t)) if finished_ids(t) else expected(t)


def after_pour(t: LedgerFold, product_l: float, water_l: float, product_w: float, product_sd: float) -> Solved:
    """What litres and earlier readings say once this is poured as well; product_sd: of its glycol, as a mass fraction."""
    ids = finished_ids(t)
    steps = [step for step in _acts(t) if not (isinstance(step, (ReadW, Between)) and step.entry_id in ids)]
    product = Input("product:planned", Source.PRODUCT)
    before = next((one.product for one in steps if isinstance(one, Poured) and one.product_l > 0), product)
    errors = ((Input("jug", Source.POURED), t.policy["poured_sd"] / 100),)
    steps.append(Poured(product_l, water_l, product_w, product_sd, before, errors))
    return solved(steps)


def litres_of(world: World) -> float:
    """Litres inside."""
    return sum(world.all_litres())


def freeze_sure(t: LedgerFold, sure: Sure) -> Interval:
    """A mass fraction's 95 % interval as freeze points [degC], the curve's own doubt left aside."""
    ends = [freeze_point(t.glycol, MassFraction(min(1.0, max(0.0, w)))) for w in (sure.interval.low, sure.interval.high)]
    middle = freeze_interval(t.glycol, min(1.0, max(0.0, sure.value)), sure.sd, with_curve=False)
    if any(end.freeze_c is None for end in ends):
        return middle
    points = [end.at_most_c for end in ends]
    return Interval(min(points), max(points))


def strength_sure(t: LedgerFold) -> Sure:
    """Mass fraction of everything inside, mixed, by litres and readings together."""
    return known(t).sure(mixed_w)


def relative_sd(t: LedgerFold, name: str, of: Quantity) -> float:
    """Standard deviation of something noted on the way, as a share of it; 0 where it was not noted, or is nothing."""
    now = known(t)
    if name not in now.world.noted:
        return 0.0
    sure = now.noted(name, of)
    return sure.sd / sure.value if sure.value > 0 else 0.0


def one_fluid_old(t: LedgerFold, name: str) -> float:
    """The same of the old share of the vessels that were one fluid when it was noted."""
    now = known(t)
    if name not in now.world.noted or now.world.old_then(name) <= 0:
        return 0.0
    return now.spread(lambda world: world.old_then(name))[0] / now.world.old_then(name)


def relative_change(t: LedgerFold, before: int, name: str) -> tuple[float, float, float]:
    """What the acts after the first so many say of an old share noted under a name.

    Its standard deviation before, what it became, and the standard deviation since; all as shares of what it was.
    """
    was = solved(_acts(t)[:before])
    now = solved(_acts(t), was)

    def share(world: World) -> float:
        return world.old_then(name) if name in world.noted else 0.0

    value = share(was.world)
    if value <= 0:
        return 0.0, 1.0, 0.0
    return was.spread(share)[0] / value, max(0.0, share(now.world)) / value, now.spread(share)[0] / value


def rinse_read(t: LedgerFold) -> bool:
    """Whether a jar of a rinse was read, so that the inputs are no longer as they were believed."""
    return any(isinstance(step, (ReadW, Between)) and step.noted for step in _acts(t))


def likely_contents(t: LedgerFold) -> Contents:
    """What most likely is inside, in vessels of the most likely size: as the fold has it until a rinse was read."""
    if not rinse_read(t):
        return t.by_litres
    world, layout = expected(t).world, t.loop.layout
    nodes = tuple(replace(node, volume_l=volume) for node, volume in zip(layout.nodes, world.volumes, strict=True))
    now = {
        node.id: replace(t.by_litres.by_vessel[node.id], glycol_kg=glycol, water_kg=water, old_l=old)
        for node, glycol, water, old in zip(layout.nodes, world.glycol, world.water, world.old, strict=True)
    }
    return Contents(replace(layout, nodes=nodes), t.glycol, now)


def finished_old_percent(t: LedgerFold) -> float:
    """Old coolant that the finished full loop would hold [% of its volume]."""
    contents = likely_contents(t)
    return 100 * contents.total.old_l / contents.layout.volume_l


def contradicted(t: LedgerFold, before: int) -> bool:
    """Whether the reading that came after the first so many acts is further from what they say than chance allows."""
    if len(t.acts) <= before or not isinstance(t.acts[-1], ReadW) or t.acts[-1].at_most:
        return False
    sight, was = t.acts[-1], solved(t.acts[:before])

    def there(world: World) -> float:
        return world.w_then(sight.noted)

    sd = math.hypot(was.spread(there)[0], sight.sd, *(error for _, error in sight.errors))
    return abs(there(was.world) - sight.w) > t.policy["agreement_sds"] * sd
