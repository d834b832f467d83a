"""The shelf's and the waste's tables in a depot's archive."""

from __future__ import annotations

from transfer.table import ADDED_AS, BY, DAY, LINE, TIME, Table

SHELF = (
    Table(
        "cans",
        "shelf.Can",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "number": "as on its label",
            "kind": "coolant, agent, water or recovered",
            "product_id": "the coolant in it; row of products",
            "agent_id": "the cleaner or additive in it; row of agents",
            "water_id": "the water in it; row of waters",
            "loop_id": "where recovered coolant came out of; row of loops",
            "lot": "lot or batch, as printed",
            "size_l": "what it holds when full [l]",
            "strength_percent": "as measured [% by volume]; empty: not measured",
            "since": f"of recovered coolant: when it first went into a loop; {DAY}",
            "opened_on": f"opened; {DAY}; empty: sealed",
            "place": "where it is kept",
            "emptied_at": f"empty or gone since; {TIME}",
            "added_as": ADDED_AS,
            "added_at": f"put on the shelf; {TIME}",
            "edited_at": LINE["edited_at"],
        },
    ),
    Table(
        "can_counts",
        "shelf.Count",
        "can__depot",
        {"id": "id of the count", "can_id": "row of cans", "litres": "seen in it [l]", **BY},
    ),
    Table(
        "handovers",
        "shelf.Handover",
        "depot",
        {
            "id": "id of the handover",
            "depot_id": "depot",
            "taken_by": "who took the waste",
            "paper": "number of their paper",
            "note": "more of it",
            "photo": "SHA-256 of the paper's photo; empty: none",
            "undone_at": f"entered wrongly, undone; {TIME}; empty: stands",
            **BY,
        },
    ),
    Table(
        "handed_over",
        "shelf.HandedOver",
        "handover__depot",
        {"id": "number of the row", "handover_id": "row of handovers", "entry_id": "the entry of waste that went with it"},
    ),
    Table(
        "can_draws",
        "shelf.Draw",
        "can__depot",
        {
            "id": "number of the row",
            "can_id": "row of cans",
            "entry_id": "the entry that took it",
            "litres": "taken [l]",
            "at": f"when; {TIME}",
        },
    ),
)
