"""A depot: where the machines stand, its clock, its climate and its policy."""

from datetime import date, datetime
from zoneinfo import ZoneInfo

from django.db import models

from config import clock
from temper_core.basis.policy import Policy
from temper_core.job.parking.state import night_of


class Units(models.TextChoices):
    """What a device shows until somebody chooses otherwise on it."""

    METRIC = "metric"
    US = "us"
    IMPERIAL = "imperial"


class Depot(models.Model):
    """One workshop and its fleet."""

    name = models.CharField(max_length=80)
    time_zone = models.CharField(max_length=40, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    altitude_m = models.FloatField(default=0)
    coldest_c = models.FloatField(help_text="coldest temperature a machine stands in here [degC]")
    policy_overrides = models.JSONField(default=dict, blank=True)
    units = models.CharField(max_length=8, choices=Units.choices, default=Units.METRIC)
    put_away_at = models.DateTimeField(null=True, blank=True, help_text="when a lead put Getting started away")

    def __str__(self) -> str:
        return self.name

    @property
    def now(self) -> datetime:
        """The depot's own clock: what is due is due by its calendar."""
        return clock.now().astimezone(ZoneInfo(self.time_zone))

    @property
    def night(self) -> date:
        """The night that is coming or not yet over, by the day it begins on."""
        return night_of(self.now)

    @property
    def policy(self) -> Policy:
        """Shipped rules with this depot's values over them."""
        return Policy(self.policy_overrides)


class NightLow(models.Model):
    """The lowest temperature of a night [degC], by the day it begins on: entered by a lead, or as forecast (person None).

    Only ever added to: the last of a night and of its kind counts.
    """

    depot = models.ForeignKey(Depot, models.CASCADE, related_name="night_lows")
    night = models.DateField()
    low_c = models.FloatField(null=True, help_text="null: the entered low was undone")
    person = models.ForeignKey("people.Person", models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["depot", "night"])]

    def __str__(self) -> str:
        return f"{self.night} {self.low_c}"


class WallLink(models.Model):
    """The address of a board on a wall, readable by whoever has it until a lead revokes it; of its token only a hash."""

    depot = models.ForeignKey(Depot, models.CASCADE, related_name="wall_links")
    name = models.CharField(max_length=60)
    token_sha256 = models.CharField(max_length=64, unique=True)
    person = models.ForeignKey("people.Person", models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    revoked_at = models.DateTimeField(null=True)
    revoked_by = models.ForeignKey("people.Person", models.PROTECT, null=True, related_name="+")

    class Meta:
        ordering = ["-made_at"]

    def __str__(self) -> str:
        return self.name


class PolicyChange(models.Model):
    """Who set a rule to what, when and why; value None went back to the shipped one. Only ever added to."""

    depot = models.ForeignKey(Depot, models.CASCADE, related_name="policy_changes")
    key = models.CharField(max_length=40)
    value = models.FloatField(null=True)
    reason = models.CharField(max_length=200)
    person = models.ForeignKey("people.Person", models.PROTECT, related_name="policy_changes")
    changed_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-changed_at", "-id"]

    def __str__(self) -> str:
        return f"{self.key} {self.value}"
