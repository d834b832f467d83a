"""A depot in a folder, as a server has it; made once, copied for each test."""

import json
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from tests.shared_demo import environment, shared_demo

ROOT = Path(__file__).resolve().parents[2]


class Folder:
    """A depot's folder, and the commands of the server in it."""

    def __init__(self, path, forks):
        self.path, self.forks = path, forks

    def ask(self, **given):
        """Exit code and output of a forked command."""
        line = json.dumps({"folder": str(self.path), "env": {}} | given, default=str)
        self.forks.stdin.write(line + "\n")
        self.forks.stdin.flush()
        answer = json.loads(self.forks.stdout.readline())
        return answer["code"], answer["said"]

    def run(self, *words, fine=True, **env):
        """A management command; its output. fine: it must end well, or (False) must not."""
        code, said = self.ask(words=[str(word) for word in words], env=env)
        assert (code == 0) == fine, said
        assert "Traceback" not in said
        return said

    def python(self, text):
        """A script with Django set up; its output."""
        code, said = self.ask(script=text)
        assert code == 0, said
        return said.strip()

    def environment(self, **more):
        """For a process of its own in this folder."""
        return environment(self.path, **more)


@pytest.fixture(scope="session")
def forks(tmp_path_factory):
    """The process that forks the commands; it has no folder of its own."""
    env = environment(tmp_path_factory.mktemp("nobody"))
    given = [sys.executable, "-m", "tests.command.forks"]
    with subprocess.Popen(given, cwd=ROOT, env=env, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as process:
        yield process
        process.stdin.close()


@pytest.fixture(scope="session")
def demo_folder(tmp_path_factory, forks):
    """The demo depot as ./temper demo leaves it."""
    return Folder(shared_demo(tmp_path_factory), forks)


@pytest.fixture
def depot(demo_folder, tmp_path):
    """A copy of it, to be worked on."""
    shutil.copytree(demo_folder.path, tmp_path / "data")
    return Folder(tmp_path / "data", demo_folder.forks)


@pytest.fixture
def empty(tmp_path, forks):
    """A folder with nothing in it."""
    return Folder(tmp_path / "empty", forks)
