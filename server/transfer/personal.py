"""Owners of customers' machines in a depot's archive, and which columns of all tables say something of somebody."""

from __future__ import annotations

from transfer.table import LINE, TIME, Table

OWNERS: tuple[Table, ...] = (
    Table(
        "owners",
        "fleet.Owner",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "uuid": LINE["uuid"],
            "name": "whom customers' machines belong to",
            "telephone": "as they gave it",
            "email": "as they gave it",
        },
    ),
    Table(
        "erased_owners",
        "fleet.Erased",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "owner_uuid": "what the owner was known by; nothing else of them is kept",
            "by_id": "the lead who erased them; row of people",
            "at": f"when; {TIME}",
        },
    ),
)
PERSONAL = {  # which columns say something of somebody, by table; who did what is said everywhere by a row of people
    "people": ("username", "first_name", "last_name", "date_joined", "last_login", "role", "may_isolate_until"),
    "person_changes": ("detail",),
    "owners": ("name", "telephone", "email"),
}
