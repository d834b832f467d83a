"""Small courtesies at the door."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse


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
