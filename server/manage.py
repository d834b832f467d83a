"""Django's command line; `./temper` is the one people use."""

import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "core"))
sys.path.insert(0, str(Path(__file__).resolve().parent.parent))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

if __name__ == "__main__":
    os.umask(0o077)  # database, photos and backups are for whoever runs the server alone
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
