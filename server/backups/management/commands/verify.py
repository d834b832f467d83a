"""Look whether the records are what was recorded: the database, every loop's chain and fold, every photo."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from dataclasses import asdict
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from backups.archive import BackupRefused, Manifest, damage_in, open_backup, unpack
from backups.restore import check_not_newer
from backups.verify import against, verify, write_down


class Command(BaseCommand):
    """The depot that Temper works in, or a backup, unpacked for the look into a folder that goes again."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("file", nargs="?", type=Path, help="a backup; without it the depot itself")
        parser.add_argument("--json", action="store_true", help="say it as JSON")
        parser.add_argument("--against", type=Path, help="a backup whose records must all still be here as they were")

    def handle(self, *args: object, **given: Any) -> None:
        """Say what was found; refused where anything is wrong."""
        if given["file"]:
            self._backup(given["file"], given["json"])
            return
        report = verify()
        if given["against"]:
            report.problems += against(self._opened(given["against"])[1])
        write_down(report)
        if given["json"]:
            self.stdout.write(json.dumps(asdict(report)))
        else:
            for said in report.notes:
                self.stdout.write(f"note: {said}")
            for said in report.problems:
                self.stdout.write(f"wrong: {said}")
            self.stdout.write(f"looked at {report.loops} loops, {report.entries} entries, {report.photos} photos")
        if not report.ok:
            raise CommandError(f"{len(report.problems)} problems.")

    def _opened(self, path: Path) -> tuple[Any, Manifest]:
        try:
            return open_backup(path)
        except BackupRefused as refused:
            raise CommandError(str(refused)) from None

    def _backup(self, path: Path, as_json: bool) -> None:
        archive, manifest = self._opened(path)
        with archive, tempfile.TemporaryDirectory(prefix="temper-verify-") as folder:
            try:
                check_not_newer(manifest)
                damage = list(damage_in(archive, manifest))
                if damage:
                    raise BackupRefused(f"{path} is damaged: {'; '.join(damage[:10])}.")
                unpack(archive, manifest, Path(folder))
            except BackupRefused as refused:
                raise CommandError(str(refused)) from None
            env = {**os.environ, "TEMPER_DATA": folder}
            for words in (["migrate", "-v", "0"], ["verify", *(["--json"] if as_json else [])]):
                found = subprocess.run([sys.executable, sys.argv[0], *words], env=env, check=False)
                if found.returncode:
                    raise CommandError(f"{path}: not in order, see above.")
