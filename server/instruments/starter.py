"""The starter list: coolants, waters and instruments that a depot may begin with, added several at once."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.db import transaction
from drf_spectacular.utils import extend_schema
from pydantic import Field
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from catalogue.actions import add_from_list
from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.shapes import Answer, Body
from instruments.actions import keep_instrument
from instruments.models import Instrument
from instruments.schemas import InstrumentIn
from people.models import Person
from people.permissions import IsLead, IsOfADepot, person_of
from temper_core.starter.instruments import starter_instruments
from temper_core.starter.products import (
    StarterCoolant,
    StarterWater,
    starter_agents,
    starter_coolants,
    starter_waters,
)


class StarterRow(Answer):
    """A line of the list. says: what is known of it; source: where from; here: the depot has a line of this name already."""

    key: str
    name: str
    says: str
    source: str
    here: bool


class Starter(Answer):
    """The list. agents: cleaners and additives by kind, to be entered from the label; says: which kind."""

    coolants: list[StarterRow]
    agents: list[StarterRow]
    waters: list[StarterRow]
    instruments: list[StarterRow]


class Pick(Body):
    """One line to add; id is the client's, so that sent twice it is added once."""

    key: Annotated[str, Field(max_length=40)]
    id: UUID


class Picks(Body):
    """Several lines to add."""

    picks: Annotated[list[Pick], Field(min_length=1, max_length=60)]


def starter_of(person: Person) -> Starter:
    """The list, with what the depot has already."""
    depot = person.own_depot
    have = {name.lower() for lines in (depot.products, depot.waters) for name in lines.values_list("name", flat=True)}
    tools = {name.lower() for name in depot.instruments.values_list("name", flat=True)}

    agents = {name.lower() for name in depot.agents.values_list("name", flat=True)}

    def line(row: StarterCoolant | StarterWater) -> StarterRow:
        says = ", ".join(row.standards) if isinstance(row, StarterCoolant) else row.kind.value
        return StarterRow(key=row.key, name=row.name, says=says, source=row.source, here=row.name.lower() in have)

    return Starter(
        coolants=[line(row) for row in starter_coolants()],
        agents=[
            StarterRow(key=row.key, name=row.name, says=row.kind.value, source=row.source, here=row.name.lower() in agents)
            for row in starter_agents()
        ],
        waters=[line(row) for row in starter_waters()],
        instruments=[
            StarterRow(key=row.key, name=row.name, says="", source=row.source, here=row.name.lower() in tools)
            for row in starter_instruments()
        ],
    )


def add_picks(given: Picks, *, actor: Person) -> None:
    """Add them all, or none; what the depot has by that name already stays as it is. Raises CoreError."""
    tools = {row.key: row for row in starter_instruments()}
    with transaction.atomic():
        for pick in given.picks:
            row = tools.get(pick.key)
            if row is None:
                add_from_list(actor.own_depot, pick.key, pick.id)
            elif not Instrument.objects.filter(depot=actor.own_depot, name__iexact=row.name).exists():
                spec = row.spec
                keep_instrument(
                    InstrumentIn(
                        id=pick.id,
                        name=row.name,
                        kind=spec.kind,
                        scale=spec.scale,
                        resolution=spec.resolution,
                        compensated=spec.compensated,
                    ),
                    None,
                    actor=actor,
                )


class StarterView(APIView):
    """The starter list."""

    def get_permissions(self) -> list[IsOfADepot]:
        """Members read, leads add."""
        return [IsLead() if self.request.method == "POST" else IsOfADepot()]

    @extend_schema(operation_id="starter_get", responses={200: Starter, **REFUSALS})
    def get(self, request: Request) -> Response:
        """Coolants by what their label states, waters, instruments by scale; no names of makers."""
        return answer(starter_of(person_of(request)))

    @extend_schema(operation_id="starter_add", request=Picks, responses={201: Starter, **REFUSALS})
    def post(self, request: Request) -> Response:
        """Add several at once; a coolant fits nowhere until its label is entered. Leads only."""
        person = person_of(request)
        add_picks(body_of(request, Picks), actor=person)
        return answer(starter_of(person), 201)
