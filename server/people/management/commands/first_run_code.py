"""A code for opening a workshop in the browser: good for an hour and one use. Those made before end."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from people.first_run import is_first_run, new_code
from temper_core.basis.errors import Conflict


class Command(BaseCommand):
    """Say a new code."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("--where-none", action="store_true", help="say nothing where a workshop is open already")

    def handle(self, *args: object, **given: Any) -> None:
        """The code, for the terminal alone."""
        if given["where_none"] and not is_first_run():
            return
        try:
            code = new_code()
        except Conflict as open_already:
            raise CommandError(str(open_already)) from None
        self.stdout.write(f"\n  Open this workshop in the browser with the code  {code}  (good for an hour, once)\n")
