"""Put a backup back, into a folder that has no depot, or with the one that is there set aside."""

from __future__ import annotations

import sqlite3
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from backups.archive import BackupRefused
from backups.restore import restore


class Command(BaseCommand):
    """A backup, and the folder: the one that Temper works in unless another is named."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--into", type=Path, default=Path(settings.DATA))
        parser.add_argument("--aside", action="store_true", help="set the depot that is there aside, in a folder beside it")

    def handle(self, *args: object, **given: Any) -> None:
        """Do it, or say why not; nothing that is there is written over."""
        try:
            manifest, set_aside, again = restore(given["file"], given["into"], given["aside"])
        except (BackupRefused, OSError, sqlite3.Error) as error:
            raise CommandError(str(error)) from None
        if again:
            self.stdout.write(f"owners that were erased on request since, erased again: {again}")
        if set_aside:
            self.stdout.write(f"the depot that was there lies in {set_aside}")
        self.stdout.write(
            f"restored into {given['into']}: {manifest.entries} entries, {manifest.photos} photos, "
            f"as of {manifest.made_at}. Everybody signs in again; tokens, links and accounts are as they were then: "
            "revoke and disable again what was since."
        )
