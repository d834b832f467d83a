"""Jobs, the ledger of entries, drafts. Entries are only ever added."""

from __future__ import annotations

import json
from collections.abc import Iterable
from datetime import datetime
from typing import Any

from django.conf import settings
from django.db import models
from django.db.models.functions import Cast

from jobs.named import numbers_in, with_names
from jobs.stored import Stored, cores_of_stored, isolator_of, named
from people.models import Person
from temper_core.job.entries import Entry as CoreEntry


class Job(models.Model):
    """One visit of one machine."""

    id = models.UUIDField(primary_key=True, editable=False)
    machine = models.ForeignKey("fleet.Machine", models.PROTECT, related_name="jobs")
    opened_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    opened_at = models.DateTimeField()

    class Meta:
        ordering = ["-opened_at"]

    def __str__(self) -> str:
        return f"{self.machine} {self.opened_at:%Y-%m-%d}"


class JobLoop(models.Model):
    """A loop's part of a job: its own sign-off, with everything stored as it was."""

    job = models.ForeignKey(Job, models.PROTECT, related_name="job_loops")
    loop = models.ForeignKey("fleet.Loop", models.PROTECT, related_name="job_loops")
    signed_at = models.DateTimeField(null=True)
    signed_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, null=True, related_name="+")
    result = models.JSONField(null=True, help_text="state, policy, loop and core version at sign-off")
    handed_on = models.JSONField(null=True, help_text="what it hands on to the loop's next job")

    @property
    def left_at(self) -> datetime:
        """When it was signed off; raises ValueError while it is in work."""
        if self.signed_at is None:
            raise ValueError(f"{self.loop} is still in work")
        return self.signed_at

    @property
    def signer(self) -> Person:
        """Who signed off; raises ValueError while it is in work."""
        if self.signed_by is None:
            raise ValueError(f"{self.loop} is still in work")
        return self.signed_by

    @property
    def stored(self) -> dict[str, Any]:
        """What was stored when it was signed; raises ValueError while it is in work."""
        if self.result is None:
            raise ValueError(f"{self.loop} is still in work")
        kept: dict[str, Any] = self.result
        return kept

    @property
    def named(self) -> dict[str, Any] | None:
        """What was stored, with the names of people as they are called now; None while it is in work."""
        people = numbers_in(self.result)
        if not people:
            kept: dict[str, Any] | None = self.result
            return kept
        names = {row.pk: row.name for row in Person.objects.filter(pk__in=people)}
        found: dict[str, Any] = with_names(self.result, lambda pk: names.get(pk, f"person {pk}"))
        return found

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["job", "loop"], name="loop_once_per_job"),
            models.UniqueConstraint(
                fields=["loop"], condition=models.Q(signed_at__isnull=True), name="one_open_job_per_loop"
            ),
        ]


class Entries(models.QuerySet["Entry"]):
    """Questions to the record."""

    def acting(self) -> Entries:
        """Entries that act on a loop: all but readings imported from a list, of which there may be thousands."""
        return self.exclude(kind="listed")

    def stored(self) -> list[Stored]:
        """Their columns, without an object for each row: a job over weeks has thousands."""
        columns = [name for name in Stored._fields if name not in ("facts", "person")]
        text = self.prefetch_related(None).annotate(text=Cast("facts", models.TextField()))
        rows = list(text.values_list("person_id", *columns, "text"))
        also = {who for row in rows if row[-1] and (who := isolator_of(row[-1])) is not None}
        names = {key: person.name for key, person in Person.objects.in_bulk({row[0] for row in rows} | also).items()}
        return [Stored._make([*row[:-1], named(row[-1], names), names[person_id]]) for person_id, *row in rows]


