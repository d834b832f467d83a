"""Boards on a wall: links that a lead makes and revokes."""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime

from django.db import transaction
from django.utils import timezone
from pydantic import Field

from config.shapes import Answer, Body
from depots.models import Depot, WallLink
from people.models import Person
from people.shown import PersonOut, person_out
from temper_core.basis.errors import Conflict, CoreError

MOST = 20


class WallLinkOut(Answer):
    """A link that is good, or was: revoked_at null while it is good."""

    id: int
    name: str
    by: PersonOut
    made_at: datetime
    revoked_at: datetime | None


class WallLinks(Answer):
    """Every link of the depot, newest first."""

    links: list[WallLinkOut]


class WallLinkIn(Body):
    """Which screen it is for."""

    name: str = Field(max_length=60)


class WallLinkMade(Answer):
    """A new link; its path is shown this once."""

    path: str
    links: list[WallLinkOut]


def links_of(depot: Depot) -> list[WallLinkOut]:
    """Every link of a depot, newest first."""
    rows = depot.wall_links.select_related("person")
    return [
        WallLinkOut(id=row.pk, name=row.name, by=person_out(row.person), made_at=row.made_at, revoked_at=row.revoked_at)
        for row in rows
    ]


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def make_link(depot: Depot, name: str, *, actor: Person) -> str:
    """The token of a new link; raises CoreError without a name, Conflict where there are too many."""
    if not name.strip():
        raise CoreError("name", "The name is missing. Say which screen it is for.", "required")
    with transaction.atomic():
        if depot.wall_links.filter(revoked_at=None).count() >= MOST:
            raise Conflict("name", f"There are {MOST} links already. Revoke one first.", "too_many")
        token = secrets.token_urlsafe(24)
        WallLink.objects.create(depot=depot, name=name.strip(), token_sha256=_hash(token), person=actor)
    return token


def revoke_link(depot: Depot, link_id: int, *, actor: Person) -> None:
    """It shows nothing any more; once revoked it stays so."""
    rows = depot.wall_links.filter(pk=link_id, revoked_at=None)
    rows.update(revoked_at=timezone.now(), revoked_by=actor)


def depot_behind(token: str) -> Depot | None:
    """The depot whose board a token may read; None for one that was revoked or never made."""
    found = WallLink.objects.filter(token_sha256=_hash(token), revoked_at=None).select_related("depot").first()
    return found.depot if found is not None else None
