"""A depot in a folder, as a server has it; made once, copied for each test."""

import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from tests.shared_demo import environment, shared_demo

ROOT = Path(__file__).resolve().parents[2]


class Folder:
    """A depot's folder, and the commands of the server in it."""

    def __init__(self, path):
        self.path = path

    def run(self, *words, fine=True, **env):
        """A management command; its output. fine: it must end well, or (False) must not."""
        done = subprocess.run(
            [sys.executable, str(ROOT / "server" / "manage.py"), *map(str, words)],
            capture_output=True,
            text=True,
            timeout=300,
            check=False,
            env=self.environment(**env),
        )
        assert (done.returncode == 0) == fine, done.stdout + done.stderr
        assert "Traceback" not in done.stderr
        return done.stdout + done.stderr

    def python(self, text, **env):
        """A script with Django set up; its output."""
        given = [sys.executable, "-c", f"import django; django.setup()\n{text}"]
        done = subprocess.run(given, capture_output=True, text=True, timeout=300, check=False, env=self.environment(**env))
        assert done.returncode == 0, done.stderr
        return done.stdout.strip()

    def environment(self, **more):
        """For a process in this folder."""
        return environment(self.path, **more)


@pytest.fixture(scope="session")
def demo_folder(tmp_path_factory):
    """The demo depot as ./temper demo leaves it."""
    return Folder(shared_demo(tmp_path_factory))


@pytest.fixture
def depot(demo_folder, tmp_path):
    """A copy of it, to be worked on."""
    shutil.copytree(demo_folder.path, tmp_path / "data")
    return Folder(tmp_path / "data")


@pytest.fixture
def empty(tmp_path):
    """A folder with nothing in it."""
    return Folder(tmp_path / "empty")
