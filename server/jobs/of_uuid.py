"""What a UUID belongs to: numbers are the database's own, on labels and in archives things are known by these."""

from __future__ import annotations

from uuid import UUID

from catalogue.models import Agent, Product, WaterSource
from depots.models import Depot
from fleet.models import Loop, Machine
from instruments.models import Instrument
from jobs.back_schemas import Of
from jobs.models import JobLoop


def of_uuid(depot: Depot, uuid: UUID) -> Of | None:
    """The page of whatever has this UUID in the depot; None where nothing has."""
    loop = Loop.objects.filter(machine__depot=depot, uuid=uuid).first()
    if loop is not None:
        return Of(what="loop", id=str(loop.pk), page=f"/loops/{loop.pk}")
    machine = Machine.objects.filter(depot=depot, uuid=uuid).first()
    if machine is not None:
        return Of(what="machine", id=str(machine.pk), page=f"/machines/{machine.pk}")
    part = JobLoop.objects.filter(loop__machine__depot=depot, job_id=uuid).order_by("loop__position").first()
    if part is not None:
        return Of(what="job", id=str(part.job_id), page=f"/loops/{part.loop_id}/sheet?job={part.job_id}")
    for what, model, page in (
        ("product", Product, "/products"),
        ("agent", Agent, "/products"),
        ("water", WaterSource, "/products"),
        ("instrument", Instrument, "/instruments"),
    ):
        row = model._default_manager.filter(depot=depot, uuid=uuid).first()
        if row is not None:
            return Of(what=what, id=str(row.pk), page=page)
    return None
