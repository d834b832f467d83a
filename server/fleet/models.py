"""Machines and their cooling loops."""

from __future__ import annotations

from functools import cached_property
from uuid import uuid4

from django.db import models
from pydantic import TypeAdapter

from temper_core.job.loop import CapacitySource, Taught
from temper_core.job.loop import Loop as CoreLoop
from temper_core.machine.circuit import Layout
from temper_core.machine.equipment import Equipment
from temper_core.products.chemistry import Base, Family, Fluid, LoopUse, Material, Requirement

LAYOUT = TypeAdapter(Layout)
EQUIPMENT = TypeAdapter(Equipment)


class Owner(models.Model):
    """Whom a customer's machine belongs to: personal data, in a table of its own and joined when shown."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="owners")
    uuid = models.UUIDField(default=uuid4, unique=True, editable=False)
    name = models.CharField(max_length=120)
    telephone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)

    class Meta:
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class Erased(models.Model):
    """An owner that was erased on request: by what they were known here, by whom and when; nothing of them is kept."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="erased")
    owner_uuid = models.UUIDField(unique=True)
    by = models.ForeignKey("people.Person", models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at"]

    def __str__(self) -> str:
        return str(self.owner_uuid)


class Machine(models.Model):
    """Something with a fleet number and one or more cooling loops."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="machines")
    fleet_number = models.CharField(max_length=16)
    kind = models.CharField(max_length=60)
    description = models.CharField(max_length=120, blank=True)
    year = models.PositiveSmallIntegerField(null=True, blank=True)
    edited_at = models.DateTimeField(auto_now=True)
    uuid = models.UUIDField(default=uuid4, unique=True, editable=False, help_text="what it is known by outside the database")
    taken_in_by = models.ForeignKey("people.Person", models.PROTECT, null=True, related_name="+")
    taken_in_at = models.DateTimeField(null=True)
    checked_by = models.ForeignKey("people.Person", models.PROTECT, null=True, related_name="+")
    checked_at = models.DateTimeField(null=True, help_text="when a lead looked over what was taken in")
    owner = models.ForeignKey(Owner, models.SET_NULL, null=True, related_name="machines", help_text="empty: the depot's own")

    class Meta:
        ordering = ["fleet_number"]
        constraints = [models.UniqueConstraint(fields=["depot", "fleet_number"], name="fleet_number_once_per_depot")]

    def __str__(self) -> str:
        return f"{self.fleet_number} {self.kind}"

    @property
    def owner_name(self) -> str:
        """Whom it belongs to, "" for the depot's own."""
        return self.owner.name if self.owner is not None else ""

    @property
    def unchecked(self) -> bool:
        """Taken in by a technician, and no lead has looked it over yet."""
        return self.taken_in_at is not None and self.checked_at is None


class Loop(models.Model):
    """One cooling loop: capacity up to the cold mark [l at 20 degC], layout, what it asks of its coolant."""

    machine = models.ForeignKey(Machine, models.CASCADE, related_name="loops")
    name = models.CharField(max_length=60)
    position = models.PositiveSmallIntegerField(default=1)
    capacity_l = models.FloatField()
    capacity_source = models.CharField(max_length=12, choices=[(s.value, s.value) for s in CapacitySource])
    capacity_sd_l = models.FloatField(null=True, blank=True, help_text="where known better than from its source [l]")
    capacity_known_at = models.DateTimeField(null=True, blank=True)
    capacity_note = models.CharField(max_length=160, blank=True)
    layout = models.JSONField()
    uuid = models.UUIDField(default=uuid4, unique=True, editable=False, help_text="what it is known by outside the database")
    equipment = models.JSONField(default=dict, blank=True)
    edited_at = models.DateTimeField(auto_now=True)
    coldest_c = models.FloatField(null=True, blank=True, help_text="where it differs from the depot's [degC]")
    maker_families = models.JSONField(default=list, blank=True)
    maker_standards = models.JSONField(default=list, blank=True)
    maker_stated_in = models.CharField(max_length=120, blank=True)
    materials = models.JSONField(default=list, blank=True)
    glycol_forbidden = models.BooleanField(default=False)
    low_conductivity = models.BooleanField(default=False)
    use = models.CharField(max_length=20, null=True, blank=True, help_text="what a low-conductivity loop cools")
    high_voltage = models.BooleanField(null=True, default=False, help_text="null: not known, which counts as yes")
    cap_gauge_kpa = models.FloatField(null=True, blank=True, help_text="what the cap holds above ambient [kPa]")
    taught = models.JSONField(default=dict, blank=True, help_text="what its jobs taught, and what a lead decided of it")
    believed_base = models.CharField(max_length=12, blank=True)
    believed_family = models.CharField(max_length=20, blank=True)
    believed_strength_percent = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["machine", "position"]
        constraints = [models.UniqueConstraint(fields=["machine", "position"], name="loop_position_once_per_machine")]

    def __str__(self) -> str:
        return f"{self.machine.fleet_number} {self.name}"

    def clean(self) -> None:
        """Refuse a loop whose vessels do not add up; raises CoreError."""
        _ = self.core

    @cached_property
    def core(self) -> CoreLoop:
        """This loop as the core knows it."""
        return CoreLoop(
            id=str(self.pk),
            name=self.name,
            capacity_l=self.capacity_l,
            capacity_source=CapacitySource(self.capacity_source),
            layout=LAYOUT.validate_python(self.layout),
            need=self.requirement,
            coldest_c=self.coldest_c if self.coldest_c is not None else self.machine.depot.coldest_c,
            cap_gauge_kpa=self.cap_gauge_kpa,
            capacity_sd_l=self.capacity_sd_l,
            capacity_known_at=self.capacity_known_at,
            equipment=EQUIPMENT.validate_python(self.equipment),
            altitude_m=self.machine.depot.altitude_m,
            built=self.machine.year,
            high_voltage=self.high_voltage is not False,
            taught={key: Taught(row["value"], row["sd"], row["jobs"]) for key, row in self.taught.items() if row["taken"]},
            believed=Fluid(
                Base(self.believed_base) if self.believed_base else None,
                Family(self.believed_family) if self.believed_family else None,
                self.believed_strength_percent,
            ),
        )

    @property
    def requirement(self) -> Requirement:
        """What it asks of its coolant."""
        return Requirement(
            families=tuple(Family(family) for family in self.maker_families),
            standards=tuple(self.maker_standards),
            stated_in=self.maker_stated_in,
            materials=tuple(Material(material) for material in self.materials),
            glycol_forbidden=self.glycol_forbidden,
            low_conductivity=self.low_conductivity,
            use=LoopUse(self.use) if self.use else None,
        )
