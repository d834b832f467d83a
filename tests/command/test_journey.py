"""One journey: a bare clone, served with nothing set, to a signed sheet over HTTP, and out and in again by every command."""

import http.cookiejar
import json
import lzma
import os
import re
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.error
import urllib.request
import uuid
from contextlib import closing
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
COMMANDS = (
    *("setup", "demo", "serve", "first-run-code", "first-lead", "person", "backup", "restore", "verify", "export"),
    *("import", "test", "check", "bench", "mutate", "audit", "shots"),
)


class Clone:
    """The tree in another folder; its packages and its built front end are this one's, so that nothing is fetched twice."""

    def __init__(self, folder):
        self.at = folder / "temper"
        listed = subprocess.run(
            ["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True, check=True
        )
        for name in listed.stdout.splitlines():
            if (ROOT / name).is_file():
                (self.at / name).parent.mkdir(parents=True, exist_ok=True)
                shutil.copy2(ROOT / name, self.at / name)
        for name in (".venv", "web/dist", "web/node_modules"):
            (self.at / name).symlink_to(ROOT / name)
        self.env = {key: value for key, value in os.environ.items() if not key.startswith(("TEMPER_", "PYTHON", "DJANGO"))}

    def run(self, *words, fine=True, **env):
        """./temper in the clone; its output."""
        done = subprocess.run(
            [sys.executable, "temper", *map(str, words)],
            cwd=self.at, env=self.env | env, capture_output=True, text=True, check=False, timeout=300,
        )  # fmt: skip
        said = done.stdout + done.stderr
        assert (done.returncode == 0) == fine, said
        assert "Traceback" not in said, said
        return said


class Browser:
    """A JSON client with a cookie jar, as a browser sends."""

    def __init__(self, url):
        self.url, self.jar = url, http.cookiejar.CookieJar()
        self.web = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def ask(self, method, path, body=None, wanted=(200, 201)):
        """The answer's JSON; its status must be one of the wanted."""
        request = urllib.request.Request(self.url + path, method=method, headers={"Content-Type": "application/json"})
        request.add_header("X-CSRFToken", next((row.value for row in self.jar if row.name == "csrftoken"), ""))
        request.data = None if body is None else json.dumps(body).encode()
        try:
            with self.web.open(request, timeout=60) as answer:
                status, said = answer.status, answer.read()
        except urllib.error.HTTPError as error:
            status, said = error.code, error.read()
        assert status in wanted, (method, path, status, said[:600])
        return json.loads(said) if said[:1] in (b"{", b"[") else said


@pytest.fixture
def clone(tmp_path):
    return Clone(tmp_path)


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def test_every_command_starts_in_a_bare_folder(clone):
    for command in COMMANDS:
        assert "usage" in clone.run(command, "--help")


def test_from_a_bare_clone_to_a_signed_sheet_and_elsewhere(clone, tmp_path, capsys):
    started = time.monotonic()
    port = free_port()
    log = (tmp_path / "log").open("w+")
    server = subprocess.Popen(
        [sys.executable, "temper", "serve", "--port", str(port)], cwd=clone.at, env=clone.env, stdout=log, stderr=log
    )
    try:
        code = _code_in(tmp_path / "log", server)
        lead = _opened_and_worked(port, code)
        data = clone.at / "var"
        assert {path.name: oct(path.stat().st_mode & 0o777) for path in data.glob("secret.key")} == {"secret.key": "0o600"}
        clone.run("backup", tmp_path / "backups")
        clone.run("first-run-code", fine=False)
        owner = lead.ask("GET", "/api/machines/1")["owner"]
        lead.ask("DELETE", f"/api/owners/{owner['uuid']}")  # asked for after the backup
    finally:
        _stopped(server, port)
    backup = next((tmp_path / "backups").glob("temper-*.zip"))
    clone.run("verify")
    assert "erased again: 1" in clone.run("restore", backup, "--aside")
    with closing(sqlite3.connect(clone.at / "var" / "temper.sqlite3")) as restored:
        assert restored.execute("SELECT count(*) FROM fleet_owner").fetchone() == (0,)
        assert restored.execute("SELECT fleet_number, owner_id FROM fleet_machine").fetchall() == [("AB 12 CDE", None)]
    clone.run("verify")
    _upgraded(clone, tmp_path / "upgraded")
    clone.run("restore", backup, "--into", tmp_path / "other")
    clone.run("verify", "--against", backup, TEMPER_DATA=str(tmp_path / "other"))
    clone.run("export", tmp_path / "depot.zip")
    clone.run("import", tmp_path / "depot.zip", TEMPER_DATA=str(tmp_path / "third"))
    clone.run("verify", TEMPER_DATA=str(tmp_path / "third"))
    with capsys.disabled():
        print(f"\n  journey: {time.monotonic() - started:.0f} s")


def _code_in(path, server):
    for _ in range(600):
        said = path.read_text()
        if found := re.search(r"with the code  (\S+)", said):
            return found[1]
        assert server.poll() is None, said
        time.sleep(0.2)
    raise AssertionError(path.read_text())


def _opened_and_worked(port, code):
    """Two people, a machine taken in by a technician, a whole job to the sheet."""
    lead = Browser(f"http://localhost:{port}")
    assert lead.ask("GET", "/api/session")["first_run"]
    workshop = {"name": "Hill Farm", "time_zone": "UTC", "currency": "EUR", "coldest_c": -20, "username": "ada"}
    workshop |= {"person": "Ada Hill", "password": "rain-on-the-roof"}
    lead.ask("POST", "/api/first-run", workshop | {"code": "aaaa-aaaa"}, wanted=(400,))
    lead.ask("POST", "/api/first-run", workshop | {"code": code})
    given = lead.ask("POST", "/api/people", {"username": "ben", "name": "Ben Byre", "role": "technician"})
    keys = ("eg_oat", "demineralised", "optical_ethylene")
    picks = {"picks": [{"key": key, "id": str(uuid.uuid4())} for key in keys]}
    lead.ask("POST", "/api/starter", picks)
    tech = Browser(f"http://127.0.0.1:{port}")  # by the other name
    tech.ask("GET", "/api/session")
    tech.ask("POST", "/api/session", {"username": "ben", "password": given["password"]})
    tech.ask("POST", "/api/profile/password", {"old": given["password"], "new": "hay-and-diesel"})
    kind = {"key": "small_car", "high_voltage": False}
    machine = {"id": str(uuid.uuid4()), "fleet_number": "AB 12 CDE", "kind": "Small car", "of_kind": kind}
    machine["owner"] = {"name": "Hanne Weir", "telephone": "555 01 234"}
    added = tech.ask("POST", "/api/machines", machine)
    loop = added["loop_ids"][0]
    job = {"id": str(uuid.uuid4()), "machine_id": added["id"], "loops": [{"loop_id": loop, "job_type": "check"}]}
    tech.ask("POST", "/api/jobs", job)
    gate = {"warmth": "hand", "held": True, "pressure": "hose", "soft": True, "ready": ["glasses"]}
    facts = (
        ("contents_reported", {"base": "ethylene", "family": "oat", "topped_up": "same"}),
        ("gate_observed", gate),
        ("read", {"value": -31.0, "place": "as_found", "sample_c": 18.0}),
        ("sampled", {"spot": "neck", "looks": ["clean_bright"]}),
        ("tested", {"check": "level", "outcome": "at_mark"}),
    )
    for name, given in facts:
        _record(tech, loop, name, given)
    advised = tech.ask("GET", f"/api/loops/{loop}")["state"]["advice"]["job_type"]
    reason = "nothing to change today" if advised != "check" else ""
    _record(tech, loop, "job_type_chosen", {"job_type": "check", "advised": advised, "reason": reason})
    _record(tech, loop, "signed_off", {"proof": "checked"})
    assert "AB 12 CDE" in json.dumps(tech.ask("GET", f"/api/loops/{loop}/sheet"))
    assert tech.ask("GET", f"/api/loops/{loop}/sheet.pdf")[:4] == b"%PDF"
    lead.ask("POST", f"/api/machines/{added['id']}/checked", {})
    return lead


def _stopped(server, port):
    """It ends when it is asked to, and lets the port go."""
    server.send_signal(signal.SIGTERM)
    server.wait(30)
    for _ in range(100):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) != 0:
                return
        time.sleep(0.1)
    raise AssertionError(f"somebody still listens on {port}")


