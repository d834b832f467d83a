"""People as the API takes and gives them."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from config.shapes import Answer, Body
from people.models import PersonChange, Role
from people.shown import PersonOut


class DeviceOut(Answer):
    """A device that somebody is signed in on. this: the one that asks."""

    id: int
    device: str
    address: str | None
    started_at: datetime
    seen_at: datetime
    this: bool


class TokenOut(Answer):
    """A program's token. key: how it begins; used_at null: never; expired: it has run out, and opens nothing."""

    key: str
    name: str
    reads_only: bool
    made_at: datetime
    used_at: datetime | None
    expires_at: datetime
    expired: bool


class AccountChange(Answer):
    """What was done to an account; by null: on the command line."""

    what: PersonChange.What
    detail: str
    by: str | None
    at: datetime


class PersonRow(Answer):
    """Somebody of the depot. last_sign_in null: never; active false: may not sign in; must_change: see ProfileOut.

    may_isolate_until: the last day on which they may isolate high voltage, as a lead said; null: they may not.
    """

    person: PersonOut
    last_sign_in: datetime | None
    active: bool
    must_change: bool
    may_isolate_until: date | None
    devices: list[DeviceOut]
    tokens: list[TokenOut]
    changes: list[AccountChange]


class People(Answer):
    """Everybody of the depot, by name."""

    people: list[PersonRow]


class PersonIn(Body):
    """Somebody new."""

    username: str = Field(max_length=40)
    name: str = Field(max_length=120)
    role: Role


class PersonEdit(Body):
    """Somebody as they should be. may_isolate_until: last day on which they may isolate high voltage; null: not at all."""

    name: str = Field(max_length=120)
    role: Role
    active: bool
    may_isolate_until: date | None = None


class PersonAdded(Answer):
    """Somebody new, or with a new password: it is shown this once, and changed at their next sign-in."""

    person: PersonOut
    password: str


class ProfileOut(Answer):
    """Who asks, on which devices, and what was done to their account. must_change: set a password of one's own first."""

    person: PersonOut
    must_change: bool
    devices: list[DeviceOut]
    tokens: list[TokenOut]
    changes: list[AccountChange]


class ProfileEdit(Body):
    """One's own name."""

    name: str = Field(max_length=120)


class PasswordIn(Body):
    """One's own password: the present one, and the new."""

    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class TokenIn(Body):
    """A token for a program: which one, whether it may only read, for how many days; one's own password, once more."""

    name: str = Field(max_length=120)
    reads_only: bool
    days: int
    password: str = Field(max_length=200)


class TokenMade(Answer):
    """Its text is shown this once."""

    token: str
    profile: ProfileOut
