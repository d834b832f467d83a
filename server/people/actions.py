"""Writes about people; each in one transaction, every one of them audited. actor None: on the command line."""

from __future__ import annotations

import logging
import re
import secrets
from datetime import date, datetime, timedelta
from importlib import import_module

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import DatabaseError, transaction
from django.utils import timezone

from depots.models import Depot
from people.models import Person, PersonChange, Role, SignedIn
from temper_core.basis.errors import Conflict, CoreError

log = logging.getLogger(__name__)
What = PersonChange.What
USERNAME = re.compile(r"[a-z0-9][a-z0-9._-]{1,29}")
LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"  # none that is taken for another
LONGEST_PERMISSION = timedelta(days=5 * 366)  # own default: whoever sets it says when their certificate ends
SEEN_EVERY = timedelta(minutes=5)


def new_password() -> str:
    """A password for one sign-in: four groups of four, to be read out and typed."""
    return "-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(4))


def add_person(
    depot: Depot, username: str, name: str, role: Role, *, actor: Person | None, password: str | None = None
) -> tuple[Person, str]:
    """Somebody new, and the password for the first sign-in; raises CoreError or Conflict."""
    username = username.strip().lower()
    if not USERNAME.fullmatch(username):
        words = f"'{username}' cannot be a sign-in name. Use 2 to 30 small letters, digits, dots or hyphens."
        raise CoreError("username", words, "username")
    first, last = names_of(name)
    given = password or new_password()
    with transaction.atomic():
        if Person.objects.filter(username__iexact=username).exists():
            raise Conflict("username", f"'{username}' is taken. Choose another sign-in name.", "taken")
        person = Person(username=username, first_name=first, last_name=last, role=role, depot=depot)
        person.must_change = not password
        person.set_password(given)
        person.save()
        note(person, What.ADDED, actor, f"{role.value}")
    return person, given


def names_of(name: str) -> tuple[str, str]:
    """First and last name of a name as shown; raises CoreError for none, or one too long."""
    words = " ".join(name.split())
    if not 2 <= len(words) <= 80:
        raise CoreError("name", "The name must have 2 to 80 letters. Enter first and last name.", "name")
    first, _, last = words.partition(" ")
    return first, last


def edit_person(
    person: Person, name: str, role: Role, active: bool, *, actor: Person | None, may_isolate_until: date | None
) -> Person:
    """Name, role, whether they may sign in, the last day on which they may isolate high voltage (None: they may not).

    Raises CoreError, or Conflict where no lead would be left.
    """
    if may_isolate_until is not None and may_isolate_until != person.may_isolate_until:
        _check_isolates_until(may_isolate_until, person)
    first, last = names_of(name)
    with transaction.atomic():
        fresh = Person.objects.select_for_update().get(pk=person.pk)
        was_lead = fresh.role == Role.LEAD and fresh.is_active
        if was_lead and not (role is Role.LEAD and active):
            _check_another_lead(fresh)
        if (fresh.first_name, fresh.last_name) != (first, last):
            note(fresh, What.RENAMED, actor, f"{fresh.name} to {first} {last}".strip()[:200])
        if fresh.role != role:
            note(fresh, What.ROLE, actor, f"{fresh.role} to {role.value}")
        if fresh.is_active != active:
            note(fresh, What.ENABLED if active else What.DISABLED, actor)
        if fresh.may_isolate_until != may_isolate_until:
            note(fresh, What.ISOLATES, actor, f"until {may_isolate_until}" if may_isolate_until else "no more")
        fresh.first_name, fresh.last_name, fresh.role, fresh.is_active = first, last, role, active
        fresh.may_isolate_until = may_isolate_until
        fresh.save(update_fields=["first_name", "last_name", "role", "is_active", "may_isolate_until"])
        if not active:
            _drop_sessions(fresh, keep="")
    return fresh


def _check_isolates_until(day: date, person: Person) -> None:
    """A permission ends: the certificate behind it does; raises CoreError."""
    today = person.own_depot.now.date()
    if not today <= day <= today + LONGEST_PERMISSION:
        last = (today + LONGEST_PERMISSION).isoformat()
        message = f"{day.isoformat()} is no end of a permission. Enter a day from today to {last}: the certificate's end."
        raise CoreError("may_isolate_until", message, "out_of_range")


