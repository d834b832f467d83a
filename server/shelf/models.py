"""Containers on the depot's shelf, how full they were when somebody looked, and what pours took out of them."""

from __future__ import annotations

from dataclasses import replace

from django.conf import settings
from django.db import models

from temper_core.basis.quantity import VolumePercent
from temper_core.products.chemistry import Form
from temper_core.products.chemistry import Product as CoreProduct
from temper_core.products.shelf import Can as CoreCan
from temper_core.products.shelf import CanKind
from temper_core.science import mass_fraction_of


class Can(models.Model):
    """A can, drum or container by its number: what it holds, its lot, since when it is open.

    Of product, agent and water the one that it holds; loop: where recovered coolant came out of. strength_percent: as
    measured, for a drum of premix and for recovered coolant. emptied_at: gone, kept for its lot.
    """

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="cans")
    number = models.CharField(max_length=20)
    kind = models.CharField(max_length=10, choices=[(k.value, k.value) for k in CanKind])
    product = models.ForeignKey("catalogue.Product", models.PROTECT, null=True, related_name="cans")
    agent = models.ForeignKey("catalogue.Agent", models.PROTECT, null=True, related_name="cans")
    water = models.ForeignKey("catalogue.WaterSource", models.PROTECT, null=True, related_name="cans")
    loop = models.ForeignKey("fleet.Loop", models.PROTECT, null=True, related_name="recovered")
    lot = models.CharField(max_length=40, blank=True, db_index=True)
    size_l = models.FloatField(help_text="what it holds when full [l]")
    strength_percent = models.FloatField(null=True, help_text="as measured [% by volume]")
    since = models.DateField(null=True, help_text="of recovered coolant: when it first went into a loop")
    opened_on = models.DateField(null=True)
    place = models.CharField(max_length=60, blank=True)
    emptied_at = models.DateTimeField(null=True)
    added_as = models.UUIDField(null=True, unique=True)
    added_at = models.DateTimeField(auto_now_add=True)
    edited_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["depot", "number"], name="can_number_once_per_depot")]

    def __str__(self) -> str:
        return self.number

    @property
    def core(self) -> CoreCan:
        """As an entry keeps it."""
        agent = self.agent.name if self.agent is not None else ""
        origin = str(self.loop_id) if self.loop_id is not None else ""
        return CoreCan(str(self.pk), self.number, CanKind(self.kind), self._holds, self.lot, self.since, agent, origin)

    @property
    def _holds(self) -> CoreProduct | None:
        """The coolant in it; recovered coolant only once its strength was measured."""
        if self.product is None:
            return None
        product = self.product.core
        if self.kind != CanKind.RECOVERED:
            return product
        if self.strength_percent is None or product.base.glycol is None:
            return None
        mass_percent = 100 * mass_fraction_of(product.base.glycol, VolumePercent(self.strength_percent))
        name = f"{product.name}, recovered"
        return replace(product, name=name, form=Form.READY_MIX, glycol_mass_percent=mass_percent)


class Count(models.Model):
    """Litres in a container, as somebody saw them. id: the client's, so that sent twice it counts once."""

    id = models.UUIDField(primary_key=True, editable=False)
    can = models.ForeignKey(Can, models.CASCADE, related_name="counts")
    litres = models.FloatField()
    at = models.DateTimeField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")

    class Meta:
        ordering = ["at"]

    def __str__(self) -> str:
        return f"{self.can_id} {self.litres:g}"


class Handover(models.Model):
    """Waste that somebody took away: who, when, their paper's number, its photo by its hash. undone_at: entered wrongly."""

    id = models.UUIDField(primary_key=True, editable=False)
    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="handovers")
    at = models.DateTimeField()
    taken_by = models.CharField(max_length=80)
    paper = models.CharField(max_length=40, blank=True)
    note = models.CharField(max_length=200, blank=True)
    photo = models.CharField(max_length=64, blank=True, db_index=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-at"]

    def __str__(self) -> str:
        return f"{self.taken_by} {self.at:%Y-%m-%d}"


class HandedOver(models.Model):
    """The containers of one entry of waste that went with a handover."""

    handover = models.ForeignKey(Handover, models.CASCADE, related_name="rows")
    entry = models.ForeignKey("jobs.Entry", models.PROTECT, related_name="handed_over")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["handover", "entry"], name="handed_over_once")]

    def __str__(self) -> str:
        return f"{self.entry_id}"


class Draw(models.Model):
    """Litres that an entry took out of a container; follows the record: an entry undone gives them back."""

    can = models.ForeignKey(Can, models.PROTECT, related_name="draws")
    entry = models.ForeignKey("jobs.Entry", models.PROTECT, related_name="draws")
    litres = models.FloatField()
    at = models.DateTimeField()

    class Meta:
        ordering = ["at"]

    def __str__(self) -> str:
        return f"{self.can_id} {self.litres:g}"
