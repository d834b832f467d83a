"""People on the command line: list, add, role, disable, enable, password, sign-out. Everything is audited."""

from __future__ import annotations

import os
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from depots.models import Depot
from people import actions
from people.models import Person, Role
from temper_core.basis.errors import CoreError


class Command(BaseCommand):
    """The same as the page of people, for whoever runs the server; a password is taken from TEMPER_PASSWORD, or made."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Command line."""
        parser.add_argument("--depot", default="", help="the depot's name, where there are several")
        acts = parser.add_subparsers(dest="act", required=True)
        acts.add_parser("list", help="everybody of the depot")
        adding = acts.add_parser("add", help="add somebody; says the password for the first sign-in")
        adding.add_argument("username")
        adding.add_argument("name", help="first and last name, in quotes")
        adding.add_argument("--lead", action="store_true", help="a lead; without it a technician")
        role = acts.add_parser("role", help="make somebody technician or lead")
        role.add_argument("username")
        role.add_argument("role", choices=[row.value for row in Role])
        for name, does in (
            ("disable", "they may not sign in any more"),
            ("enable", "they may sign in again"),
            ("password", "set a password for one sign-in"),
            ("sign-out", "sign them out on all devices"),
        ):
            acts.add_parser(name, help=does).add_argument("username")

    def handle(self, *args: object, **given: Any) -> None:
        """Do it, or say what is wrong."""
        depot = self._depot(str(given["depot"]))
        try:
            self._act(depot, given)
        except CoreError as refused:
            raise CommandError(refused.message) from None

    def _depot(self, name: str) -> Depot:
        rows = Depot.objects.filter(name=name) if name else Depot.objects.all()
        found = list(rows[:2])
        if not found:
            raise CommandError(f"There is no depot called '{name}'." if name else "There is no depot yet: run first-lead.")
        if len(found) > 1:
            raise CommandError("There are several depots: add --depot with the name of one.")
        return found[0]

    def _act(self, depot: Depot, given: dict[str, Any]) -> None:
        act = given["act"]
        if act == "list":
            for row in depot.people.order_by("username"):
                note = "" if row.is_active else ", disabled"
                self.stdout.write(f"{row.username:20} {row.name:30} {row.role}{note}")
            return
        own = os.environ.get("TEMPER_PASSWORD")
        if act == "add":
            role = Role.LEAD if given["lead"] else Role.TECHNICIAN
            person, password = actions.add_person(depot, given["username"], given["name"], role, actor=None, password=own)
            self._say_password(person, "" if own else password)
            return
        one = depot.people.filter(username__iexact=given["username"]).first()
        if one is None:
            raise CommandError(f"Nobody here signs in as '{given['username']}'. See them with: person list.")
        if act == "password":
            password = actions.reset_password(one, actor=None, password=own)
            self._say_password(one, "" if own else password)
        elif act == "sign-out":
            many = actions.sign_out(one, actor=None)
            self.stdout.write(f"{one.name}: signed out on {many} {'device' if many == 1 else 'devices'}.")
        else:
            role = Role(given["role"]) if act == "role" else Role(one.role)
            active = {"disable": False, "enable": True}.get(act, one.is_active)
            one = actions.edit_person(one, one.name, role, active, actor=None, may_isolate_until=one.may_isolate_until)
            self.stdout.write(f"{one.name}: {one.role}{'' if one.is_active else ', disabled'}.")

    def _say_password(self, person: Person, password: str) -> None:
        self.stdout.write(f"{person.name} may sign in as {person.username}.")
        if password:
            self.stdout.write(f"Password for the first sign-in: {password}")
