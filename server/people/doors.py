"""How often a password may be tried: by name and address, by address, by name; without a stranger locking a known name out.

Somebody who signed in on a device before is known there by a cookie: tries on it are counted for it alone. Whoever tries
from elsewhere, under one name or many, is held up by what was tried from elsewhere. Common practice (device cookies), from
memory.
"""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import NamedTuple

from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import authenticate
from django.contrib.auth.backends import ModelBackend
from django.core import signing
from django.core.cache import cache
from django.db.models import Sum
from django.http import HttpRequest
from django.utils import timezone
from rest_framework.response import Response

from people.models import Person

COOKIE, SALT = "temper_device", "people.doors"
REMEMBERED_S = 400 * 24 * 3600  # as long as browsers keep a cookie
MOST_NAMES = 12  # on one shared tablet
BY_DEVICE, BY_ADDRESS, BY_NAME = 8, 40, 24  # wrong passwords until the wait


class Device(NamedTuple):
    """A browser that somebody signed in on: its own key, and who."""

    key: str
    names: list[str]


def device_of(request: HttpRequest) -> Device | None:
    """What its cookie says; None for one that is not ours, or too old."""
    try:
        key, names = signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=REMEMBERED_S)
    except (signing.BadSignature, ValueError, TypeError):
        return None
    return Device(str(key), [str(name) for name in names])


def remember(response: Response, request: HttpRequest, username: str) -> None:
    """This person is known on this device from now on."""
    device = device_of(request) or Device(secrets.token_urlsafe(12), [])
    names = [username, *(name for name in device.names if name != username)][:MOST_NAMES]
    response.set_cookie(
        COOKIE,
        signing.dumps([device.key, names], salt=SALT),
        max_age=REMEMBERED_S,
        httponly=True,
        samesite="Lax",
        secure=settings.SESSION_COOKIE_SECURE,
    )


class TriedTooOften(Exception):
    """Whoever tries has to wait. here: it was tried on this device or at this address; else it was the name."""

    def __init__(self, here: bool) -> None:
        super().__init__("tried too often")
        self.here = here


def wait_s() -> int:
    """How long, in seconds."""
    return int(settings.AXES_COOLOFF_TIME * 3600)


def who_is_it(request: HttpRequest, username: str, password: str) -> Person | None:
    """The person, where the password is right; raises TriedTooOften."""
    device = device_of(request)
    if device is not None and username in device.names:
        return _on_a_known_device(request, device, username, password)
    recent = AccessAttempt.objects.filter(attempt_time__gt=timezone.now() - timedelta(seconds=wait_s()))
    if not AxesProxyHandler.is_allowed(request, {"username": username}):
        raise TriedTooOften(here=True)
    if _failures(recent.filter(ip_address=request.META.get("REMOTE_ADDR"))) >= BY_ADDRESS:
        raise TriedTooOften(here=True)
    if _failures(recent.filter(username=username)) >= BY_NAME:
        raise TriedTooOften(here=False)
    return authenticate(request, username=username, password=password)


def _failures(rows: object) -> int:
    total: int | None = rows.aggregate(total=Sum("failures_since_start"))["total"]  # type: ignore[attr-defined]
    return total or 0


def _on_a_known_device(request: HttpRequest, device: Device, username: str, password: str) -> Person | None:
    counted = f"tries:{device.key}:{hashlib.sha256(username.encode()).hexdigest()}"
    if cache.get(counted, 0) >= BY_DEVICE:
        raise TriedTooOften(here=True)
    backend = ModelBackend()
    person = backend.authenticate(request, username=username, password=password)
    if person is None:
        cache.add(counted, 0, wait_s())
        cache.incr(counted)
        return None
    cache.delete(counted)
    person.backend = "django.contrib.auth.backends.ModelBackend"  # type: ignore[attr-defined]
    return person
