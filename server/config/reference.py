"""The API's reference as a page, for leads: the document of this very server, shown by files that ship with it."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from people.permissions import IsLeadHere

PAGE = """<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Temper: API reference</title>
    <link rel="icon" href="/favicon.svg">
    <link rel="stylesheet" href="/static/openapi/swagger-ui.css">
    <link rel="stylesheet" href="/static/reference.css">
  </head>
  <body>
    <header><a href="/data">Back to Temper</a> &middot; Programs sign in with a token: docs/api.md</header>
    <main id="reference"></main>
    <script src="/static/openapi/swagger-ui-bundle.js"></script>
    <script src="/static/reference.js"></script>
  </body>
</html>
"""


@extend_schema(exclude=True)
class ReferenceView(APIView):
    """A page, not JSON."""

    permission_classes = [IsLeadHere]

    def get(self, request: Request) -> HttpResponse:
        """Leads only."""
        return HttpResponse(PAGE)
