"""Command line of the demo's data: load it, unless a depot is there already."""

from __future__ import annotations

import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
for folder in (ROOT, ROOT / "server", ROOT / "core"):
    sys.path.insert(0, str(folder))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")


def main() -> int:
    """Load the depot if the database holds none."""
    import django

    django.setup()
    from demo.depot import load
    from depots.models import Depot

    if Depot.objects.exists():
        print("The depot is there already: kept as it is.")
        return 0
    print(f"Loaded {load()}.")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
