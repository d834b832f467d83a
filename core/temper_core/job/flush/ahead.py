"""Rounds that are still ahead, by the vessels that drain and those that stand still."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from temper_core.basis.uncertainty import Z95, Interval
from temper_core.calculate.cooldown import CooldownQuestion, cooldown
from temper_core.calculate.flush.standing import Groups, Stand, Standing
from temper_core.job.fold_state import LedgerFold, capacity_sd_l
from temper_core.job.inside.questions import cleaner_limit, limit_of, old_sure
from temper_core.job.loop import DRAIN, drained_usually
from temper_core.machine.circuit import circulating
from temper_core.machine.drain_points import still_vessels
from temper_core.machine.portions import spread_over

OLD, CLEANER = "old", "cleaner"


@dataclass(frozen=True, slots=True)
class RoundAhead:
    """A round of fill, run, drain that is not run yet: water in, the share of old coolant it runs at, what it leaves [%].

    finished_high_percent: at the high end of its doubt. last: nothing follows it, so its water is demineralised.
    """

    number: int
    water_l: float
    ran_percent: float
    finished_percent: float
    finished_high_percent: float
    last: bool


@dataclass(frozen=True, slots=True)
class Ahead:
    """One loop at one moment, as the methods need it. out_l: what one drain takes from each vessel."""

    t: LedgerFold
    standing: Standing
    out_l: Mapping[str, float]
    groups: Groups
    limit_percent: float
    run_min: Interval
    most: int


def rounds_ahead(t: LedgerFold) -> tuple[RoundAhead, ...]:
    """The rounds that fill, run, drain still takes to the limit, one by one; none where it never gets there."""
    case = ahead_of(t)
    ahead: list[RoundAhead] = []
    standing, number = case.standing, sum(1 for row in t.job.flush.rounds if row.facts is not None)
    worst, less_out = more_old(case), least_out(case)
    while not is_reached(case, standing):
        if len(ahead) >= case.most:
            return ()
        room = standing.room_l
        ran = standing.fill().mix(case.groups)
        shares = [100 * ran.vessels[vessel].share(OLD) for group in case.groups for vessel in group]
        standing, worst = one_round(case, standing, case.out_l), one_round(case, worst, less_out)
        number += 1
        left, high = standing.finished_percent(OLD), worst.finished_percent(OLD)
        ahead.append(RoundAhead(number, room, max(shares, default=0.0), left, high, is_reached(case, standing)))
    return tuple(ahead)


def standing_of(t: LedgerFold) -> Standing:
    """What stands in the vessels, in litres and their solutes."""
    held, by = t.contents.all_litres(), t.contents.by_vessel
    return Standing(
        {
            node.id: Stand(
                node.volume_l, min(node.volume_l, held[node.id]), {OLD: by[node.id].old_l, CLEANER: by[node.id].cleaner_l}
            )
            for node in t.loop.layout.nodes
        }
    )


def ahead_of(t: LedgerFold) -> Ahead:
    """What the rounds ahead are calculated from: the loop as it stands, and what usually comes out [l]."""
    layout, policy = t.loop.layout, t.policy
    reach, volumes = drained_usually(t.loop), {node.id: node.volume_l for node in layout.nodes}
    out = dict(reach)
    if t.job.drained is not None and t.job.drained.drained_l > 0 and t.job.flush.in_work is None:
        out = spread_over(min(t.job.drained.drained_l, t.loop.capacity_l), reach, volumes)
    standing = standing_of(t)
    if t.job.drained is None or t.job.flush.in_work is not None:
        standing = standing.drain({v: min(litres, standing.vessels[v].litres) for v, litres in out.items()})
    limit = limit_of(t)
    bay_c = policy["bay_c"]
    cool = cooldown(
        CooldownQuestion(policy["hot_c"], bay_c, max(bay_c + 1, policy["gate_probe_c"]), t.loop.capacity_l), policy
    )
    warm = policy["warm_up_min"]
    return Ahead(
        t,
        standing,
        out,
        circulating(layout, True, True, still_vessels(layout, t.loop.equipment)),
        policy["old_limit_family_percent"] if limit is None else limit,
        Interval(warm + cool.minutes_low, warm + cool.minutes_high),
        int(policy["most_rounds"]),
    )


def one_round(case: Ahead, standing: Standing, out_l: Mapping[str, float]) -> Standing:
    """Fill with water, run with the thermostat open, drain the same litres."""
    ran = standing.fill().mix(case.groups)
    return ran.drain({vessel: min(litres, ran.vessels[vessel].litres) for vessel, litres in out_l.items()})


def repeated(
    case: Ahead, standing: Standing, out_l: Mapping[str, float], enough: Callable[[Standing], bool]
) -> tuple[int, Standing]:
    """Rounds until it is enough; one more than the most that anybody runs means never."""
    for count in range(case.most + 1):
        if enough(standing):
            return count, standing
        standing = one_round(case, standing, out_l)
    return case.most + 1, standing


def is_reached(case: Ahead, standing: Standing) -> bool:
    """Old coolant under its limit, and cleaner too where some went in."""
    most = cleaner_limit(case.t)
    clean = most is None or standing.finished_percent(CLEANER) <= most
    return clean and standing.finished_percent(OLD) <= case.limit_percent


def least_out(case: Ahead) -> dict[str, float]:
    """The litres of a drain at the low end of their doubt: capacity and litres out both against us."""
    t, whole = case.t, sum(case.out_l.values())
    taught = t.loop.taught.get(DRAIN)
    usual_sd = whole * t.policy["drained_sd_marks"] / 100 if taught is None else taught.sd * t.loop.capacity_l
    drained_sd = t.job.drained.sd_l if t.job.drained else usual_sd
    low = max(0.0, whole - Z95 * math.hypot(capacity_sd_l(t.loop, t.policy), drained_sd))
    return {vessel: litres * low / whole if whole else 0.0 for vessel, litres in case.out_l.items()}


def more_old(case: Ahead) -> Standing:
    """What stands inside with the old coolant at the high end of its doubt; more of it than litres, if more stayed in."""
    sure = old_sure(case.t)
    more = sure.interval.high / sure.value if sure.value > 0 else 1.0
    return Standing(
        {
            name: replace(stand, solutes={**stand.solutes, OLD: more * stand.solutes[OLD]})
            for name, stand in case.standing.vessels.items()
        }
    )
