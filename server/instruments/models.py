"""Instruments, and their readings in a table of their own: they are compared across loops, years and instruments."""

from __future__ import annotations

from uuid import uuid4

from django.core.exceptions import ValidationError
from django.db import models

from temper_core.instruments import FACTS, KINDS, InstrumentKind, InstrumentSpec, Scale
from temper_core.instruments.zero import ZeroCheck as CoreZeroCheck
from temper_core.job.read.facts import Instrument as CoreInstrument

SCALES = [(s.value, s.value) for s in Scale]


class Instrument(models.Model):
    """Something that reads a coolant. resolution: one division; zero: what demineralised water last read; in its own unit.

    scale: empty for what reads no strength. steps_c: a step tester's table. bands: the values a strip shows, by figure.
    address: host:port of a driver on this machine, for one that reads by itself.
    """

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="instruments")
    name = models.CharField(max_length=40)
    kind = models.CharField(
        max_length=12, choices=[(k.value, k.value) for k in InstrumentKind], default=InstrumentKind.OPTICAL.value
    )
    scale = models.CharField(max_length=20, choices=SCALES, blank=True)
    resolution = models.FloatField(default=1.0)
    compensated = models.BooleanField(default=True)
    compensation_low_c = models.FloatField(null=True, blank=True)
    compensation_high_c = models.FloatField(null=True, blank=True)
    steps_c = models.JSONField(default=list, blank=True)
    bands = models.JSONField(default=dict, blank=True)
    address = models.CharField(max_length=60, blank=True)
    retired = models.BooleanField(default=False)
    zero = models.FloatField(default=0.0)
    zeroed_at = models.DateTimeField(null=True, blank=True)
    bias_percent = models.FloatField(default=0.0, help_text="glycol that it reads too much, % by mass, as learned")
    bias_sd = models.FloatField(null=True, blank=True, help_text="standard deviation of the bias; empty: nothing learned")
    bias_note = models.CharField(max_length=200, blank=True, help_text="against which instrument, by whom, when")
    edited_at = models.DateTimeField(auto_now=True)
    uuid = models.UUIDField(default=uuid4, unique=True, editable=False, help_text="what it is known by outside the database")

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["depot", "name"], name="instrument_once_per_depot")]

    def __str__(self) -> str:
        return self.name

    def clean(self) -> None:
        """What is engraved must be possible. Raises CoreError, or ValidationError for a scale not known."""
        if self.scale and self.scale not in {value for value, _ in SCALES}:
            raise ValidationError({"scale": "unknown"})
        _ = self.spec

    @property
    def spec(self) -> InstrumentSpec:
        """What is engraved on it."""
        reads = bool(KINDS[InstrumentKind(self.kind)].scales)
        steps = self.kind == InstrumentKind.STEPS.value
        return InstrumentSpec(
            InstrumentKind(self.kind),
            Scale(self.scale) if self.scale else None,
            self.resolution if reads and not steps else None,
            self.compensated,
            self.compensation_low_c,
            self.compensation_high_c,
            tuple(self.steps_c),
        )

    @property
    def water(self) -> float:
        """Where water stands on its scale; 0 where it has none."""
        return FACTS[Scale(self.scale)].water if self.scale else 0.0

    @property
    def core(self) -> CoreInstrument:
        """As it is now, for the ledger; only one with a scale reads a strength."""
        return CoreInstrument(
            str(self.pk),
            self.name,
            Scale(self.scale),
            self.resolution,
            InstrumentKind(self.kind),
            self.compensated,
            self.compensation_low_c,
            self.compensation_high_c,
            tuple(self.steps_c),
            self.bias_percent,
            self.bias_sd,
        )


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


class ReadingImport(models.Model):
    """A file of readings that was imported. id: the client's, so that sending it twice imports it once.

    Undone, its readings count nowhere; they stay in the record as such.
    """

    id = models.UUIDField(primary_key=True, editable=False)
    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="imports")
    person = models.ForeignKey("people.Person", models.PROTECT, related_name="+")
    at = models.DateTimeField()
    file_name = models.CharField(max_length=200)
    lines = models.PositiveIntegerField()
    imported = models.PositiveIntegerField()
    undone_at = models.DateTimeField(null=True)
    undone_by = models.ForeignKey("people.Person", models.PROTECT, null=True, related_name="+")

    class Meta:
        ordering = ["-at"]

    def __str__(self) -> str:
        return self.file_name


class Reading(models.Model):
    """One reading of a record entry, with what it came to then.

    expected_percent: what the record expected before it [% by mass], with its standard deviation. listed: from a list,
    source: the file's import.
    """

    entry = models.OneToOneField("jobs.Entry", models.CASCADE, related_name="reading")
    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="readings")
    loop = models.ForeignKey("fleet.Loop", models.CASCADE, related_name="readings")
    instrument = models.ForeignKey(Instrument, models.PROTECT, null=True, related_name="readings")
    person = models.ForeignKey("people.Person", models.PROTECT, related_name="readings")
    taken_at = models.DateTimeField()
    scale = models.CharField(max_length=20, choices=SCALES, blank=True)
    value = models.FloatField()
    zero = models.FloatField(null=True)
    sample_c = models.FloatField()
    place = models.CharField(max_length=12)
    edge = models.CharField(max_length=12, default="sharp")
    after_hot_run = models.BooleanField(default=False)
    glycol = models.CharField(max_length=12, blank=True, help_text="of the loop when it was read")
    freeze_c = models.FloatField(null=True)
    at_least_c = models.FloatField(null=True)
    glycol_mass_percent = models.FloatField(null=True)
    sd_mass_percent = models.FloatField(null=True)
    expected_percent = models.FloatField(null=True)
    expected_sd = models.FloatField(null=True)
    listed = models.BooleanField(default=False)
    source = models.ForeignKey(ReadingImport, models.PROTECT, null=True, related_name="readings")
    voided = models.BooleanField(default=False)

    class Meta:
        ordering = ["-taken_at"]
        indexes = [
            models.Index(fields=["loop", "-taken_at"]),
            models.Index(fields=["depot", "-taken_at", "-id"]),
            models.Index(fields=["depot", "freeze_c", "id"]),
            models.Index(fields=["instrument", "-taken_at"]),
        ]
