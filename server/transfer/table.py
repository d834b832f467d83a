"""What a table of a depot's archive is, and the words its columns have in common."""

from __future__ import annotations

from typing import NamedTuple

from django.apps import apps
from django.db import models

TIME, DAY = "ISO 8601, UTC", "ISO 8601 date"
LINE = {
    "id": "number of the row",
    "name": "as shown",
    "uuid": "what it is known by outside this database",
    "minimum_l": "order below this much on the shelf, a lead's [l]",
    "edited_at": f"when it was last edited; {TIME}; empty: never",
    "depot_id": "its depot",
}
ADDED_AS = "the id it was added under, so that sending it twice adds it once; may be empty"
BY = {"person_id": "who; row of people", "at": f"when; {TIME}"}


class Table(NamedTuple):
    """A table: its name in the archive, its model, how its rows lead to their depot, what is left out, its columns."""

    name: str
    model: str
    depot: str
    columns: dict[str, str]

    @property
    def of(self) -> type[models.Model]:
        """Its model."""
        return apps.get_model(self.model)
