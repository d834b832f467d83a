"""The practice bench: lessons, runs, and what a lead asks for before some work."""

from django.apps import AppConfig


class PracticeConfig(AppConfig):
    """Tells the doors of jobs that a lesson may be asked for first."""

    name = "practice"

    def ready(self) -> None:
        """Registered once the models are there."""
        from jobs import doors
        from practice.asked import check_lesson

        doors.BEFORE.append(check_lesson)
