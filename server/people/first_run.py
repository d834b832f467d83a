"""Opening a workshop: its depot and its first lead, on a database without one; in the browser by a code of the terminal."""

from __future__ import annotations

import hashlib
import re
import secrets
from datetime import timedelta
from zoneinfo import ZoneInfo, available_timezones

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone
from pydantic import Field

from config.shapes import Body, Number
from depots.models import Depot, Units
from people.actions import LETTERS, USERNAME, names_of
from people.models import FirstRunCode, Person, Role
from temper_core.basis.errors import Conflict, CoreError, check_between

GOOD_FOR = timedelta(hours=1)
MOST_MISSES = 5
ANOTHER_CODE = "Make another in the terminal: ./temper first-run-code"
OPEN_ALREADY = "This workshop is open already. Sign in, or ask its lead to add you."


class WorkshopIn(Body):
    """A workshop as it opens: where, how cold [degC], how high [m], and who leads it first."""

    name: str = Field(max_length=80)
    time_zone: str = Field(max_length=40)
    currency: str = Field(max_length=3)
    units: Units = Units.METRIC
    coldest_c: Number
    altitude_m: Number = 0.0
    username: str = Field(max_length=40)
    person: str = Field(max_length=120)
    password: str = Field(max_length=200)


class FirstRunIn(WorkshopIn):
    """The same, with the code that the terminal shows."""

    code: str = Field(max_length=40)


def is_first_run() -> bool:
    """Whether there is no depot yet."""
    return not Depot.objects.exists()


def new_code() -> str:
    """A code that opens the workshop, in two groups of four; those of before end. Raises Conflict where it is open."""
    with transaction.atomic():
        if not is_first_run():
            raise Conflict("code", OPEN_ALREADY, "open")
        FirstRunCode.objects.all().delete()
        code = "".join(secrets.choice(LETTERS) for _ in range(8))
        FirstRunCode.objects.create(sha256=_hash(code))
    return f"{code[:4]}-{code[4:]}"


def _hash(code: str) -> str:
    return hashlib.sha256(re.sub(r"[\s-]", "", code).lower().encode()).hexdigest()


def open_by_code(given: FirstRunIn) -> Person:
    """Open the workshop; its first lead. Raises CoreError for a wrong or old code, or what cannot be; Conflict if open."""
    wrong = _wrong_code(given.code)
    if wrong is not None:  # the miss is counted whatever else is asked
        raise wrong
    with transaction.atomic():
        person = open_workshop(given)
        FirstRunCode.objects.all().delete()
    return person


def _wrong_code(code: str) -> CoreError | None:
    with transaction.atomic():
        if not is_first_run():
            return Conflict("code", OPEN_ALREADY, "open")
        known = FirstRunCode.objects.select_for_update().first()
        if known is None or known.misses >= MOST_MISSES or timezone.now() - known.made_at > GOOD_FOR:
            return CoreError("code", f"The code is not good any more. {ANOTHER_CODE}", "code_ended")
        if secrets.compare_digest(known.sha256, _hash(code)):
            return None
        known.misses += 1
        known.save(update_fields=["misses"])
        left = MOST_MISSES - known.misses
        if left == 0:
            return CoreError("code", f"Five wrong codes: it is not good any more. {ANOTHER_CODE}", "code_ended")
        tries = f"{left} more {'try' if left == 1 else 'tries'}"
        return CoreError("code", f"That is not the code in the terminal: {tries}. It has eight letters and digits.", "code")


def open_workshop(given: WorkshopIn) -> Person:
    """The depot and its first lead, both or neither. Raises CoreError for what cannot be, Conflict where one is there."""
    name, username = " ".join(given.name.split()), given.username.strip().lower()
    if not name:
        raise CoreError("name", "The name of the workshop is empty. Enter it.", "required")
    if given.time_zone not in available_timezones():
        words = f"'{given.time_zone}' is no time zone. Choose one such as Europe/Oslo."
        raise CoreError("time_zone", words, "time_zone")
    if not re.fullmatch(r"[A-Z]{3}", given.currency):
        raise CoreError("currency", f"'{given.currency}' is no currency. Enter its three letters, such as EUR.", "currency")
    check_between("coldest_c", given.coldest_c, -60, 40, "°C", "The coldest that a machine has to stand.")
    check_between("altitude_m", given.altitude_m, -450, 6000, "m", "Height of the workshop above the sea.")
    first, last = names_of_field(given.person)
    if not USERNAME.fullmatch(username):
        words = f"'{username}' cannot be a sign-in name. Use 2 to 30 small letters, digits, dots or hyphens."
        raise CoreError("username", words, "username")
    person = Person(username=username, first_name=first, last_name=last, role=Role.LEAD)
    try:
        validate_password(given.password, person)
    except ValidationError as refused:
        raise CoreError("password", " ".join(refused.messages), "weak_password") from None
    with transaction.atomic():
        if not is_first_run():
            raise Conflict("name", OPEN_ALREADY, "open")
        person.depot = Depot.objects.create(
            name=name,
            time_zone=ZoneInfo(given.time_zone).key,
            currency=given.currency,
            units=given.units,
            altitude_m=given.altitude_m,
            coldest_c=given.coldest_c,
        )
        person.set_password(given.password)
        person.save()
    return person


def names_of_field(name: str) -> tuple[str, str]:
    """First and last name; refuses them under the field they were typed in."""
    try:
        return names_of(name)
    except CoreError as refused:
        raise CoreError("person", str(refused), "name") from None
