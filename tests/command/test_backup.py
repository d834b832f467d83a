"""Backup, restore, verify and kills, on depots in folders, by processes as on a server."""

import hashlib
import json
import sqlite3
import stat
import subprocess
import sys
import zipfile
from contextlib import closing

import pytest
from backups.archive import make_backup

from tests.command.conftest import ROOT

WRITE = """
from fleet.models import Loop
from jobs.actions import record_entries
from jobs.entry_schemas import EntriesIn
from people.models import Person
import uuid
loop = Loop.objects.filter(job_loops__signed_at__isnull=True, job_loops__isnull=False).order_by("pk").first()
def note(n):
    entry = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 20.0 + n % 50}}
    record_entries(loop, EntriesIn.model_validate({"entries": [entry]}), actor=Person.objects.get(username="ines"))
"""
STATES = """
import json
from datetime import datetime, UTC
from depots.models import Depot
from transfer.out import states
print(json.dumps(list(states(Depot.objects.get(), datetime(2026, 12, 1, tzinfo=UTC))), sort_keys=True))
"""


def backup(depot, folder):
    """Its file; as the command makes it, without a process of its own."""
    return make_backup(depot.path, folder)[0]


def rewritten(archive, to, change):
    """A copy of an archive with one file's bytes changed (None: left out)."""
    with zipfile.ZipFile(archive) as given, zipfile.ZipFile(to, "w") as out:
        for name in given.namelist():
            data = change(name, given.read(name))
            if data is not None:
                out.writestr(name, data)
    return to


def test_what_is_restored_folds_to_the_same_state_in_another_folder(depot, empty, tmp_path):
    file = backup(depot, tmp_path / "kept")
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    said = empty.run("restore", file, "--into", empty.path)
    assert "Everybody signs in again" in said
    empty.run("migrate", "-v", "0")
    assert "looked at 19 loops" in empty.run("verify")
    assert empty.python(STATES) == depot.python(STATES)
    for path in (empty.path / "temper.sqlite3", *(empty.path / "photos").rglob("*.jpg")):
        assert stat.S_IMODE(path.stat().st_mode) == 0o600


def test_the_archive_opens_without_temper(depot, tmp_path):
    """Open formats: a zip with SQLite, JPEG and JSON, hashes by SHA-256 (hashlib)."""
    with zipfile.ZipFile(backup(depot, tmp_path / "kept")) as archive:
        manifest = json.loads(archive.read("manifest.json"))
        for name, wanted in manifest["files"].items():
            assert hashlib.sha256(archive.read(name)).hexdigest() == wanted
        archive.extract("temper.sqlite3", tmp_path)
    with closing(sqlite3.connect(tmp_path / "temper.sqlite3")) as db:
        assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        assert db.execute("SELECT count(*) FROM jobs_entry").fetchone()[0] == manifest["entries"]


def test_it_is_made_while_others_write_and_holds_a_moment_of_it(depot, tmp_path):
    writer = subprocess.Popen(
        [
            sys.executable,
            "-c",
            f"import django; django.setup()\n{WRITE}\nfor n in range(10**9):\n note(n); print(n, flush=True)",
        ],
        stdout=subprocess.PIPE,
        text=True,
        env=depot.environment(),
    )
    writer.stdout.readline()
    try:
        file = backup(depot, tmp_path / "kept")
        later = [writer.stdout.readline() for _ in range(3)]  # and writing goes on
    finally:
        writer.kill()
        writer.wait()
    assert all(later)
    assert "looked at 19 loops" in depot.run("verify", file)


def test_nothing_that_is_there_is_written_over(depot, tmp_path):
    file = backup(depot, tmp_path / "kept")
    depot.python(WRITE + "note(1)")
    before = (depot.path / "temper.sqlite3").read_bytes()
    assert "has a depot already" in depot.run("restore", file, "--into", depot.path, fine=False)
    assert (depot.path / "temper.sqlite3").read_bytes() == before
    depot.run("restore", file, "--into", depot.path, "--aside")
    [aside] = depot.path.glob("before-restore-*")
    assert (aside / "temper.sqlite3").read_bytes() == before


