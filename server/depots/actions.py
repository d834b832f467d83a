"""Writes about a depot; each in one transaction, the actor required."""

from __future__ import annotations

from django.db import transaction

from config import clock
from depots.models import Depot, PolicyChange
from people.models import Person
from temper_core.basis.errors import CoreError
from temper_core.basis.policy import RULES


def set_rule(depot: Depot, key: str, value: float | None, reason: str, *, actor: Person) -> PolicyChange:
    """Set a rule of policy, or with None go back to the shipped value; the reason is kept with who and when.

    Raises CoreError for an unknown rule, a value it cannot have, or no reason. Signed-off jobs keep the policy they had.
    """
    rule = RULES.get(key)
    if rule is None:
        raise CoreError("key", f"There is no rule called '{key}': the page lists all of them.", "unknown_rule")
    if value is not None:
        rule.check(value)
    if not reason.strip():
        raise CoreError("reason", "The reason is missing. Say why the rule changes.", "required")
    with transaction.atomic():
        fresh = Depot.objects.select_for_update().get(pk=depot.pk)
        overrides = {k: v for k, v in fresh.policy_overrides.items() if k != key}
        if value is not None and value != rule.value:
            overrides[key] = value
        fresh.policy_overrides = depot.policy_overrides = overrides
        fresh.save(update_fields=["policy_overrides"])
        return PolicyChange.objects.create(depot=fresh, key=key, value=value, reason=reason.strip(), person=actor)


def put_away(depot: Depot, *, actor: Person) -> Depot:
    """Getting started is not shown any more; a lead's word, for everybody of the depot."""
    with transaction.atomic():
        fresh = Depot.objects.select_for_update().get(pk=depot.pk)
        if fresh.put_away_at is None:
            fresh.put_away_at = clock.now()
            fresh.save(update_fields=["put_away_at"])
    return fresh
