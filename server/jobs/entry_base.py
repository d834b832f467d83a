"""What every entry that the jobs API takes has."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.boundary import Body

Note = Annotated[str, Field(max_length=500)]


class EntryBase(Body):
    """The client's id, and when it happened (now if left out)."""

    id: UUID
    happened_at: datetime | None = None