def test_not_under_a_server_that_works_there(depot, tmp_path):
    file = backup(depot, tmp_path / "kept")
    hold = (
        "import fcntl, sys, time; f = open(sys.argv[1], 'w'); fcntl.flock(f, fcntl.LOCK_EX); "
        "print('held', flush=True); time.sleep(60)"
    )
    server = subprocess.Popen(
        [sys.executable, "-c", hold, str(depot.path / "serving.lock")], stdout=subprocess.PIPE, text=True
    )
    server.stdout.readline()
    try:
        assert "Stop it first" in depot.run("restore", file, "--into", depot.path, "--aside", fine=False)
    finally:
        server.kill()
        server.wait()


def test_a_newer_database_is_refused(depot, empty, tmp_path):
    with closing(sqlite3.connect(depot.path / "temper.sqlite3")) as db, db:
        db.execute("INSERT INTO django_migrations (app, name, applied) VALUES ('jobs', '0099_later', '2030-01-01')")
    file = backup(depot, tmp_path / "kept")
    assert "does not know jobs 0099_later" in empty.run("restore", file, "--into", empty.path, fine=False)
    assert not empty.path.exists()


def changed_photo(name, data):
    return data[:-1] + b"?" if name.startswith("photos/") else data


def without_photos(name, data):
    return None if name.startswith("photos/") else data


def with_a_way_out(name, data):
    if name != "manifest.json":
        return data
    manifest = json.loads(data)
    manifest["files"]["../escaped"] = "0" * 64
    return json.dumps(manifest)


@pytest.mark.parametrize("change", [changed_photo, without_photos, with_a_way_out])
def test_a_damaged_or_made_up_archive_is_refused_whole(depot, empty, tmp_path, change):
    file = rewritten(backup(depot, tmp_path / "kept"), tmp_path / "temper-changed.zip", change)
    said = empty.run("restore", file, "--into", empty.path, fine=False)
    assert "damaged" in said
    assert "Nothing was restored" in said
    assert not empty.path.exists()
    assert not (tmp_path / "escaped").exists()
    assert "damaged" in depot.run("verify", file, fine=False)


@pytest.mark.parametrize("data", [b"", b"not a zip", b"PK\x03\x04 cut off"])
def test_what_is_no_archive_is_told_in_a_sentence(depot, tmp_path, data):
    (tmp_path / "x.zip").write_bytes(data)
    assert "is no backup of Temper" in depot.run("verify", tmp_path / "x.zip", fine=False)
    assert "There is no file" in depot.run("restore", tmp_path / "none.zip", "--into", tmp_path / "y", fine=False)


def test_verify_names_what_somebody_changed_behind_its_back(depot, tmp_path):
    file = backup(depot, tmp_path / "kept")
    with closing(sqlite3.connect(depot.path / "temper.sqlite3")) as db, db:
        pk, facts, loop = db.execute(
            "SELECT id, facts, loop_id FROM jobs_entry WHERE kind = 'drained' ORDER BY recorded_at LIMIT 1"
        ).fetchone()
        given = json.loads(facts)
        given["drained_l"] = given["drained_l"] + 0.5
        db.execute("UPDATE jobs_entry SET facts = ? WHERE id = ?", [json.dumps(given), pk])
    assert "was changed" in depot.run("verify", fine=False)
    for photo in (depot.path / "photos").rglob("*.jpg"):
        photo.write_bytes(b"another picture")
    assert "photo" in depot.run("verify", fine=False)
    # somebody who can write the database makes a chain of their own: the backup knows better
    depot.python("from django.apps import apps\nfrom jobs.chain import rechain\nrechain(apps, 'nothing to see')")
    said = depot.run("verify", "--against", file, fine=False)
    assert f"loop {loop}" in said
    assert "nothing to see" in said


