"""What stands on the demo depot's shelf, through the same actions the API uses."""

from __future__ import annotations

import random
import uuid
from datetime import timedelta
from typing import Any

from django.utils import timezone
from shelf.actions import keep_can
from shelf.schemas import CanIn

from depots.models import Depot
from people.models import Person

# kind, what is in it, size [l], left [l], lot, opened days ago (None: sealed), where it stands
CANS: tuple[tuple[str, str, float, float, str, int | None, str], ...] = (
    ("coolant", "Winterline O", 205.0, 118.0, "WO 2608-114", 83, "rack 1, with the pump"),
    ("coolant", "Winterline O", 20.0, 20.0, "WO 2610-027", None, "rack 1"),
    ("coolant", "Winterline P", 20.0, 3.5, "WP 2603-008", 120, "rack 1"),
    ("coolant", "Longhaul N", 60.0, 41.0, "LN 2605-310", 41, "rack 2"),
    ("coolant", "Old Guard S", 25.0, 6.0, "OG 2511-090", 200, "rack 2, for the old ones"),
    ("agent", "Rinseflow", 5.0, 1.6, "R 0426", 63, "shelf over the sink"),
    ("agent", "Linerdose", 1.0, 0.9, "LD 77", None, "shelf over the sink"),
    ("water", "Workshop demineraliser", 200.0, 140.0, "", 2, "white drum at the demineraliser"),
)
MINIMUM_L = {"Winterline O": 60.0, "Winterline P": 10.0, "Longhaul N": 20.0, "Workshop demineraliser": 80.0}


def fill_the_shelf(depot: Depot, rng: random.Random) -> None:
    """Containers, and below how much a lead orders."""
    tomo = Person.objects.get(username="tomo")
    today = timezone.now().astimezone(depot.now.tzinfo).date()
    lists: dict[str, Any] = {"coolant": depot.products, "agent": depot.agents, "water": depot.waters}
    for kind, name, size_l, left_l, lot, opened, place in CANS:
        row = lists[kind].get(name=name)
        held = {"coolant": "product_id", "agent": "agent_id", "water": "water_id"}[kind]
        given = {
            "id": uuid.UUID(int=rng.getrandbits(128), version=4),
            "kind": kind,
            held: row.pk,
            "lot": lot,
            "size_l": size_l,
            "left_l": left_l,
            "opened_on": None if opened is None else today - timedelta(days=opened),
            "place": place,
        }
        keep_can(CanIn.model_validate(given), None, actor=tomo)
    for rows in lists.values():
        for row in rows.filter(name__in=MINIMUM_L):
            row.minimum_l = MINIMUM_L[row.name]
            row.save()
