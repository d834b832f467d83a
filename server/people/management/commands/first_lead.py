"""A depot and its first lead, on a database that has none: everything else is done from the screen."""

import os
from getpass import getpass
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction

from depots.models import Depot
from people.models import Person, Role


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
        if Depot.objects.exists():
            raise CommandError("There is a depot already. Its lead adds people.")
        try:
            ZoneInfo(str(given["time_zone"]))
        except (ZoneInfoNotFoundError, ValueError):
            raise CommandError(f"'{given['time_zone']}' is no time zone: write one such as Europe/Oslo.") from None
        if not -60 <= float(given["coldest"]) <= 40:
            raise CommandError(f"{given['coldest']} °C is not possible: -60 to 40 °C is allowed.")
        try:
            password = os.environ.get("TEMPER_PASSWORD") or getpass("Password of the first lead: ")
        except EOFError:
            raise CommandError("No password was typed. Type one, or set TEMPER_PASSWORD.") from None
        try:
            validate_password(password)
        except ValidationError as refused:
            raise CommandError(" ".join(refused.messages)) from None
        with transaction.atomic():
            depot = Depot.objects.create(
                name=given["depot"],
                time_zone=given["time_zone"],
                currency=given["currency"],
                altitude_m=given["altitude"],
                coldest_c=given["coldest"],
            )
            first, _, last = str(given["name"]).partition(" ")
            person = Person(username=given["username"], first_name=first, last_name=last, role=Role.LEAD, depot=depot)
            person.set_password(password)
            person.save()
        self.stdout.write(f"{depot} is open; {person.name} may sign in as {person.username}.")
