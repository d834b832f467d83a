"""Reads of people."""

from __future__ import annotations

from collections import defaultdict

from django.contrib.sessions.models import Session
from django.db.models import Value
from django.db.models.functions import Concat
from django.utils import timezone

from depots.models import Depot
from people.models import ApiToken, Person, PersonChange, SignedIn
from people.schemas import AccountChange, DeviceOut, People, PersonRow, ProfileOut, TokenOut
from people.shown import person_out


def sign_in_name(given: str) -> str:
    """The sign-in name that somebody means: their own, in any case, or the name that is shown, where one person has it."""
    words = " ".join(given.split())
    own = Person.objects.filter(username__iexact=words).values_list("username", flat=True)
    shown = Person.objects.annotate(shown=Concat("first_name", Value(" "), "last_name")).filter(shown__iexact=words)
    found = list(own[:2]) or list(shown.values_list("username", flat=True)[:2])
    return found[0] if len(found) == 1 else words


MOST_CHANGES = 20


def people_of(depot: Depot, session_key: str) -> People:
    """Everybody of a depot by name, with devices and last changes; five queries."""
    rows = list(depot.people.order_by("-is_active", "first_name", "last_name", "username"))
    devices, tokens = _devices(rows, session_key), _tokens(rows)
    changes: dict[int, list[AccountChange]] = defaultdict(list)
    for row in PersonChange.objects.filter(person__in=rows).select_related("by"):
        if len(changes[row.person_id]) < MOST_CHANGES:
            changes[row.person_id].append(_change(row))
    return People(
        people=[
            PersonRow(
                person=person_out(row),
                last_sign_in=row.last_login,
                active=row.is_active,
                must_change=row.must_change,
                may_isolate_until=row.may_isolate_until,
                devices=devices[row.pk],
                tokens=tokens[row.pk],
                changes=changes[row.pk],
            )
            for row in rows
        ]
    )


def profile_of(person: Person, session_key: str) -> ProfileOut:
    """Somebody's own account."""
    changes = person.changes.select_related("by")[:MOST_CHANGES]
    return ProfileOut(
        person=person_out(person),
        must_change=person.must_change,
        devices=_devices([person], session_key)[person.pk],
        tokens=_tokens([person])[person.pk],
        changes=[_change(row) for row in changes],
    )


def _devices(people: list[Person], session_key: str) -> dict[int, list[DeviceOut]]:
    """Where they are signed in: devices whose session is still good."""
    found: dict[int, list[DeviceOut]] = defaultdict(list)
    rows = list(SignedIn.objects.filter(person__in=people))
    good = Session.objects.filter(session_key__in=[row.session_key for row in rows], expire_date__gt=timezone.now())
    keys = set(good.values_list("session_key", flat=True))
    for row in rows:
        if row.session_key in keys:
            found[row.person_id].append(
                DeviceOut(
                    id=row.pk,
                    device=row.device,
                    address=row.address,
                    started_at=row.started_at,
                    seen_at=row.seen_at,
                    this=row.session_key == session_key,
                )
            )
    return found


def _tokens(people: list[Person]) -> dict[int, list[TokenOut]]:
    found: dict[int, list[TokenOut]] = defaultdict(list)
    for row in ApiToken.objects.filter(user__in=people):
        found[row.user_id].append(
            TokenOut(
                key=row.token_key,
                name=row.name,
                reads_only=row.reads_only,
                made_at=row.created,
                used_at=row.used_at,
                expires_at=row.expiry,
                expired=row.expiry < timezone.now(),
            )
        )
    return found


def _change(row: PersonChange) -> AccountChange:
    return AccountChange(what=PersonChange.What(row.what), detail=row.detail, by=row.by.name if row.by else None, at=row.at)
