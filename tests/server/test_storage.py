"""A database that can only be read, one that is busy, one that is damaged: SQLite's own errors, in our shape."""

import errno
import sqlite3
import uuid

import pytest
from django.db import OperationalError, connection

from config.storage import BUSY, DAMAGED, FULL, READ_ONLY, storage_problem
from tests.server.conftest import loop_of


@pytest.fixture
def pragma(db):
    """Set something of the connection, and put it back."""
    undo = []

    def change(name, value, back):
        with connection.cursor() as cursor:
            cursor.execute(f"PRAGMA {name} = {value}")
        undo.append((name, back))

    yield change
    with connection.cursor() as cursor:
        for name, back in undo:
            cursor.execute(f"PRAGMA {name} = {back}")


def record(api, loop):
    """One entry."""
    entry = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 20.0}}
    return api.post(f"/api/loops/{loop.id}/entries", {"entries": [entry]})


def test_a_read_only_database_answers_503_and_can_still_be_read(ines, pragma):
    pragma("query_only", "ON", "OFF")
    answer = record(ines, loop_of("V-31"))
    assert (answer.status_code, answer.json()["code"]) == (503, "read_only")
    assert ines.get("/api/board").status_code == 200


def test_sign_in_on_a_read_only_database_is_told_in_words(nobody, pragma):
    nobody.client.raise_request_exception = False
    pragma("query_only", "ON", "OFF")
    answer = nobody.post("/api/session", {"username": "ines", "password": "snow-and-cable"})
    assert (answer.status_code, answer.json()["code"]) == (503, "read_only")
    assert answer["Content-Type"] == "application/json"


def test_what_fails_outside_a_view_answers_in_the_same_shape(ines, monkeypatch):
    """The session, say: Django's own page of HTML is for nobody."""
    from django.contrib.sessions.backends.db import SessionStore

    def refused(*_args, **_more):
        raise OperationalError("database is locked") from busy_error()

    monkeypatch.setattr(SessionStore, "load", refused)
    ines.client.raise_request_exception = False
    answer = ines.get("/api/board")
    assert (answer.status_code, answer.json()["code"], answer["Retry-After"]) == (503, "busy", "2")
    monkeypatch.setattr(SessionStore, "load", lambda _self: 1 / 0)
    answer = ines.get("/api/board")
    assert (answer.status_code, answer.json()["code"]) == (500, "server_error")
    assert "division" not in answer.json()["message"]


def busy_error():
    """SQLite's own, from two connections to one file."""
    one = sqlite3.connect("file:busy?mode=memory&cache=shared", uri=True, timeout=0)
    two = sqlite3.connect("file:busy?mode=memory&cache=shared", uri=True, timeout=0)
    one.execute("CREATE TABLE IF NOT EXISTS t (x)")
    one.commit()
    one.execute("BEGIN IMMEDIATE")
    with pytest.raises(sqlite3.OperationalError) as caught:
        two.execute("BEGIN IMMEDIATE")
    one.close()
    two.close()
    return caught.value


def test_sqlites_own_errors_are_told_apart(tmp_path):
    assert storage_problem(busy_error()) is BUSY
    broken = tmp_path / "broken.sqlite3"
    broken.write_bytes(b"no database at all, whatever its name says" * 40)
    with pytest.raises(sqlite3.DatabaseError) as caught:
        sqlite3.connect(broken).execute("SELECT * FROM t")
    assert storage_problem(caught.value) is DAMAGED
    with pytest.raises(sqlite3.OperationalError) as caught:
        sqlite3.connect(f"file:{tmp_path}/none.sqlite3?mode=ro", uri=True).execute("SELECT 1")
    assert storage_problem(caught.value) is DAMAGED
    with pytest.raises(sqlite3.OperationalError) as caught:
        sqlite3.connect(":memory:").execute("SELEC")
    assert storage_problem(caught.value) is None  # our own mistake stays a 500


def test_files_that_cannot_be_written_are_told_apart():
    assert storage_problem(OSError(errno.ENOSPC, "No space left on device")) is FULL
    assert storage_problem(OSError(errno.EROFS, "Read-only file system")) is READ_ONLY
    assert storage_problem(ConnectionRefusedError(errno.ECONNREFUSED, "refused")) is None
    assert storage_problem(ValueError("x")) is None


def test_acknowledged_facts_are_on_the_disk_before_they_are_acknowledged(db):
    """FULL (2): the log of changes is synced with every commit, so that a lost power loses nothing that was answered."""
    from django.conf import settings

    assert "synchronous=FULL" in settings.DATABASES["default"]["OPTIONS"]["init_command"]
    with connection.cursor() as cursor:
        assert cursor.execute("PRAGMA synchronous").fetchone()[0] == 2
