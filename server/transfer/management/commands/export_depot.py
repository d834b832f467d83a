"""Write the whole depot out: one zip of JSON Lines, CSV with documented columns, and the photos."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from depots.models import Depot
from transfer.out import write_archive


class Command(BaseCommand):
    """A file; without one, a name of its own in this folder."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("file", nargs="?", type=Path)
        parser.add_argument("--depot", default="", help="the depot's name, where there are several")

    def handle(self, *args: object, **given: Any) -> None:
        """Write it; a file that is there already is left alone."""
        found = list((Depot.objects.filter(name=given["depot"]) if given["depot"] else Depot.objects.all())[:2])
        if not found:
            raise CommandError("There is no such depot." if given["depot"] else "There is no depot yet.")
        if len(found) > 1:
            raise CommandError("There are several depots: add --depot with the name of one.")
        path: Path = given["file"] or Path(f"temper-depot-{datetime.now(UTC):%Y%m%dT%H%M%SZ}.zip")
        try:
            manifest = write_archive(found[0], path)
        except FileExistsError:
            raise CommandError(f"{path} exists already: name another file.") from None
        except OSError as error:
            path.unlink(missing_ok=True)
            raise CommandError(f"Nothing was written: {error}") from None
        entries = manifest["files"]["tables/entries.jsonl"]["rows"]
        self.stdout.write(f"{path}: {manifest['depot']}, {entries} entries, {path.stat().st_size / 1e6:.1f} MB")
