"""Instruments, and their readings in a table of their own: they are compared across loops, years and instruments."""

from __future__ import annotations

from django.db import models

from temper_core.entries import Instrument as CoreInstrument
from temper_core.judge.zero import ZeroCheck as CoreZeroCheck
from temper_core.reading import Scale


class Instrument(models.Model):
    """A refractometer with a freeze scale. resolution: one division [K]; zero: what demineralised water last read."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="instruments")
    name = models.CharField(max_length=40)
    scale = models.CharField(max_length=20, choices=[(s.value, s.value) for s in Scale])
    resolution = models.FloatField(default=1.0)
    zero = models.FloatField(default=0.0)
    zeroed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["depot", "name"], name="instrument_once_per_depot")]

    def __str__(self) -> str:
        return self.name

    @property
    def core(self) -> CoreInstrument:
        """As it is now, for the ledger."""
        return CoreInstrument(str(self.pk), self.name, Scale(self.scale), self.resolution)


class ZeroCheck(models.Model):
    """What demineralised water read, in the scale's own unit; adjusted: the instrument was then set to zero."""

    instrument = models.ForeignKey(Instrument, models.PROTECT, related_name="zeros")
    at = models.DateTimeField()
    value = models.FloatField()
    water_c = models.FloatField(default=20.0)
    adjusted = models.BooleanField(default=False)
    person = models.ForeignKey("people.Person", models.PROTECT, null=True, related_name="zeros")
    added_as = models.UUIDField(null=True, blank=True, unique=True, help_text="the client's id: sent twice, added once")

    class Meta:
        ordering = ["at"]
        indexes = [models.Index(fields=["instrument", "at"])]

    def __str__(self) -> str:
        return f"{self.instrument} {self.value:g}"

    @property
    def core(self) -> CoreZeroCheck:
        """As the core knows it."""
        return CoreZeroCheck(self.at, self.value, self.water_c, self.adjusted)


class Reading(models.Model):
    """One reading of a ledger entry, with what it came to."""

    entry = models.OneToOneField("jobs.Entry", models.CASCADE, related_name="reading")
    loop = models.ForeignKey("fleet.Loop", models.CASCADE, related_name="readings")
    instrument = models.ForeignKey(Instrument, models.PROTECT, null=True, related_name="readings")
    person = models.ForeignKey("people.Person", models.PROTECT, related_name="readings")
    taken_at = models.DateTimeField()
    value = models.FloatField()
    zero = models.FloatField()
    sample_c = models.FloatField()
    place = models.CharField(max_length=12)
    freeze_c = models.FloatField(null=True)
    glycol_mass_percent = models.FloatField(null=True)
    voided = models.BooleanField(default=False)

    class Meta:
        ordering = ["-taken_at"]
        indexes = [models.Index(fields=["loop", "-taken_at"])]
