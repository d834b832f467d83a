"""Small courtesies at the door."""

from collections.abc import Callable
from ipaddress import ip_address

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils.html import escape


class BehindProxies:
    """Who asks, as the outermost proxy of one's own saw it; what the sender itself wrote into the header is not believed."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Each proxy adds whom it answers at the end of X-Forwarded-For."""
        named = [part.strip() for part in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if part.strip()]
        if settings.PROXIES and len(named) >= settings.PROXIES:
            address = named[-settings.PROXIES]
            if is_address(address):
                request.META["REMOTE_ADDR"] = address
        return self.get_response(request)


def is_address(text: str) -> bool:
    """Whether it is an IP address."""
    try:
        ip_address(text)
    except ValueError:
        return False
    return True


class KnownHost:
    """Somebody who opened it by a name that is not served gets a sentence instead of a bare refusal."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Which names it answers to, and how to add one; programs get it in the shape of every refusal."""
        try:
            request.get_host()
        except DisallowedHost:
            return self._unknown(request)
        return self.get_response(request)

    def _unknown(self, request: HttpRequest) -> HttpResponse:
        asked = request.META.get("HTTP_HOST", "")[:120]
        known = ", ".join(name for name in settings.ALLOWED_HOSTS if name != "*")
        how = f"Open one of these, or add the name: TEMPER_HOSTS={','.join(settings.ALLOWED_HOSTS)},… before ./temper serve."
        words = f"Temper is not served as '{asked}'. It answers to {known}. {how}"
        if request.path_info.startswith("/api/"):
            return JsonResponse({"field": "", "code": "unknown_host", "message": words}, status=400)
        body = (
            '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
            f"<title>Not served by this name</title><h1>Not served by this name</h1><p>{escape(words)}</p></html>"
        )
        return HttpResponse(body, status=400)


class NothingIsKept:
    """Answers of the API are a person's or a depot's: no browser and no proxy keeps them past the page that shows them."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Photos too: the next one at a shared tablet does not find them."""
        response = self.get_response(request)
        if request.path_info.startswith("/api/"):
            response["Cache-Control"] = "no-store"
        return response


class TrailingSlash:
    """API addresses have no trailing slash; one that is sent all the same is not held against the sender."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Drop it before the address is looked up."""
        if request.path_info.startswith("/api/") and request.path_info.endswith("/"):
            request.path_info = request.path_info.rstrip("/")
        return self.get_response(request)


class PermissionsPolicy:
    """The camera reads codes; of everything else that a browser could offer, nothing is used."""

    ALLOWED = "camera=(self), microphone=(), geolocation=(), payment=(), usb=(), display-capture=(), browsing-topics=()"

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Say so with every answer."""
        response = self.get_response(request)
        response["Permissions-Policy"] = self.ALLOWED
        return response
