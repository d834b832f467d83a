"""People who sign in, and what they may do."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.core.exceptions import PermissionDenied
from django.db import models

from depots.models import Depot


class Role(models.TextChoices):
    """A technician records; a lead also edits machines, catalogue, people and policy."""

    TECHNICIAN = "technician"
    LEAD = "lead"


class Person(AbstractUser):
    """Somebody of one depot."""

    depot = models.ForeignKey("depots.Depot", models.PROTECT, related_name="people", null=True)
    role = models.CharField(max_length=12, choices=Role.choices, default=Role.TECHNICIAN)

    @property
    def own_depot(self) -> Depot:
        """The depot they belong to; raises PermissionDenied for somebody of none."""
        if self.depot is None:
            raise PermissionDenied("You belong to no depot yet. Ask a lead.")
        return self.depot

    @property
    def name(self) -> str:
        """Full name, or the sign-in name."""
        return self.get_full_name() or self.username

    @property
    def initials(self) -> str:
        """Two letters for the board."""
        words = self.name.split()
        return (words[0][0] + (words[-1][0] if len(words) > 1 else "")).upper()
