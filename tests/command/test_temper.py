"""The one command: help for all, clear words instead of traces, refusal of the demo's secrets, habits of the tree."""

import importlib.machinery
import importlib.util
import os
import re
import socket
import subprocess
import sys
import time
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
COMMANDS = ["setup", "demo", "test", "serve", "check", "bench", "shots", "mutate"]


@pytest.fixture(scope="module")
def temper():
    """The script as a module."""
    loader = importlib.machinery.SourceFileLoader("temper_script", str(ROOT / "temper"))
    spec = importlib.util.spec_from_loader("temper_script", loader)
    module = importlib.util.module_from_spec(spec)
    loader.exec_module(module)
    return module


def run(*words, **env):
    """The script as a person runs it."""
    return subprocess.run(
        [sys.executable, str(ROOT / "temper"), *words],
        capture_output=True,
        text=True,
        timeout=120,
        env={**os.environ, **env},
        check=False,
    )


def tracked():
    """Files of the project."""
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    return [ROOT / name for name in listed.splitlines() if (ROOT / name).is_file()]


@pytest.mark.parametrize("command", COMMANDS)
def test_every_command_says_what_it_does(command):
    said = run(command, "--help")
    assert said.returncode == 0
    assert len(said.stdout.split("\n\n")) >= 2


def test_help_lists_them_all():
    said = run("--help").stdout
    assert all(re.search(rf"^ +{command} ", said, re.M) for command in COMMANDS)


def test_a_taken_port_is_a_sentence_not_a_trace():
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        said = run("demo", "--port", str(port))
    assert said.returncode == 1
    assert f"Port {port} on 127.0.0.1 is taken" in said.stderr
    assert f"--port {port + 1}" in said.stderr
    assert "Traceback" not in said.stderr


@pytest.mark.parametrize("key", ["short", "demo-only-not-a-secret", "demo-only-" + "x" * 60])
def test_production_refuses_the_demos_secrets(key):
    said = run("serve", TEMPER_SECRET_KEY=key)
    assert said.returncode == 1
    assert "TEMPER_SECRET_KEY" in said.stderr
    assert "token_urlsafe" in said.stderr


def test_the_settings_refuse_them_too():
    """However the server is started."""
    env = {**os.environ, "TEMPER_MODE": "production", "DJANGO_SETTINGS_MODULE": "config.settings", "TEMPER_SECRET_KEY": "x"}
    env["PYTHONPATH"] = f"{ROOT / 'core'}:{ROOT / 'server'}"
    said = subprocess.run(
        [sys.executable, "-c", "import django; django.setup()"], capture_output=True, text=True, env=env, check=False
    )
    assert said.returncode != 0
    assert "production needs one of its own" in said.stderr


def test_in_earnest_the_frameworks_own_check_has_nothing_to_say():
    env = {**os.environ, "TEMPER_MODE": "production", "TEMPER_SECRET_KEY": "".join(map(chr, range(48, 112)))}
    env["PYTHONPATH"] = f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT}"
    check = [sys.executable, str(ROOT / "server" / "manage.py"), "check", "--deploy", "--fail-level", "WARNING"]
    said = subprocess.run(check, capture_output=True, text=True, env=env, check=False)
    assert said.returncode == 0, said.stderr


def test_a_killed_temper_takes_its_server_along(tmp_path):
    """However it is killed: no orphan holds the port."""
    script = f"""
import importlib.machinery, importlib.util, subprocess, sys, time
loader = importlib.machinery.SourceFileLoader("temper_script", {str(ROOT / "temper")!r})
module = importlib.util.module_from_spec(importlib.util.spec_from_loader("temper_script", loader))
loader.exec_module(module)
child = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(600)"], preexec_fn=module.dies_with_me())
print(child.pid, flush=True)
time.sleep(600)
"""
    parent = subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, text=True)
    child = int(parent.stdout.readline())
    parent.kill()
    parent.wait()
    for _ in range(200):
        status = Path(f"/proc/{child}/stat")
        if not status.exists() or status.read_text().rsplit(")", 1)[1].split()[0] == "Z":
            return
        time.sleep(0.05)
    os.kill(child, 9)
    raise AssertionError("the child outlived its parent")


