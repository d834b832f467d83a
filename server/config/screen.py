"""The one page that the screen lives in."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import cast

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.views import APIView

from config.trust import TYPE, certificate_in, trust_page

NONCE_MARK = "__CSP_NONCE__"


@lru_cache(maxsize=2)
def _page(path: Path) -> str:
    return path.read_text(encoding="utf-8")


class WithNonce(HttpRequest):
    """A request as Django's CSP middleware hands it on."""

    csp_nonce: object


def screen(request: WithNonce) -> HttpResponse:
    """index.html of the built front end, with this answer's nonce for the style sheets that MUI writes."""
    path = settings.WEB / "index.html"
    if not path.is_file():
        return HttpResponse("The front end is not built: run ./temper setup.", status=503, content_type="text/plain")
    response = HttpResponse(_page(path).replace(NONCE_MARK, str(request.csp_nonce)))
    response["Cache-Control"] = "no-cache"
    return response


def trust(request: WithNonce) -> HttpResponse:
    """How a device comes to believe this server's certificate; for whoever asks, signed in or not."""
    page = trust_page(settings.LAN, settings.ADDRESS or request.build_absolute_uri("/"), str(request.csp_nonce))
    if page is None:
        words = "This server has no certificate authority of its own: ./temper serve --lan makes one."
        return HttpResponse(words, status=404, content_type="text/plain")
    return HttpResponse(page, headers={"Cache-Control": "no-store"})


def trust_certificate(request: HttpRequest) -> HttpResponse:
    """The authority's certificate."""
    certificate = certificate_in(settings.LAN)
    if certificate is None:
        return trust(cast(WithNonce, request))
    return HttpResponse(certificate, content_type=TYPE)


@extend_schema(exclude=True)
class ApiNotFoundView(APIView):
    """Unknown addresses under /api/ answer as the API does, not with a page."""

    permission_classes = [AllowAny]

    def initial(self, request: Request, *args: object, **kwargs: object) -> None:
        """Refuse before anything else."""
        raise Http404
