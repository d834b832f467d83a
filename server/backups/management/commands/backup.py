"""Back the depot up into one file: the database as SQLite copies it while the server works, and the photos."""

from __future__ import annotations

import sqlite3
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from backups.archive import BackupRefused, drop_old, make_backup


class Command(BaseCommand):
    """A folder, and how many of the newest to keep there; 0 keeps all."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("folder", nargs="?", type=Path, default=settings.BACKUPS)
        said = "photos that are missing are said and stop nothing: what an upgrade changes is in the backup"
        parser.add_argument("--before-upgrade", action="store_true", help=said)
        parser.add_argument("--keep", type=int, default=0, help="remove all but the newest so many of the folder")

    def handle(self, *args: object, **given: Any) -> None:
        """Make it, say what it holds, and what is missing."""
        folder: Path = given["folder"]
        try:
            path, manifest = make_backup(Path(settings.DATA), folder)
            for gone in drop_old(folder, given["keep"]):
                self.stdout.write(f"removed {gone.name}")
        except (BackupRefused, OSError, sqlite3.Error) as error:
            raise CommandError(f"No backup was made. {error}") from None
        size = path.stat().st_size / 1e6
        self.stdout.write(f"{path}: {manifest.entries} entries, {len(manifest.files) - 1} photos, {size:.1f} MB")
        if manifest.missing_photos:
            words = f"{len(manifest.missing_photos)} photos are missing in the depot: they are in no backup."
            if not given["before_upgrade"]:
                raise CommandError(words)
            self.stderr.write(words)  # lost before: no reason to keep a workshop shut