def _upgraded(clone, data):
    """A depot of 0.6.0 where it lies: served by this version, read, stopped, verified."""
    data.mkdir()
    with closing(sqlite3.connect(data / "temper.sqlite3")) as old, lzma.open(ROOT / "tests/old/0.6.0.sql.xz", "rt") as dump:
        old.executescript(dump.read())
        old.execute("UPDATE people_person SET password = '!'")  # the demo's is refused in earnest
        old.commit()
    port = free_port()
    log = data / "log"
    with log.open("w") as said:
        words = [sys.executable, "temper", "serve", "--port", str(port)]
        env = clone.env | {"TEMPER_DATA": str(data)}
        server = subprocess.Popen(words, cwd=clone.at, env=env, stdout=said, stderr=said)
    try:
        for _ in range(600):
            if f":{port}/" in log.read_text():
                break
            assert server.poll() is None, log.read_text()
            time.sleep(0.2)
        session = Browser(f"http://localhost:{port}").ask("GET", "/api/session")
        assert (session["person"], session["first_run"]) == (None, False)
    finally:
        _stopped(server, port)
    assert "1 photos are missing" in log.read_text()  # it was lost before: said, and no reason to keep a workshop shut
    said = clone.run("verify", fine=False, TEMPER_DATA=str(data))
    assert "photo" in said
    assert "was changed" not in said


def _record(who, loop, kind, facts):
    entry = {"id": str(uuid.uuid4()), "kind": kind, "facts": facts}
    who.ask("POST", f"/api/loops/{loop}/entries", {"entries": [entry], "seen": None})
