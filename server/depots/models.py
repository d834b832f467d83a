"""A depot: where the machines stand, its clock, its climate and its policy."""

from django.db import models

from temper_core.policy import Policy


class Depot(models.Model):
    """One workshop and its fleet."""

    name = models.CharField(max_length=80)
    time_zone = models.CharField(max_length=40, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    altitude_m = models.FloatField(default=0)
    coldest_c = models.FloatField(help_text="coldest temperature a machine stands in here [degC]")
    policy_overrides = models.JSONField(default=dict, blank=True)

    def __str__(self) -> str:
        return self.name

    @property
    def policy(self) -> Policy:
        """Shipped rules with this depot's values over them."""
        return Policy(self.policy_overrides)
