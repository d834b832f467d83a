"""Sign-in by session cookie; a missing session answers 401, so that the screen can ask for it without losing anything."""

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class CookieAuthentication(SessionAuthentication):
    """Session and CSRF cookie."""

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
