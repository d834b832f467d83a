"""The demo depot in a folder, loaded once a run of tests by a process of its own, whatever the number of workers."""

import contextlib
import fcntl
import os
import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def environment(folder, **more):
    """For a process that works in a folder, whatever this one was started with."""
    path = f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT}"
    fixed = {"TEMPER_DATA": str(folder), "PYTHONPATH": path, "DJANGO_SETTINGS_MODULE": "config.settings"}
    return {**{key: value for key, value in os.environ.items() if not key.startswith("TEMPER_")}, **fixed, **more}


def shared_demo(tmp_path_factory):
    """Its folder: database and photos. Nobody works in it; it is copied."""
    base = tmp_path_factory.getbasetemp()
    folder = (base.parent if os.environ.get("PYTEST_XDIST_WORKER") else base) / "shared-demo"
    folder.mkdir(exist_ok=True)
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (folder / "loaded").exists():
            data = folder / "data"
            data.mkdir()
            for words in (["-m", "manage", "migrate", "-v", "0"], ["-m", "demo.load"]):
                given = [sys.executable, *words]
                subprocess.run(given, cwd=ROOT, env=environment(data), check=True, capture_output=True)
            (folder / "loaded").touch()
    return folder / "data"


def put(tmp_path_factory, connection, photos):
    """The demo into an open SQLite connection, its photos into a folder."""
    data = shared_demo(tmp_path_factory)
    with contextlib.closing(sqlite3.connect(data / "temper.sqlite3")) as kept:
        kept.backup(connection)
    shutil.copytree(data / "photos", photos, dirs_exist_ok=True)
