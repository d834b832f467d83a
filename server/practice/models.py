"""Lessons of a depot, runs of them, what a lead asks for; and, in a run's own database, what hands did in it."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from temper_core.practice.lesson import Lesson, lesson_of


class OwnLesson(models.Model):
    """A lesson that a lead added, in the form of docs/lessons.md."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="lessons")
    key = models.CharField(max_length=60)
    text = models.TextField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at"]
        constraints = [models.UniqueConstraint(fields=["depot", "key"], name="lesson_once_per_depot")]

    def __str__(self) -> str:
        return self.key

    @property
    def core(self) -> Lesson:
        """As the core knows it."""
        return lesson_of(self.text)


class Run(models.Model):
    """One person's run of a lesson, or of free practice. id is the client's.

    text: the lesson as it was then; free: layout and capacity of free practice. clock_at: the run's own clock, at seen_at.
    """

    id = models.UUIDField(primary_key=True, editable=False)
    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="practice_runs")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="practice_runs")
    lesson = models.CharField(max_length=60)
    name = models.CharField(max_length=80)
    text = models.TextField(blank=True)
    free = models.JSONField(null=True)
    seed = models.PositiveIntegerField()
    started_at = models.DateTimeField()
    clock_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    reached = models.BooleanField(null=True)
    unsafe = models.PositiveIntegerField(default=0)
    result = models.JSONField(null=True, help_text="the truth beside the record, as it was shown")

    class Meta:
        ordering = ["-started_at"]

    def __str__(self) -> str:
        return f"{self.person} {self.lesson}"


class AskedLesson(models.Model):
    """Which lesson a lead asks for before which work."""

    depot = models.ForeignKey("depots.Depot", models.CASCADE, related_name="asked_lessons")
    work = models.CharField(max_length=20)
    lesson = models.CharField(max_length=60)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["depot", "work"], name="lesson_asked_once_per_work")]

    def __str__(self) -> str:
        return f"{self.work}: {self.lesson}"


class Offered(models.Model):
    """Somebody was offered their first lesson: they are not asked again."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="lesson_offered")
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return str(self.person)


class Did(models.Model):
    """What a hand did, in a run's own database. at_min: minutes since the machine came in; id is the client's."""

    id = models.UUIDField(primary_key=True, editable=False)
    number = models.PositiveIntegerField(unique=True)
    at_min = models.FloatField()
    act = models.JSONField()

    class Meta:
        ordering = ["number"]

    def __str__(self) -> str:
        return f"{self.at_min:.0f} {self.act}"
