"""Runs the server's commands for tests: Django is loaded once, each command is a forked process with a folder of its own.

Reads one JSON line a command on standard input ({"folder", "words" or "script", "env"}), answers one ({"code", "said"}).
"""

import contextlib
import io
import json
import os
import sys
import tempfile
import traceback
from pathlib import Path

import django
from django.conf import settings
from django.core.management import execute_from_command_line
from django.db import connections

MANAGE = str(Path(__file__).resolve().parents[2] / "server" / "manage.py")


def child(given, out):
    """The command, in a process that ends with it."""
    os.environ.update(given["env"] | {"TEMPER_DATA": given["folder"]})
    os.umask(0o077)
    settings.DATA = Path(given["folder"])
    settings.BACKUPS = settings.DATA / "backups"
    connections.databases["default"]["NAME"] = connections.settings["default"]["NAME"] = settings.DATA / "temper.sqlite3"
    os.dup2(out, 1)
    os.dup2(out, 2)
    sys.argv = [MANAGE, *given.get("words", [])]
    code = 0
    try:
        if "words" in given:
            execute_from_command_line(sys.argv)
        else:
            exec(given["script"], {"__name__": "__main__"})
    except SystemExit as end:
        code = end.code if isinstance(end.code, int) else int(bool(end.code))
    except BaseException:  # noqa: BLE001  it is told, whatever it is
        traceback.print_exc()
        code = 1
    with contextlib.suppress(io.UnsupportedOperation):
        sys.stdout.flush()
        sys.stderr.flush()
    os._exit(code)


def main():
    """Until the input ends."""
    django.setup()
    import config.urls  # noqa: F401  what every command loads

    for line in sys.stdin:
        given = json.loads(line)
        with tempfile.TemporaryFile() as out:
            pid = os.fork()
            if pid == 0:
                child(given, out.fileno())
            code = os.waitstatus_to_exitcode(os.waitpid(pid, 0)[1])
            out.seek(0)
            print(json.dumps({"code": code, "said": out.read().decode()}), flush=True)


if __name__ == "__main__":
    main()
