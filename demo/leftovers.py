"""Refuse to serve in earnest while people still have the demo's password."""

from __future__ import annotations

import os
import sys


def main() -> int:
    """1 and a sentence if anybody's password is the demo's."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    import django

    django.setup()
    from demo import PASSWORD
    from people.models import Person

    known = [person.username for person in Person.objects.all() if person.check_password(PASSWORD)]
    if known:
        print(f"These people still have the demo's password: {', '.join(known)}. ", end="", file=sys.stderr)
        print("Change it, or serve a folder of your own: TEMPER_DATA=depot ./temper serve", file=sys.stderr)
    return 1 if known else 0


if __name__ == "__main__":
    raise SystemExit(main())
