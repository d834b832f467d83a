"""A depot out as an archive in open formats, and into an empty Temper: everything, and the same state."""

import csv
import io
import json
import re
import zipfile

import pytest

from tests.command.test_backup import STATES, rewritten


@pytest.fixture
def archive(depot, tmp_path):
    """The demo depot's."""
    depot.run("export_depot", tmp_path / "depot.zip")
    return tmp_path / "depot.zip"


@pytest.fixture
def fresh(empty):
    """A Temper of a first start."""
    empty.path.mkdir()
    empty.run("migrate", "-v", "0")
    return empty


def test_a_fresh_temper_takes_it_in_whole_and_gives_the_same_out_again(depot, fresh, archive, tmp_path):
    said = fresh.run("import_depot", archive)
    assert "19 loops folded, all as they were" in said
    assert "person password maud" in said
    assert fresh.python(STATES) == depot.python(STATES)
    assert "looked at 19 loops" in fresh.run("verify")
    fresh.run("export_depot", tmp_path / "again.zip")
    with zipfile.ZipFile(archive) as first, zipfile.ZipFile(tmp_path / "again.zip") as second:
        assert first.namelist() == second.namelist()
        for name in first.namelist():
            if name.startswith(("tables/", "photos/", "columns")):
                assert first.read(name) == second.read(name), name
    assert "has a depot already" in fresh.run("import_depot", archive, fine=False)
    assert "exists already" in depot.run("export_depot", archive, fine=False)


def changed_litres(name, data):
    return re.sub(rb'"drained_l": (\d)', rb'"drained_l": 1\1', data, count=1) if name == "tables/entries.jsonl" else data


def without_a_person(name, data):
    return data.replace(b'"username": "tomo"', b'"user": "tomo"') if name == "tables/people.jsonl" else data


def rehashed(change):
    """A change by somebody who knows the manifest: its hashes fit again."""
    import hashlib

    kept = {}

    def both(name, data):
        if name == "manifest.json":
            manifest = json.loads(data)
            for one, digest in kept.items():
                manifest["files"][one]["sha256"] = digest
            return json.dumps(manifest)
        new = change(name, data)
        if new != data:
            kept[name] = hashlib.sha256(new).hexdigest()
        return new

    return both


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (changed_litres, "its hash is not the manifest's"),
        (rehashed(changed_litres), "The state is not the archive's"),
        (rehashed(without_a_person), "'user' is no column of people"),
    ],
)
def test_a_changed_archive_is_refused_and_nothing_is_kept(fresh, archive, tmp_path, change, said):
    file = rewritten(archive, tmp_path / "changed.zip", change)
    assert said in fresh.run("import_depot", file, fine=False)
    assert fresh.python("from people.models import Person\nprint(Person.objects.count())") == "0"


def test_any_program_can_read_it(archive):
    """csv and json alone: the tables agree, every column is documented, no secret is in it."""
    with zipfile.ZipFile(archive) as found:
        documented = {
            (row["table"], row["column"])
            for row in csv.DictReader(io.StringIO(found.read("columns.csv").decode(), newline=""))
            if row["what it is"]
        }
        for name in found.namelist():
            if not name.endswith(".jsonl") or not name.startswith("tables/"):
                continue
            table = name.removeprefix("tables/").removesuffix(".jsonl")
            lines = [json.loads(line) for line in found.read(name).decode().splitlines()]
            rows = list(csv.DictReader(io.StringIO(found.read(name.replace(".jsonl", ".csv")).decode(), newline="")))
            assert len(rows) == len(lines)
            for line in lines:
                assert {(table, column) for column in line} <= documented
        text = b"".join(found.read(name) for name in found.namelist() if name.endswith((".jsonl", ".csv")))
    assert b"argon2" not in text
    assert b"session" not in text
