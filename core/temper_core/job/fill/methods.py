"""Ways to fill a loop, each with its steps in order; its build says which is advised. Common practice, no source."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.calculate.vacuum import VacuumQuestion, vacuum
from temper_core.job.fill.facts import FillMethod
from temper_core.job.fill.state import MethodPlan, VacuumState
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Check
from temper_core.machine.circuit import NodeKind
from temper_core.science import ambient_kpa

METHOD_NAMES = {
    FillMethod.GRAVITY: "Pour",
    FillMethod.POINTS: "Fill points in order",
    FillMethod.HOSE: "Through a hose",
    FillMethod.VACUUM: "Vacuum",
}


def ways_to_fill(t: LedgerFold) -> tuple[MethodPlan, ...]:
    """Every way with its steps, the advised one first."""
    layout = t.loop.layout
    several = len(layout.fill_points) > 1
    rows = [
        MethodPlan(FillMethod.GRAVITY, METHOD_NAMES[FillMethod.GRAVITY], _gravity(t), not several, ()),
        MethodPlan(FillMethod.HOSE, METHOD_NAMES[FillMethod.HOSE], _hose(), False, ()),
    ]
    if not t.job.pours or t.job.fill.vacuum is not None:  # on the drained loop only
        name = METHOD_NAMES[FillMethod.VACUUM]
        rows.append(MethodPlan(FillMethod.VACUUM, name, _vacuum(t), False, _vacuum_warnings(t)))
    if several:
        rows.append(MethodPlan(FillMethod.POINTS, METHOD_NAMES[FillMethod.POINTS], _points(t), True, ()))
    return tuple(sorted(rows, key=lambda row: not row.advised))


def _gravity(t: LedgerFold) -> tuple[Message, ...]:
    electric = any(node.kind is NodeKind.ELECTRONICS for node in t.loop.layout.nodes)
    slow = say("slowly", "Pour slowly, jug tilted, so that air can escape.")
    if electric:
        over = say(
            "overfill", "A little over the mark: the level falls when the pump starts, and the pump must not run dry."
        )
        return (slow, over)
    return (slow, say("nose_up", "Raise the front: the neck must be highest. Squeeze the hoses now and then."))


def _points(t: LedgerFold) -> tuple[Message, ...]:
    """One fill point after the other; each is shut when it shows at its neck."""
    layout = t.loop.layout
    names = {node.id: node.name.lower() for node in layout.nodes}
    rows = sorted(layout.fill_points, key=lambda row: row.number)
    said = []
    for i, row in enumerate(rows):
        after = "then to the cold mark at the first" if i == len(rows) - 1 else "until it shows there, then shut it"
        words = "{number}: {name} at the {vessel}, {after}."
        number = str(row.number)
        said.append(
            say("fill_point", words, number=number, name=row.name, vessel=names.get(row.node, row.node), after=after)
        )
    return tuple(said)


def _hose() -> tuple[Message, ...]:
    return (
        say("hose_low", "Funnel and hose into the lowest connection: the coolant pushes the water out of the block."),
        say("hose_until", "Until clean coolant runs out at the top; catch and measure it."),
    )


def _vacuum(t: LedgerFold) -> tuple[Message, ...]:
    policy = t.policy
    reach = vacuum(
        VacuumQuestion(max(0.01, t.contents.room_l), t.loop.altitude_m, 0.0, policy["bay_c"]), policy
    ).reachable_kpa
    deep = min(policy["vacuum_high_kpa"], reach)
    return (
        say("blend_all", "Mix all of it first, in one bucket: {all_l}.", all_l=t.contents.room_l),
        _pull(min(policy["vacuum_low_kpa"], reach), deep),
        say("hold", "Hold {minutes} min. A moving needle means a leak.", minutes=f"{policy['vacuum_hold_min']:g}"),
        say("draw", "Then draw it in, hose end always below the surface. The air left is counted."),
    )  # fmt: skip


def _pull(low: float, deep: float) -> Message:
    if deep - low < 1:
        return say("pull_here", "Cold loop: pull {deep_kpa:0} below ambient, the most a pump reaches here.", deep_kpa=deep)
    return say("pull", "Cold loop: pull {low_kpa:0} to {deep_kpa:0} below ambient.", low_kpa=low, deep_kpa=deep)


def _vacuum_warnings(t: LedgerFold) -> tuple[Message, ...]:
    seen = {row.tested.check: row.tested.outcome for row in t.job.inspect.seen if row.tested is not None}
    said = [say("cold_only", "Cold loop only: warm fluid boils under vacuum.")]
    if seen.get(Check.HOSES) in ("soft", "cracked") and "hose_set" not in t.job.fill.shut:
        said.append(
            say("hoses_found", "Hoses were found {outcome}: they may stay collapsed.", outcome=seen[Check.HOSES] or "")
        )
    years = t.job.opened_at.year - t.loop.built if t.job.opened_at is not None and t.loop.built is not None else None
    if years is not None and years >= t.policy["old_hoses_years"] and "hose_set" not in t.job.fill.shut:
        words = "Built {years} years ago: old hoses may stay collapsed. Watch them while you pull."
        said.append(say("hoses_old", words, years=str(years)))
    return tuple(said)


def vacuum_state(t: LedgerFold) -> VacuumState | None:
    """The last vacuum on the empty loop, and what follows from it at the depot's altitude."""
    if t.job.fill.vacuum is None:
        return None
    entry_id, facts, empty_l = t.job.fill.vacuum
    below = min(facts.vacuum_kpa, ambient_kpa(t.loop.altitude_m) * 0.999)  # altitude changed since: never past nothing
    answer = vacuum(VacuumQuestion(max(0.01, empty_l), t.loop.altitude_m, below, facts.loop_c, facts.held), t.policy)
    return VacuumState(entry_id, facts, answer)
