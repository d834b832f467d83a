"""A loop that is topped up with the right mix, week after week: its history, its page and the board say that it leaks."""

import uuid
from datetime import timedelta

from django.utils import timezone

from jobs.actions import record_entries
from jobs.entry_schemas import EntriesIn
from jobs.queries import state_of
from people.models import Person
from tests.server.conftest import loop_of

WEEKS, LITRES = 4, 0.6


def top_up_weekly(loop, state):
    """As it was found low, felt, and topped up to the mark with the mix that is inside."""
    person = Person.objects.get(username="ines")
    product = loop.machine.depot.products.get(name="Winterline O")
    ready = [row.ready for row in state.gate.asked]
    signs = {"warmth": "hand", "held": True, "pressure": "hose", "soft": True, "ready": ready}
    signs["isolated_by_id"] = Person.objects.get(username="tomo").pk
    pour = {"product_id": product.id, "mixture_l": LITRES, "product_share": state.top_up_share or 0.5}
    pour |= {"water": "demineralised", "at_mark": True}
    for week in range(WEEKS, 0, -1):
        at = timezone.now() - timedelta(weeks=week)
        rows = [("gate_observed", signs), ("level_seen", {"level": "low"}), ("poured", pour)]
        entries = [
            {"id": str(uuid.uuid4()), "kind": kind, "facts": facts, "happened_at": (at + timedelta(minutes=n)).isoformat()}
            for n, (kind, facts) in enumerate(rows)
        ]
        record_entries(loop, EntriesIn.model_validate({"entries": entries, "between": True, "apart": True}), actor=person)


def test_a_leak_made_good_with_mix_is_found_and_looked_at_weekly(ines, depot):
    loop = loop_of("P-06")  # at rest for a month
    state = state_of(loop, depot.policy)
    strength = state.inside.strength_percent
    top_up_weekly(loop, state)
    shown = ines.get(f"/api/loops/{loop.id}/history").json()
    loss = shown["history"]["loss"]
    assert loss["kind"] == "leaks"
    assert abs(loss["per_week"]["value"] - LITRES) < 0.2  # the first three days after it was found at its mark
    assert loss["per_week"]["half_width"] < 0.2
    assert abs(shown["state"]["inside"]["strength_percent"] - strength) < 2  # no reading would ever show it
    again = next(row for row in shown["state"]["after"]["rechecks"] if row["why"] == "leak")
    assert again["overdue"] is False
    board = ines.get("/api/board").json()
    (row,) = [row for row in board["coming"] if row["loop_id"] == loop.id]
    assert "Leak suspected" in str(row)
