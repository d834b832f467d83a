"""The flush methods side by side for one loop: rounds, water, waste and time to the limit of the finished loop.

Common practice, no source, for how each is done; the arithmetic is `flush.standing`. What is not known of a loop (how much
air pushes out, how much a hose gives) is policy.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.flush.standing import Standing
from temper_core.job.flush.ahead import CLEANER, OLD, Ahead, ahead_of, is_reached, least_out, more_old, repeated
from temper_core.job.flush.facts import METHOD_NAMES, Method
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.questions import cleaner_limit
from temper_core.machine.circuit import NodeKind, circulating
from temper_core.machine.drain_points import still_vessels


@dataclass(frozen=True, slots=True)
class FlushMethodPlan:
    """One method for this loop. method None: drain and refill.

    rounds: to the limit, and rounds_high if less comes out than believed (None: never within reason, and reason says why).
    finished_percent: old coolant the finished loop would then hold. Litres of water, the last round's of it demineralised;
    waste_l: what comes out meanwhile. hands_min: hands on; wait_min: running and cooling. note: what it cannot do.
    """

    method: Method | None
    name: str
    rounds: int | None
    rounds_high: int | None
    finished_percent: float
    reaches: bool
    water_l: float
    demineralised_l: float
    waste_l: float
    hands_min: float
    wait_min: Interval
    reason: Message | None = None
    note: Message | None = None

    @property
    def wait_middle_min(self) -> float:
        """Middle of the waiting, between the ends of its doubt [min]."""
        return (self.wait_min.low + self.wait_min.high) / 2


def plan_methods(t: LedgerFold) -> tuple[FlushMethodPlan, ...]:
    """Every method for this loop as it stands (before the first drain: after it), cheapest that reaches the limit first.

    Cheap is time: hands on, and waiting by the part that policy counts of it. Never raises.
    """
    case = ahead_of(t)
    methods = [_drain_and_refill(case), _rounds(case), _cleaner(case), _blow_out(case)]
    methods += [row for row in (_open_rinse(case), _hose_flow(case), _parts(case)) if row is not None]
    waits = t.policy["wait_counts_percent"] / 100

    def rank(plan: FlushMethodPlan) -> tuple[bool, float, float]:
        cost = plan.hands_min + waits * plan.wait_middle_min
        return (not plan.reaches, cost if plan.reaches else plan.finished_percent, plan.water_l)

    return tuple(sorted(methods, key=rank))


def _drain_and_refill(case: Ahead) -> FlushMethodPlan:
    percent = case.standing.finished_percent(OLD)
    reached = is_reached(case, case.standing)
    said = None if reached else say("stays", "{old_percent} old coolant would be left.", old_percent=percent)
    nothing = Interval(0.0, 0.0)
    return FlushMethodPlan(None, "drain and refill", 0, 0, percent, reached, 0.0, 0.0, 0.0, 0.0, nothing, said)


def _rounds(case: Ahead) -> FlushMethodPlan:
    count, after = repeated(case, case.standing, case.out_l, lambda s: is_reached(case, s))
    high, _ = repeated(case, more_old(case), least_out(case), lambda s: is_reached(case, s))
    return _of_rounds(case, Method.FILL_RUN_DRAIN, count, high, after, 0.0)


def _of_rounds(case: Ahead, method: Method, count: int, high: int, after: Standing, more_wait: float) -> FlushMethodPlan:
    policy, out = case.t.policy, sum(case.out_l.values())
    never = count > case.most
    shown = case.most if never else count
    reason = say("too_many", "More than {most} rounds through these drains.", most=str(case.most)) if never else None
    return FlushMethodPlan(
        method,
        METHOD_NAMES[method],
        None if never else count,
        None if high > case.most else high,
        after.finished_percent(OLD),
        not never,
        shown * out,
        out if shown else 0.0,
        shown * out,
        shown * policy["hands_round_min"],
        Interval(shown * case.run_min.low + more_wait, shown * case.run_min.high + more_wait),
        reason,
    )


def _cleaner(case: Ahead) -> FlushMethodPlan:
    """One round with cleaner in it, then rinses until both it and the old coolant are under their limits."""
    policy = case.t.policy
    own = cleaner_limit(case.t)
    most = policy["cleaner_rinse_percent"] if own is None else own
    filled = case.standing.fill(None, {CLEANER: case.standing.volume_l / max(case.standing.room_l, 1e-9)}).mix(case.groups)
    first = filled.drain({v: min(litres, filled.vessels[v].litres) for v, litres in case.out_l.items()})

    def enough(s: Standing) -> bool:
        return is_reached(case, s) and s.finished_percent(CLEANER) <= most

    count, after = repeated(case, first, case.out_l, enough)
    high, _ = repeated(case, first, least_out(case), enough)
    return _of_rounds(case, Method.CLEANER, count + 1, high + 1, after, policy["cleaner_heavy_min"])


def _blow_out(case: Ahead) -> FlushMethodPlan:
    policy = case.t.policy
    part = policy["blow_out_percent"] / 100
    gone = {vessel: part * stand.litres for vessel, stand in case.standing.vessels.items()}
    after = case.standing.drain(gone)
    reached = is_reached(case, after)
    reason = None if reached else say("not_enough", "Not enough by itself.")
    bar = policy["air_bar"]
    note = say("unsealed", "Unsealed air, {bar} bar at most; glasses.", bar=f"{bar:g}")
    none = Interval(0.0, 0.0)
    percent, litres, hands = after.finished_percent(OLD), sum(gone.values()), policy["hands_round_min"]
    rounds = 1 if reached else None
    name = METHOD_NAMES[Method.BLOW_OUT]
    method = Method.BLOW_OUT
    return FlushMethodPlan(method, name, rounds, rounds, percent, reached, 0.0, 0.0, litres, hands, none, reason, note)


def _sweep(case: Ahead, method: Method, vessels: Iterable[str], note: Message, hands_min: float) -> FlushMethodPlan:
    """Water through some vessels, as much for each as it holds, times what the limit asks for."""
    policy, standing, names = case.t.policy, case.standing, list(vessels)
    litres = sum(standing.vessels[v].volume_l for v in names)
    swept = sum(standing.vessels[v].solutes[OLD] for v in names)
    stays = standing.total(OLD) - swept
    allowed = case.limit_percent / 100 * standing.volume_l - stays
    if allowed <= 0:
        percent = 100 * stays / standing.volume_l
        said = say("unswept", "Parts it does not reach keep {old_percent} old coolant.", old_percent=percent)
        times, reached = 3.0, False
    else:
        times, reached, said = max(0.0, math.log(swept / allowed)) if swept > 0 else 0.0, True, None
    after = standing
    for vessel in names:
        after = after.rinse(vessel, times * standing.vessels[vessel].volume_l)
    water = times * litres
    hands = (hands_min + water / policy["sweep_l_per_min"]) if times else 0.0
    rounds = (1 if times else 0) if reached else None
    none = Interval(0.0, 0.0)
    return FlushMethodPlan(
        method, METHOD_NAMES[method], rounds, rounds, after.finished_percent(OLD), reached, water, water, water, hands, none,
        said, note,
    )  # fmt: skip


def _open_rinse(case: Ahead) -> FlushMethodPlan | None:
    layout = case.t.loop.layout
    vessels = list(dict.fromkeys(drain.node for drain in layout.drains))
    if not vessels:
        return None
    names = ", ".join(node.name for node in layout.nodes if node.id in vessels)
    note = say("swept", "Cold water in, drains open: reaches {vessels} only.", vessels=names)
    return _sweep(case, Method.OPEN_RINSE, vessels, note, case.t.policy["hands_round_min"])


def _hose_flow(case: Ahead) -> FlushMethodPlan | None:
    layout = case.t.loop.layout
    heater = next((node.id for node in layout.nodes if node.kind is NodeKind.HEATER), None)
    group = next(
        (g for g in circulating(layout, False, True, still_vessels(layout, case.t.loop.equipment)) if heater in g), None
    )
    if heater is None or group is None:
        return None
    kinds = {node.id: node.kind for node in layout.nodes}
    flowing = [vessel for vessel in group if kinds[vessel] in (NodeKind.HEATER, NodeKind.BLOCK)]
    names = ", ".join(node.name for node in layout.nodes if node.id in flowing)
    note = say("heater_path", "Thermostat shut, heater path: reaches {vessels}.", vessels=names)
    return _sweep(case, Method.HOSE_FLOW, flowing, note, case.t.policy["hands_round_min"])


def _parts(case: Ahead) -> FlushMethodPlan | None:
    vessels = [node.id for node in case.t.loop.layout.nodes if node.kind is not NodeKind.HOSES]
    note = say("shows_which", "Against the flow first: shows which part is dirty. Never pour cold water into a hot block.")
    return _sweep(case, Method.PARTS, vessels, note, len(vessels) * case.t.policy["hands_parts_min"])
