"""A depot and its first lead, on a database that has none: everything else is done from the screen."""

import os
from getpass import getpass
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from pydantic import ValidationError

from people.first_run import WorkshopIn, is_first_run, open_workshop
from temper_core.basis.errors import CoreError


class Command(BaseCommand):
    """Make a depot and its first lead; the password is asked for, or taken from TEMPER_PASSWORD."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("--depot", required=True, help="the depot's name")
        parser.add_argument("--time-zone", default="UTC", help="such as Europe/Oslo")
        parser.add_argument("--currency", default="EUR")
        parser.add_argument("--coldest", type=float, required=True, help="coldest temperature a machine stands in [°C]")
        parser.add_argument("--altitude", type=float, default=0.0, help="[m]")
        parser.add_argument("--username", required=True)
        parser.add_argument("--name", default="", help="first and last name")

    def handle(self, *args: object, **given: Any) -> None:
        """Check, then make both or neither."""
        if not is_first_run():
            raise CommandError("There is a depot already. Its lead adds people.")
        try:
            password = os.environ.get("TEMPER_PASSWORD") or getpass("Password of the first lead: ")
        except EOFError:
            raise CommandError("No password was typed. Type one, or set TEMPER_PASSWORD.") from None
        workshop = {
            "name": given["depot"],
            "time_zone": given["time_zone"],
            "currency": given["currency"],
            "coldest_c": given["coldest"],
            "altitude_m": given["altitude"],
            "username": given["username"],
            "person": given["name"] or given["username"],
            "password": password,
        }
        try:
            person = open_workshop(WorkshopIn.model_validate(workshop))
        except (CoreError, ValidationError) as refused:
            raise CommandError(str(refused)) from None
        self.stdout.write(f"{person.own_depot} is open; {person.name} may sign in as {person.username}.")