class Entry(models.Model):
    """One fact about one loop, made by a person. id is the client's, so that sending twice stores once.

    seq: its number in the loop's record, as recorded; sent: hash of what was sent under this id; before: hash of the entry
    before it in the loop's record. Number and hash are given by jobs.chain.append, which is how entries are stored.
    """

    id = models.UUIDField(primary_key=True, editable=False)
    loop = models.ForeignKey("fleet.Loop", models.PROTECT, related_name="entries")
    job = models.ForeignKey(Job, models.PROTECT, null=True, related_name="entries")
    seq = models.PositiveIntegerField()
    kind = models.CharField(max_length=24)
    facts = models.JSONField()
    happened_at = models.DateTimeField()
    recorded_at = models.DateTimeField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="entries")
    sent = models.CharField(max_length=64, blank=True)
    before = models.CharField(max_length=64, blank=True)

    objects = Entries.as_manager()

    class Meta:
        ordering = ["happened_at", "seq"]
        constraints = [models.UniqueConstraint(fields=["loop", "seq"], name="entry_number_once_per_loop")]
        indexes = [
            models.Index(fields=["loop", "happened_at"]),
            models.Index(fields=["loop"], condition=models.Q(job__isnull=True), name="between_services"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.happened_at:%H:%M}"

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store it; a new one goes to the end of its loop's record."""
        if self.seq is not None:
            super().save(*args, **kwargs)
            return
        from jobs.chain import append  # it stores entries: models know nothing of it

        append([self])

    @property
    def stored(self) -> Stored:
        """Its columns, as a ledger of thousands is read."""
        facts = json.dumps(self.facts)
        who = isolator_of(facts)
        if who is not None:
            facts = named(facts, {row.pk: row.name for row in Person.objects.filter(pk=who)})
        return Stored(
            self.id,
            self.job_id,
            self.happened_at,
            self.recorded_at,
            self.person_id,
            self.seq,
            self.kind,
            facts,
            self.person.name,
        )

    @property
    def core(self) -> CoreEntry:
        """As the core knows it."""
        return self.stored.core


def cores_of(entries: Iterable[Entry] | Entries, taking_back: str = "") -> list[CoreEntry]:
    """Entries as the core knows them; see cores_of_stored."""
    rows = entries.stored() if isinstance(entries, Entries) else [row.stored for row in entries]
    return cores_of_stored(rows, taking_back)


class LedgerHead(models.Model):
    """Number and hash of the last entry of a loop's record."""

    loop = models.OneToOneField("fleet.Loop", models.PROTECT, primary_key=True, related_name="ledger_head")
    seq = models.PositiveIntegerField()
    hash = models.CharField(max_length=64, blank=True)

    def __str__(self) -> str:
        return f"{self.loop_id}: {self.seq} {self.hash[:8]}"


class Rechained(models.Model):
    """A migration touched facts: why, how many loops' records were chained again, and the heads they had before."""

    at = models.DateTimeField(auto_now_add=True)
    reason = models.CharField(max_length=200)
    loops = models.PositiveIntegerField()
    heads = models.JSONField(help_text="loop -> number and hash of its last entry, before")

    def __str__(self) -> str:
        return self.reason


class Rejudged(models.Model):
    """A signed job that today's rules judge worse. The signed record stays; a lead answers what is done about it."""

    part = models.ForeignKey(JobLoop, models.CASCADE, related_name="rejudged")
    code = models.CharField(max_length=24)
    said = models.JSONField(help_text="what is worse, and why")
    act = models.JSONField(help_text="what to do next")
    found_at = models.DateTimeField(auto_now_add=True)
    answer = models.CharField(max_length=300, blank=True)
    answered_at = models.DateTimeField(null=True)
    answered_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["part", "code"], name="judged_again_once")]

    def __str__(self) -> str:
        return f"{self.part_id} {self.code}"


class Appointment(models.Model):
    """When something that comes due is done, and by whom, as a lead planned it; of what came due since, nothing.

    key: as the plan names it. day None: the day it is due; person None: nobody's.
    """

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="appointments")
    key = models.CharField(max_length=60)
    day = models.DateField(null=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, null=True, related_name="appointments")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["depot", "key"], name="planned_once")]

    def __str__(self) -> str:
        return f"{self.key} {self.day}"


class Photo(models.Model):
    """A picture that an entry added, of an earlier entry; its file is named by its hash."""

    entry = models.OneToOneField(Entry, models.PROTECT, related_name="photo")
    loop = models.ForeignKey("fleet.Loop", models.PROTECT, related_name="photos")
    sha256 = models.CharField(max_length=64, db_index=True)

    def __str__(self) -> str:
        return self.sha256[:12]


class Draft(models.Model):
    """Typed, not yet recorded: kept per person, loop and stage."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="drafts")
    loop = models.ForeignKey("fleet.Loop", models.CASCADE, related_name="drafts")
    stage = models.CharField(max_length=24)
    data = models.JSONField()
    updated_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "loop", "stage"], name="one_draft_per_stage")]