def test_options_of_a_command_that_passes_them_on_may_come_first(temper):
    given, more = temper.parser().parse_known_args(["first-lead", "--depot", "Try", "--help"])
    assert given.passes_on
    assert more == ["--depot", "Try", "--help"]


def test_the_demo_does_not_run_in_production():
    said = run("demo", TEMPER_MODE="production")
    assert said.returncode == 1
    assert "./temper serve" in said.stderr


@pytest.mark.parametrize(
    ("version", "fine"),
    [("v20.19.0", True), ("v20.18.9", False), ("v22.1.0", True), ("v18.20.4", False), ("nonsense", False)],
)
def test_an_old_tool_is_named_with_what_is_needed(temper, tmp_path, monkeypatch, version, fine):
    tool = tmp_path / "node"
    tool.write_text(f"#!/bin/sh\necho {version}\n")
    tool.chmod(0o755)
    monkeypatch.setenv("PATH", str(tmp_path), prepend=os.pathsep)
    if fine:
        temper.check_tool("node", (20, 19))
    else:
        with pytest.raises(temper.Stop, match=r"20\.19 or newer"):
            temper.check_tool("node", (20, 19))


def test_a_missing_tool_is_named(temper):
    with pytest.raises(temper.Stop, match="'no-such-tool' is missing: install it"):
        temper.check_tool("no-such-tool", (1, 0))


def test_a_stamp_changes_with_any_file(temper, tmp_path, monkeypatch):
    monkeypatch.setattr(temper, "ROOT", tmp_path)
    (tmp_path / "a").write_text("1")
    before = temper.digest(tmp_path / "a")
    (tmp_path / "a").write_text("2")
    assert temper.digest(tmp_path / "a") != before


def test_lock_files_name_packages_never_where_they_were_fetched():
    from tools.habits import locks_without_addresses

    assert locks_without_addresses() == []


def test_files_stay_small_enough_to_know():
    code = [path for path in tracked() if path.suffix in (".py", ".ts", ".tsx") and ".gen." not in path.name]
    long = {path.name: n for path in code if (n := len(path.read_text().splitlines())) > 450 and "tests" not in path.parts}
    assert long == {}


def test_no_module_of_ours_hides_an_app():
    """A script's own folder comes first on the path: demo/shelf.py once hid the app of that name, and nothing was served."""
    apps = {path.parent.name for path in (ROOT / "server").glob("*/__init__.py")} | {"temper_core"}
    hiding = [
        str(path.relative_to(ROOT))
        for folder in ("demo", "tools", "tests")
        for path in (ROOT / folder).rglob("*")
        if path.suffix in (".py", "") and path.stem in apps and path.parent.name != "__pycache__"
    ]
    assert [name for name in hiding if name not in ALLOWED_TO_HIDE] == []
    assert not re.search(r'PYTHON, ROOT / "(demo|tools|server)"', (ROOT / "temper").read_text()), "run it by -m"


ALLOWED_TO_HIDE = {"demo/instruments"}  # a package, always imported as demo.instruments, and no script runs from demo/


def test_the_core_reads_no_clock_and_writes_no_file():
    for path in (ROOT / "core" / "temper_core").rglob("*.py"):
        text = path.read_text()
        assert not re.search(r"datetime\.now|time\.time|date\.today|\bopen\(|random\.", text), path


def test_no_view_holds_a_query():
    """Reads are in queries.py, writes in actions.py; an api.py parses, permits, calls and serialises."""
    for path in (ROOT / "server").glob("*/api.py"):
        calls = re.findall(r"\.objects\.(\w+)", path.read_text())
        assert calls in ([], ["filter"]), path


def test_words_of_the_screen_keep_the_design_rules():
    """No exclamation marks, no please, no vents, no 'cap off'."""
    banned = re.compile(r"\bplease\b|\boops\b|\bvents?\b|cap off|crack the bleed", re.I)
    for path in (ROOT / "web" / "src").rglob("*.tsx"):
        assert not banned.search(path.read_text()), path
