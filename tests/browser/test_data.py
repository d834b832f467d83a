"""Data at the screen: is it kept safely, tokens, the reference, a file of one's own; what the disk refuses, in words."""

import json
import os
import sqlite3
import subprocess
import sys
import urllib.error
import urllib.request
from pathlib import Path

import pytest
from django.db import OperationalError
from django.db.backends.signals import connection_created

from instruments.models import Reading
from jobs.models import Entry

pytestmark = pytest.mark.browser

ROOT = Path(__file__).resolve().parents[2]
EXAMPLE = ROOT / "docs" / "examples" / "send_readings.py"


def test_a_lead_sees_what_is_amiss_and_takes_everything_out(screen):
    screen.sign_in("maud")
    screen.click(".places a", "Data")
    screen.sees("need attention on the server", "Backup", "none yet", "the database can be written")
    fetch = "const done = arguments[0]; fetch('/api/archive').then((r) => r.blob()).then((b) => done([b.type, b.size]))"
    kind, size = screen.driver.execute_async_script(fetch)
    assert kind == "application/zip"
    assert size > 50_000


def test_the_reference_is_drawn_from_files_that_ship(screen):
    screen.sign_in("maud")
    screen.open("/api/reference")
    screen.one(".opblock-tag", "readings")
    asked = screen.driver.execute_script("return performance.getEntriesByType('resource').map((e) => e.name)")
    assert asked
    assert all(name.startswith((screen.url, "data:")) for name in asked)
    screen.click(".opblock-tag", "readings")
    screen.one(".opblock-summary-path", "/api/readings/watch")
    assert not screen.all(".try-out")


def asks(screen, token, path="/api/board"):
    """What a program with a token is answered."""
    request = urllib.request.Request(screen.url + path, headers={"Authorization": f"Bearer {token}"})
    try:
        with urllib.request.urlopen(request, timeout=30) as answer:
            return answer.status, json.load(answer)
    except urllib.error.HTTPError as error:
        return error.code, json.load(error)


def test_a_token_is_made_used_by_the_worked_script_and_revoked(screen):
    screen.sign_in()
    screen.open("/profile")
    screen.type("token-name", "Bay meter")
    screen.click(".MuiToggleButton-root", "Read and record")
    screen.type("token-password", "wrong")
    screen.click(".key", "Make token")
    screen.sees("The password is wrong")
    screen.type("token-password", "snow-and-cable")
    screen.click(".key", "Make token")
    token = screen.one("[data-testid=one-token]").text
    env = {**os.environ, "TEMPER_URL": screen.url, "TEMPER_TOKEN": token}
    given = [sys.executable, str(EXAMPLE), "V-31", "61.5"]
    done = subprocess.run(given, env=env, capture_output=True, text=True, check=False, timeout=60)
    assert done.returncode == 0, done.stderr
    assert "61.5 °C recorded" in done.stdout
    entry = Entry.objects.get(kind="temperature_logged", facts__c=61.5)
    assert (entry.loop.machine.fleet_number, entry.person.username) == ("V-31", "ines")
    screen.open("/profile")
    screen.sees("Bay meter", "reads and records", "used last", "Token made")
    assert not screen.all("[data-testid=one-token]")
    screen.click(".key", "Revoke token")
    screen.sees("No program has a token", "Token revoked")
    assert asks(screen, token)[0] == 401


def test_a_file_of_ones_own_is_matched_imported_and_undone(screen, tmp_path):
    path = tmp_path / "season.csv"
    path.write_text("Date;Vehicle;Freeze °C;Remark\n2026-11-04T10:00;T-21;-36;ok\n2026-11-05T10:00;G-07;-31;ok\n")
    before = Reading.objects.filter(voided=False).count()
    screen.sign_in("maud")
    screen.open("/readings?view=import")
    screen.one("input[name=readings]").send_keys(str(path))
    screen.sees("Say which column is place, instrument", "Match the columns")
    screen.choose("All lines: place", "as_found")
    screen.choose("All lines: instrument", "Glass 3")
    screen.sees("2 lines: 2 new", "Not imported: Remark")
    screen.go("Import 2 readings")
    screen.sees("2 readings imported", "season.csv")
    assert Reading.objects.filter(voided=False).count() == before + 2
    screen.click("[aria-label='Undo import season.csv']")
    screen.sees("Undone", "by Maud Stellan")
    assert Reading.objects.filter(voided=False).count() == before
    screen.click("[aria-label='Count again season.csv']")
    screen.until(lambda: Reading.objects.filter(voided=False).count() == before + 2, "they count again")


class Refuses:
    """Every connection of the server, from now on, has what makes SQLite itself refuse to write."""

    def __init__(self, pragma):
        self.pragma = pragma

    def __call__(self, connection, **_):
        with connection.cursor() as cursor:
            cursor.execute(self.pragma)


def only_read(monkeypatch):
    """It can be read and not written."""
    return Refuses("PRAGMA query_only = ON")


def refuses(said, code):
    """SQLite's own words and code, where an entry may still fit in a page: tests/command has it from SQLite itself."""

    def refused(*_args, **_more):
        error = sqlite3.OperationalError(said)
        error.sqlite_errorcode = code
        raise OperationalError(said) from error

    return lambda monkeypatch: monkeypatch.setattr("jobs.api.record_entries", refused)


full = refuses("database or disk is full", sqlite3.SQLITE_FULL)
busy = refuses("database is locked", sqlite3.SQLITE_BUSY)


@pytest.mark.parametrize(
    ("begin", "words"),
    [
        (full, "The depot's disk is full: nothing was stored"),
        (only_read, "can only be read at the moment: nothing was stored"),
        (busy, "The depot's records are busy: nothing was stored"),
    ],
)
def test_what_the_disk_refuses_is_said_and_nothing_typed_is_lost(screen, monkeypatch, begin, words):
    screen.sign_in()
    screen.bench("B-14")
    screen.to_drain()
    screen.type("drained", "7.4")
    screen.until(lambda: "Draft kept" in screen.text, "the draft to be kept")
    many = Entry.objects.count()
    handler = begin(monkeypatch)
    if handler:
        connection_created.connect(handler)
    try:
        screen.go("Record")
        screen.sees(words)
        assert screen.value("drained") == "7.4"
        assert Entry.objects.count() == many
    finally:
        if handler:
            connection_created.disconnect(handler)
        monkeypatch.undo()
    screen.go("Record")
    screen.until(lambda: Entry.objects.count() > many, "it to be stored")
    screen.driver.get_log("browser")  # what was refused complains there
