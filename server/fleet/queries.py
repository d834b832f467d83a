"""Reads of the fleet."""

from __future__ import annotations

from django.db.models import FloatField, OuterRef, Prefetch, QuerySet, Subquery
from django.db.models.fields.json import KT
from django.db.models.functions import Cast

from depots.models import Depot
from fleet.models import Loop, Machine
from jobs.models import JobLoop

_FREEZE_C = Cast(KT("result__state__claim__freeze_c"), FloatField())


def loops_of(depot: Depot) -> QuerySet[Loop]:
    """Loops of a depot with machine and depot at hand."""
    return Loop.objects.filter(machine__depot=depot).select_related("machine__depot")


def machines_of(depot: Depot) -> QuerySet[Machine]:
    """Machines with their loops; each loop knows whether it is in work and how its last job ended."""
    last = JobLoop.objects.filter(loop=OuterRef("pk"), signed_at__isnull=False).order_by("-signed_at")
    in_work = JobLoop.objects.filter(loop=OuterRef("pk"), signed_at__isnull=True)
    loops = Loop.objects.annotate(
        open_job=Subquery(in_work.values("pk")[:1]),
        last_signed_at=Subquery(last.values("signed_at")[:1]),
        last_freeze_c=Subquery(last.annotate(freeze_c=_FREEZE_C).values("freeze_c")[:1]),
    )
    return depot.machines.prefetch_related(Prefetch("loops", queryset=loops))
