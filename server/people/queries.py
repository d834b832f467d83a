"""Reads of people."""

from __future__ import annotations

from django.db.models import Value
from django.db.models.functions import Concat

from people.models import Person


def sign_in_name(given: str) -> str:
    """The sign-in name that somebody means: their own, in any case, or the name that is shown, where one person has it."""
    words = " ".join(given.split())
    own = Person.objects.filter(username__iexact=words).values_list("username", flat=True)
    shown = Person.objects.annotate(shown=Concat("first_name", Value(" "), "last_name")).filter(shown__iexact=words)
    found = list(own[:2]) or list(shown.values_list("username", flat=True)[:2])
    return found[0] if len(found) == 1 else words
