"""Command line of the demo's data: load it, unless a depot is there already."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
for folder in (ROOT, ROOT / "server", ROOT / "core"):
    sys.path.insert(0, str(folder))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")


def main() -> int:
    """Load the depot if the database holds none; say where its simulated refractometer listens."""
    import django

    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--refractometer", default="", help="host:port of the simulated one, this time")
    given = parser.parse_args()

    django.setup()
    from demo.depot import SIMULATED, load
    from depots.models import Depot
    from instruments.models import Instrument

    if Depot.objects.exists():
        print("The depot is there already: kept as it is.")
    else:
        print(f"Loaded {load()}.")
    Instrument.objects.filter(name=SIMULATED).update(address=given.refractometer)
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
