"""The board on a wall: read by its link, no session; and the links, for leads."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS, problem
from config.refusals import Problem
from depots.walls import WallLinkIn, WallLinkMade, WallLinks, depot_behind, links_of, make_link, revoke_link
from jobs.board_answer import Audience, board_answer
from jobs.schemas import Board
from people.permissions import IsLeadHere, person_of


class WallView(APIView):
    """The board by a link."""

    authentication_classes = ()
    permission_classes = (AllowAny,)

    @extend_schema(operation_id="wall_get", auth=[], responses={200: Board, 304: None, 404: Problem})
    def get(self, request: Request, token: str) -> HttpResponse:
        """As everybody sees it, without what waits for a lead; 404 for a link that was revoked."""
        depot = depot_behind(token)
        if depot is None:
            return problem(404, "no_link", "This link does not work any more. Ask a lead for a new one.", "")
        return board_answer(request, depot, Audience.WALL)


class WallLinksView(APIView):
    """The links."""

    permission_classes = (IsLeadHere,)

    @extend_schema(operation_id="wall_links_list", responses={200: WallLinks, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Every link, newest first. Leads only."""
        return answer(WallLinks(links=links_of(person_of(request).own_depot)))

    @extend_schema(operation_id="wall_link_make", request=WallLinkIn, responses={201: WallLinkMade, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Make one; its path is answered this once. Leads only."""
        lead = person_of(request)
        token = make_link(lead.own_depot, body_of(request, WallLinkIn).name, actor=lead)
        return answer(WallLinkMade(path=f"/wall/{token}", links=links_of(lead.own_depot)), 201)


class WallLinkView(APIView):
    """One link."""

    permission_classes = (IsLeadHere,)

    @extend_schema(operation_id="wall_link_revoke", responses={200: WallLinks, **REFUSALS})
    def delete(self, request: Request, link_id: int) -> Response:
        """Revoke it: its screen shows nothing any more. Leads only."""
        lead = person_of(request)
        revoke_link(lead.own_depot, link_id, actor=lead)
        return answer(WallLinks(links=links_of(lead.own_depot)))