def _check_another_lead(person: Person) -> None:
    others = Person.objects.filter(depot=person.depot_id, role=Role.LEAD, is_active=True).exclude(pk=person.pk)
    if not others.exists():
        words = f"{person.name} is the only lead. Make another person lead first."
        raise Conflict("role", words, "last_lead")


def reset_password(person: Person, *, actor: Person | None, password: str | None = None) -> str:
    """A password for the next sign-in, that must then be changed; signs them out everywhere."""
    given = password or new_password()
    with transaction.atomic():
        person.set_password(given)
        person.must_change = True
        person.save(update_fields=["password", "must_change"])
        _drop_sessions(person, keep="")
        note(person, What.PASSWORD_RESET, actor)
    return given


def change_password(person: Person, old: str, new: str, *, keep: str) -> None:
    """Somebody's own password; all their other devices are signed out. keep: the session that stays. Raises CoreError."""
    if not person.check_password(old):
        raise CoreError("old", "The present password is wrong. Type it again.", "wrong_password")
    if old == new:
        raise CoreError("new", "The new password is the present one. Choose another.", "same_password")
    try:
        validate_password(new, person)
    except ValidationError as refused:
        raise CoreError("new", " ".join(refused.messages), "weak_password") from None
    with transaction.atomic():
        person.set_password(new)
        person.must_change = False
        person.save(update_fields=["password", "must_change"])
        _drop_sessions(person, keep=keep)
        note(person, What.PASSWORD_CHANGED, person)


def sign_out(person: Person, *, actor: Person | None, keep: str = "", device_id: int | None = None) -> int:
    """Sign somebody out: everywhere but on the session to keep, or on one device; how many that were."""
    with transaction.atomic():
        many = _drop_sessions(person, keep, device_id)
        if many:
            note(person, What.SIGNED_OUT, actor, f"{many} device" + ("" if many == 1 else "s"))
    return many


def _drop_sessions(person: Person, keep: str, device_id: int | None = None) -> int:
    store = import_module(settings.SESSION_ENGINE).SessionStore
    rows = SignedIn.objects.filter(person=person).exclude(session_key=keep)
    if device_id is not None:
        rows = rows.filter(pk=device_id)
    keys = list(rows.values_list("session_key", flat=True))
    for key in keys:
        store(key).delete()
    rows.delete()
    return len(keys)


def note(person: Person, what: PersonChange.What, actor: Person | None, detail: str = "") -> None:
    if person.depot is not None:
        PersonChange.objects.create(depot=person.depot, person=person, by=actor, what=what, detail=detail)


_seen: dict[str, datetime] = {}  # when each session was last written down


def note_device(person: Person, session_key: str, agent: str, address: str | None) -> None:
    """Write down that somebody is here with this session; at most every few minutes."""
    now = timezone.now()
    last = _seen.get(session_key)
    if last is not None and now - last < SEEN_EVERY:
        return
    if len(_seen) > 5000:
        _seen.clear()
    _seen[session_key] = now
    row = {"person": person, "device": device_words(agent), "address": address, "seen_at": now}
    try:
        with transaction.atomic():
            SignedIn.objects.update_or_create(session_key=session_key, defaults=row)
            SignedIn.objects.filter(person=person, seen_at__lt=now - timedelta(seconds=settings.SESSION_COOKIE_AGE)).delete()
    except DatabaseError:  # nobody is kept from reading because a note about it cannot be written
        log.warning("It could not be written down that %s is here.", person.username)


SYSTEMS = (("Android", "Android"), ("iPhone", "iPhone"), ("iPad", "iPad"), ("Windows", "Windows"), ("Mac OS", "Mac"))
BROWSERS = (("Firefox/", "Firefox"), ("Edg/", "Edge"), ("Chrome/", "Chrome"), ("Safari/", "Safari"))


def device_words(agent: str) -> str:
    """A device as its owner would call it, from what its browser says of itself.

    >>> device_words("Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Chrome/126.0 Safari/537.36")
    'Chrome on Android'
    >>> device_words("curl/8.5")
    'curl/8.5'
    """
    browser = next((name for part, name in BROWSERS if part in agent), "")
    system = next((name for part, name in SYSTEMS if part in agent), "Linux" if "Linux" in agent else "")
    if not browser:
        return agent[:120]
    return f"{browser} on {system}" if system else browser
