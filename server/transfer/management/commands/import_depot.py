"""Take a depot's archive into an empty Temper, whole or not at all, and fold every loop again to see that it is the same."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from people.models import Person, Role
from transfer.take_in import ArchiveRefused, take_in


class Command(BaseCommand):
    """An archive."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, **given: Any) -> None:
        """Take it in, and say what comes next: nobody can sign in before a password is set."""
        try:
            taken = take_in(given["file"])
        except (ArchiveRefused, OSError) as error:
            raise CommandError(str(error)) from None
        for said in taken.notes:
            self.stdout.write(f"note: {said}")
        rows = sum(taken.rows.values())
        self.stdout.write(f"{taken.depot}: {rows} rows, {taken.photos} photos; {taken.loops} loops folded, all as they were")
        lead = Person.objects.filter(role=Role.LEAD, is_active=True).first()
        if lead:
            self.stdout.write(f"Nobody has a password yet: ./temper person password {lead.username}")
