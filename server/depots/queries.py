"""Reads about a depot."""

from __future__ import annotations

from datetime import datetime

from config.shapes import Answer
from depots.models import Depot, PolicyChange
from depots.schemas import GettingStarted, StartStep, StartStepOut
from people.shown import PersonOut, person_out
from temper_core.basis.policy import SHIPPED, Group


class ChangeOut(Answer):
    """One change of a rule; value null: back to the shipped one."""

    value: float | None
    reason: str
    person: PersonOut
    changed_at: datetime


class RuleOut(Answer):
    """A rule as it is here, with what it ships with, and its last changes, newest first."""

    group: Group
    key: str
    name: str
    value: float
    shipped: float
    unit: str
    low: float
    high: float
    reason: str
    origin: str
    changes: list[ChangeOut]


class PolicyOut(Answer):
    """All rules, in the order of the page."""

    rules: list[RuleOut]


def getting_started(depot: Depot) -> GettingStarted:
    """What a new depot has and lacks, by what is really there; one query for each step."""
    unlabelled = depot.products.filter(label_entered=False).count()
    coolants = depot.products.count()
    waters = depot.waters.filter(kind="demineralised").count()
    instruments = depot.instruments.filter(retired=False).exclude(scale="").count()
    people, machines = depot.people.filter(is_active=True).count(), depot.machines.count()
    labelled = coolants > unlabelled
    steps = [
        StartStepOut(step=StartStep.COOLANTS, many=coolants, done=labelled, labels_missing=unlabelled),
        StartStepOut(step=StartStep.WATER, many=waters, done=waters > 0),
        StartStepOut(step=StartStep.INSTRUMENT, many=instruments, done=instruments > 0),
        StartStepOut(step=StartStep.PEOPLE, many=people, done=people > 1),
        StartStepOut(step=StartStep.MACHINE, many=machines, done=machines > 0),
    ]
    return GettingStarted(steps=steps, shown=depot.put_away_at is None and not all(row.done for row in steps))


MOST_CHANGES = 5


def policy_of(depot: Depot) -> PolicyOut:
    """Every rule with its value, origin and last changes; one query for all changes."""
    by_key: dict[str, list[PolicyChange]] = {}
    for change in depot.policy_changes.select_related("person"):
        by_key.setdefault(change.key, []).append(change)
    policy = depot.policy
    return PolicyOut(
        rules=[
            RuleOut(
                group=rule.group,
                key=rule.key,
                name=rule.name,
                value=policy[rule.key],
                shipped=rule.value,
                unit=rule.shown_unit,
                low=rule.low,
                high=rule.high,
                reason=rule.reason,
                origin=rule.origin,
                changes=[
                    ChangeOut(
                        value=change.value,
                        reason=change.reason,
                        person=person_out(change.person),
                        changed_at=change.changed_at,
                    )
                    for change in by_key.get(rule.key, [])[:MOST_CHANGES]
                ],
            )
            for rule in SHIPPED
        ]
    )
