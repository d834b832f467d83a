"""Machines of the depot."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer
from fleet.queries import machines_of
from fleet.shapes import LoopCard, MachineCard, MachineOut, Machines
from people.permissions import IsOfADepot


class MachinesView(APIView):
    """Machines of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="machines_list", responses={200: Machines})
    def get(self, request: Request) -> Response:
        """All machines, by fleet number."""
        cards = [
            MachineCard(
                machine=MachineOut.model_validate(machine, from_attributes=True),
                loops=[
                    LoopCard(
                        id=loop.id,
                        name=loop.name,
                        capacity_l=loop.capacity_l,
                        open=loop.open_job is not None,
                        last_freeze_c=loop.last_freeze_c,
                        last_signed_at=loop.last_signed_at,
                    )
                    for loop in machine.loops.all()
                ],
            )
            for machine in machines_of(request.user.depot)
        ]
        return answer(Machines(machines=cards))
