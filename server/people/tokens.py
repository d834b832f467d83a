"""Programs sign in with a token in somebody's name: made and revoked one by one, for reading only or for recording too."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import DatabaseError, transaction
from django.utils import timezone
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from knox.auth import TokenAuthentication
from rest_framework.exceptions import AuthenticationFailed
from rest_framework.request import Request

from people.actions import note
from people.models import ApiToken, Person, PersonChange
from temper_core.basis.errors import Conflict, CoreError

MOST = 20  # tokens of one person
LONGEST = timedelta(days=730)
USED_EVERY = timedelta(minutes=5)


class ProgramAuthentication(TokenAuthentication):  # type: ignore[misc]
    """Authorization: Bearer temper-…; without that header another way of signing in is tried."""

    def authenticate(self, request: Request) -> tuple[Any, Any] | None:
        """Person and token."""
        try:
            found: tuple[Person, ApiToken] | None = super().authenticate(request)
        except (AuthenticationFailed, UnicodeDecodeError):
            raise AuthenticationFailed(code="token") from None
        if found is not None:
            self._used(found[1])
        return found

    def _used(self, token: ApiToken) -> None:
        now = timezone.now()
        if token.used_at is not None and now - token.used_at < USED_EVERY:
            return
        try:
            with transaction.atomic():
                ApiToken.objects.filter(pk=token.pk).update(used_at=now)
        except DatabaseError:  # no program is kept from reading because a note about it cannot be written
            pass

    def _cleanup_token(self, auth_token: ApiToken) -> bool:
        """One that has run out is not taken; it stays in its owner's list, and says so."""
        return auth_token.expiry is not None and auth_token.expiry < timezone.now()


class ProgramScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """How the OpenAPI document names it."""

    target_class = "people.tokens.ProgramAuthentication"
    name = "token"

    def get_security_definition(self, auto_schema: object) -> dict[str, str]:
        """OpenAPI security scheme."""
        return {"type": "http", "scheme": "bearer"}


def make_token(person: Person, name: str, reads_only: bool, days: int) -> tuple[ApiToken, str]:
    """A new token, and its text, that is never shown again; raises CoreError or Conflict."""
    words = " ".join(name.split())
    if not 2 <= len(words) <= 60:
        raise CoreError("name", "The name must have 2 to 60 letters: say which program it is for.", "name")
    if not 1 <= days <= LONGEST.days:
        raise CoreError("days", f"{days} days: a token is good for 1 to {LONGEST.days} days.", "days")
    with transaction.atomic():
        if ApiToken.objects.filter(user=person).count() >= MOST:
            raise Conflict("name", f"There are {MOST} tokens already. Revoke one first.", "most_tokens")
        made: tuple[ApiToken, str] = ApiToken.objects.create(
            person, expiry=timedelta(days=days), name=words, reads_only=reads_only
        )
        note(person, PersonChange.What.TOKEN_MADE, person, words)
    return made


def revoke_token(token: ApiToken, *, actor: Person | None) -> None:
    """It opens nothing any more."""
    with transaction.atomic():
        note(token.user, PersonChange.What.TOKEN_REVOKED, actor, token.name)
        token.delete()
