"""Machines of the depot."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, cast
from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.boundary import answer, body_of
from config.problems import REFUSALS
from config.refusals import Problem
from fleet.actions import add_loop, add_machine, check_machine, edit_loop, edit_machine
from fleet.models import Machine, Owner
from fleet.owners import erase_owner, machines_of_owner, named_in
from fleet.queries import loops_of, machine_detail, machines_in, machines_of
from fleet.schemas import (
    Generics,
    LoopAdd,
    LoopCard,
    LoopEdit,
    MachineAdded,
    MachineCard,
    MachineDetail,
    MachineEdit,
    MachineIn,
    MachineKinds,
    MachineListed,
    Machines,
    OwnerDetail,
    OwnerErased,
    OwnerOut,
    OwnersFound,
)
from fleet.taking_in import generics, kinds
from people.permissions import IsLead, IsOfADepot, person_of
from temper_core.basis.errors import CoreError
from temper_core.job.life.due import is_over


class MachinesView(APIView):
    """Machines of the depot."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="machine_add",
        request=MachineIn,
        responses={201: MachineAdded, 400: Problem, 401: Problem, 403: Problem, 404: Problem, 409: Problem},
    )
    def post(self, request: Request) -> Response:
        """Take a machine in; the same id twice adds it once. A technician's waits to be checked by a lead."""
        machine = add_machine(body_of(request, MachineIn), actor=person_of(request))
        loop_ids = [loop.id for loop in machine.loops.all()]
        return answer(MachineAdded(id=machine.id, loop_ids=loop_ids, fleet_number=machine.fleet_number), 201)

    @extend_schema(operation_id="machines_list", responses={200: Machines})
    def get(self, request: Request) -> Response:
        """All machines, by fleet number."""
        today = person_of(request).own_depot.now.date()
        cards = [
            MachineCard(
                machine=MachineListed.model_validate(machine, from_attributes=True),
                loops=[
                    LoopCard(
                        id=loop.id,
                        name=loop.name,
                        capacity_l=loop.capacity_l,
                        open=loop.open_job is not None,
                        last_freeze_c=loop.last_freeze_c,
                        last_signed_at=loop.last_signed_at,
                        due_on=loop.due_on,
                        overdue=loop.due_on is not None and is_over(loop.due_on, today),
                    )
                    for loop in cast(Iterable[Any], machine.loops.all())
                ],
            )
            for machine in machines_of(person_of(request).own_depot)
        ]
        return answer(Machines(machines=cards))


def machine_of(request: Request, machine_id: int) -> Machine:
    """A machine of the person's depot, or 404."""
    return get_object_or_404(machines_in(person_of(request).own_depot), pk=machine_id)


class MachineView(APIView):
    """One machine."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="machine_get", responses={200: MachineDetail, **REFUSALS})
    def get(self, request: Request, machine_id: int) -> Response:
        """A machine with all that is entered of its loops."""
        return answer(machine_detail(machine_of(request, machine_id)))

    @extend_schema(operation_id="machine_edit", request=MachineEdit, responses={200: MachineDetail, **REFUSALS})
    def put(self, request: Request, machine_id: int) -> Response:
        """Edit its number, kind, description, year; leads, and who took it in until its first entry."""
        machine = machine_of(request, machine_id)
        return answer(machine_detail(edit_machine(machine, body_of(request, MachineEdit), actor=person_of(request))))


class MachineLoopsView(APIView):
    """Loops of one machine."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="loop_add", request=LoopAdd, responses={201: MachineDetail, **REFUSALS})
    def post(self, request: Request, machine_id: int) -> Response:
        """Add a loop from a generic layout; the same id twice adds it once. Leads only."""
        machine = machine_of(request, machine_id)
        add_loop(machine, body_of(request, LoopAdd), actor=person_of(request))
        return answer(machine_detail(machine), 201)


class MachineCheckedView(APIView):
    """A machine that a technician took in."""

    permission_classes = [IsLead]

    @extend_schema(operation_id="machine_check", request=None, responses={200: MachineDetail, **REFUSALS})
    def post(self, request: Request, machine_id: int) -> Response:
        """It was looked over; leads only."""
        return answer(machine_detail(check_machine(machine_of(request, machine_id), actor=person_of(request))))


class OwnersView(APIView):
    """Owners, looked for."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="owners_find",
        parameters=[OpenApiParameter("find", str, required=True, description="Words of a name, telephone or e-mail.")],
        responses={200: OwnersFound, 401: Problem},
    )
    def get(self, request: Request) -> Response:
        """Machines by their owner; the lists that tablets keep hold no telephone numbers."""
        words = request.query_params.get("find", "")[:120]
        return answer(OwnersFound(machine_ids=machines_of_owner(person_of(request).own_depot, words)))


class OwnerView(APIView):
    """An owner."""

    permission_classes = [IsLead]

    def _owner(self, request: Request, owner_uuid: UUID) -> Owner:
        return get_object_or_404(Owner, depot=person_of(request).own_depot, uuid=owner_uuid)

    @extend_schema(operation_id="owner_get", responses={200: OwnerDetail, **REFUSALS})
    def get(self, request: Request, owner_uuid: UUID) -> Response:
        """An owner, their machines, and the free text that names them. Leads only."""
        owner = self._owner(request, owner_uuid)
        rows = owner.machines.select_related("owner")
        machines = [MachineListed.model_validate(row, from_attributes=True) for row in rows]
        shown = OwnerOut.model_validate(owner, from_attributes=True)
        return answer(OwnerDetail(owner=shown, machines=machines, named_in=named_in(owner)))

    @extend_schema(operation_id="owner_erase", responses={200: OwnerErased, **REFUSALS})
    def delete(self, request: Request, owner_uuid: UUID) -> Response:
        """Erase them on their request; answers the free text that still names them. Leads only."""
        return answer(OwnerErased(named_in=erase_owner(self._owner(request, owner_uuid), actor=person_of(request))))


class KindsView(APIView):
    """MachineKinds of machine."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="kinds_list", responses={200: MachineKinds})
    def get(self, request: Request) -> Response:
        """Kinds with their usual loops and litres, as a machine is taken in by."""
        return answer(kinds())


class LoopSpecView(APIView):
    """What is entered of one loop."""

    permission_classes = [IsOfADepot]

    @extend_schema(operation_id="loop_edit", request=LoopEdit, responses={200: MachineDetail, **REFUSALS})
    def put(self, request: Request, loop_id: int) -> Response:
        """Edit it between jobs; leads, and who took the machine in until its first entry. Signed jobs keep what they had."""
        loop = get_object_or_404(loops_of(person_of(request).own_depot), pk=loop_id)
        edited = edit_loop(loop, body_of(request, LoopEdit), actor=person_of(request))
        return answer(machine_detail(edited.machine))


class LayoutsView(APIView):
    """Generic layouts."""

    permission_classes = [IsOfADepot]

    @extend_schema(
        operation_id="layouts_list",
        parameters=[OpenApiParameter("capacity_l", float, required=True, description="Litres up to the cold mark.")],
        responses={200: Generics, 400: Problem},
    )
    def get(self, request: Request) -> Response:
        """Layouts to start a machine from, drawn for a capacity."""
        try:
            capacity = float(request.query_params.get("capacity_l", ""))
        except ValueError:
            raise CoreError("capacity_l", "capacity_l must be a number of litres, such as 24.5.", "float_parsing") from None
        return answer(generics(capacity))
