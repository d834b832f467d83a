"""Sign-in by session cookie; a missing session answers 401, so that the screen can ask for it without losing anything."""

from typing import Any

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request

from people.actions import note_device
from people.models import Person


def key_of(request: Request) -> str:
    """The key of the session behind a request; "" without one."""
    return request._request.session.session_key or ""


class CookieAuthentication(SessionAuthentication):
    """Session and CSRF cookie; that somebody is here on this device is written down now and then."""

    def authenticate(self, request: Request) -> tuple[Any, Any] | None:
        """As the session says, or nobody."""
        found = super().authenticate(request)
        if found is not None and isinstance(found[0], Person):
            agent = request.META.get("HTTP_USER_AGENT", "")
            note_device(found[0], key_of(request), agent, request.META.get("REMOTE_ADDR"))
        return found

    def authenticate_header(self, request: Request) -> str:
        """Makes DRF answer 401 instead of 403 when nobody is signed in."""
        return "Session"


class CookieScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """How the OpenAPI document names it."""

    target_class = "people.auth.CookieAuthentication"
    name = "cookie"

    def get_security_definition(self, auto_schema: object) -> dict[str, str]:
        """OpenAPI security scheme."""
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}