def test_only_the_newest_are_kept_and_nothing_else_is_touched(depot, tmp_path):
    kept = tmp_path / "kept"
    kept.mkdir()
    for name in ("temper-20250101T000000Z.zip", "temper-20250102T000000Z.zip", "holiday.zip"):
        (kept / name).write_bytes(b"x")
    said = depot.run("backup", kept, "--keep", "2")
    assert "removed temper-20250101T000000Z.zip" in said
    assert sorted(path.name for path in kept.iterdir())[:2] == ["holiday.zip", "temper-20250102T000000Z.zip"]
    assert not [path for path in kept.iterdir() if path.name.startswith(".temper")]


def test_no_room_is_said_before_anything_is_written(depot, tmp_path):
    script = f"""
import shutil
from collections import namedtuple
from pathlib import Path
shutil.disk_usage = lambda path: namedtuple('usage', 'total used free')(10, 9, 1)
from backups.archive import make_backup, BackupRefused
try:
    make_backup(Path({str(depot.path)!r}), Path({str(tmp_path / "kept")!r}))
except BackupRefused as refused:
    print(refused)
"""
    assert "are needed. Make room first" in depot.python(script)
    assert list((tmp_path / "kept").iterdir()) == []


def test_twenty_kills_lose_nothing_that_was_acknowledged(depot):
    done = subprocess.run(
        [sys.executable, "-m", "tools.kills", "20"],
        cwd=ROOT,
        env=depot.environment(),
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stdout + done.stderr
    assert "kills 20," in done.stdout
    assert "lost 0, twice 0" in done.stdout


def test_a_full_disk_answers_507_stores_nothing_and_looking_goes_on(depot):
    """SQLite's own error: the file may not grow by a page."""
    script = """
import json, uuid
from django.db import connection
from django.test import Client
from jobs.models import Entry, JobLoop
from people.models import Person
client = Client(raise_request_exception=False)
client.force_login(Person.objects.get(username="ines"), backend="django.contrib.auth.backends.ModelBackend")
client.get("/api/board")
loop = JobLoop.objects.filter(signed_at__isnull=True).order_by("loop_id").first().loop_id
with connection.cursor() as cursor:
    pages = cursor.execute("PRAGMA page_count").fetchone()[0]
    cursor.execute(f"PRAGMA max_page_count = {pages}")
codes, stored = [], Entry.objects.count()
while len(codes) < 200 and (not codes or codes[-1] == 201):
    entries = [{"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 20.0 + n}} for n in range(12)]
    last = client.post(f"/api/loops/{loop}/entries", {"entries": entries}, content_type="application/json")
    codes.append(last.status_code)
print(json.dumps({"code": codes[-1], "body": last.json(), "lost": Entry.objects.count() - stored - 12 * (len(codes) - 1),
                  "board": client.get("/api/board").status_code, "health": client.get("/api/health").status_code}))
"""
    found = json.loads(depot.python(script).splitlines()[-1])  # what was refused is logged before it
    assert found["code"] == 507
    assert found["body"]["code"] == "disk_full"
    assert "nothing was stored" in found["body"]["message"]
    assert (found["lost"], found["board"], found["health"]) == (0, 200, 503)
    assert "looked at 19 loops" in depot.run("verify")


def test_health_says_what_is_amiss_until_it_is_seen_to(depot, tmp_path):
    script = "from backups.health import checks\nprint([(row.name, row.ok) for row in checks()])"
    assert "('backup', False), ('integrity', False)" in depot.python(script)
    depot.run("backup")
    depot.run("verify")
    assert "False" not in depot.python(script)
    with closing(sqlite3.connect(depot.path / "temper.sqlite3")) as db, db:
        db.execute("DELETE FROM django_migrations WHERE name = '0013_ledger_chain'")
    assert "('migrations', False)" in depot.python(script)
