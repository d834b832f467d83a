"""People who sign in, and what they may do."""

from __future__ import annotations

from datetime import date, datetime

from django.contrib.auth.models import AbstractUser
from django.core.exceptions import PermissionDenied
from django.db import models
from knox.models import AbstractAuthToken

from depots.models import Depot


class Role(models.TextChoices):
    """A technician records; a lead also edits machines, products, rules and people."""

    TECHNICIAN = "technician"
    LEAD = "lead"


class Person(AbstractUser):  # type: ignore[django-manager-missing]
    """Somebody of one depot."""

    depot = models.ForeignKey("depots.Depot", models.PROTECT, related_name="people", null=True)
    role = models.CharField(max_length=12, choices=Role.choices, default=Role.TECHNICIAN)
    must_change = models.BooleanField(default=False, help_text="the password was set by somebody else")

    may_isolate_until = models.DateField(null=True, blank=True, help_text="high voltage; the last day, set by a lead")

    @property
    def isolates_until(self) -> date | None:
        """The last day on which they may isolate high voltage; None for somebody who may not, or may not sign in."""
        return self.may_isolate_until if self.is_active else None

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


class SignedIn(models.Model):
    """One device that somebody signed in on, by its session. seen_at: within a few minutes."""

    person = models.ForeignKey(Person, models.CASCADE, related_name="devices")
    session_key = models.CharField(max_length=40, unique=True)
    device = models.CharField(max_length=120, blank=True)
    address = models.GenericIPAddressField(null=True)
    started_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField()

    class Meta:
        ordering = ["-seen_at"]

    def __str__(self) -> str:
        return f"{self.person} {self.device}"


class ApiToken(AbstractAuthToken):  # type: ignore[misc]
    """What a program signs in with in somebody's name; only its hash is kept. A revoked one is gone, the log has it."""

    name: models.CharField[str, str] = models.CharField(max_length=60, help_text="which program it is for")
    reads_only: models.BooleanField[bool, bool] = models.BooleanField(default=True)
    used_at: models.DateTimeField[datetime | None, datetime | None] = models.DateTimeField(
        null=True, help_text="last, within a few minutes"
    )

    class Meta:
        ordering = ["-created"]


class PersonChange(models.Model):
    """What was done to an account, by whom (None: on the command line), when. Only ever added to."""

    class What(models.TextChoices):
        """What it was."""

        ADDED = "added"
        RENAMED = "renamed"
        ROLE = "role"
        DISABLED = "disabled"
        ENABLED = "enabled"
        PASSWORD_RESET = "password_reset"
        PASSWORD_CHANGED = "password_changed"
        SIGNED_OUT = "signed_out"
        TOKEN_MADE = "token_made"
        ISOLATES = "isolates"
        TOKEN_REVOKED = "token_revoked"

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="person_changes")
    person = models.ForeignKey(Person, models.PROTECT, related_name="changes")
    by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    what = models.CharField(max_length=20, choices=What.choices)
    detail = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-at", "-id"]

    def __str__(self) -> str:
        return f"{self.person} {self.what}"


class FirstRunCode(models.Model):
    """What opens a workshop in the browser, as the terminal said it; of the code only a hash. Good once, for an hour."""

    sha256 = models.CharField(max_length=64)
    made_at = models.DateTimeField(auto_now_add=True)
    misses = models.PositiveSmallIntegerField(default=0)

    class Meta:
        ordering = ["-made_at", "-id"]

    def __str__(self) -> str:
        return f"{self.made_at:%Y-%m-%d %H:%M}"
