"""Owners of customers' machines: found by name, telephone or e-mail, on the sheet, erased on request and for good."""

import json
import sqlite3
import uuid
import zipfile
from contextlib import closing
from pathlib import Path

import pytest
from django.conf import settings
from transfer.out import write_archive
from transfer.personal import PERSONAL
from transfer.tables import TABLES

from fleet.erasures import erase_again, erased_in
from fleet.models import Erased, Loop, Machine, Owner
from people.models import Person

pytestmark = pytest.mark.django_db

WEIR = {"name": "Hanne Weir", "telephone": "+47 555 01 234", "email": "hanne@weir.example"}


def take_in(api, number, owner=None, **more):
    """A small car, as whoever receives it takes it in."""
    kind = {"key": "small_car", "high_voltage": False}
    body = {"id": str(uuid.uuid4()), "fleet_number": number, "kind": "Small car", "of_kind": kind, "owner": owner} | more
    return api.post("/api/machines", body)


def edit(api, machine, owner):
    """Another owner, or the same corrected."""
    seen = api.get(f"/api/machines/{machine.pk}").json()["edited_at"]
    body = {"fleet_number": machine.fleet_number, "kind": machine.kind, "owner": owner, "seen": seen}
    return api.send("put", f"/api/machines/{machine.pk}", body)


@pytest.fixture
def weirs(maud, depot, tmp_path, settings):
    """Two machines of one owner."""
    settings.DATA = tmp_path
    for number in ("AB 1", "AB 2"):
        assert take_in(maud, number, WEIR).status_code == 201
    return list(Machine.objects.filter(fleet_number__startswith="AB").order_by("pk"))


def test_one_owner_of_two_machines_is_one_row_and_is_on_both(ines, weirs):
    assert Owner.objects.count() == 1
    for machine in weirs:
        shown = ines.get(f"/api/machines/{machine.pk}").json()
        assert {key: shown["owner"][key] for key in WEIR} == WEIR
        assert shown["machine"]["owner_name"] == "Hanne Weir"
    lists = ines.get("/api/loops").content.decode() + ines.get("/api/machines").content.decode()
    assert "Hanne Weir" in lists
    assert WEIR["telephone"] not in lists  # what every tablet keeps holds no telephone numbers


@pytest.mark.parametrize(
    ("owner", "field"),
    [
        ({"name": " ", "telephone": "555 01 234"}, "owner.name"),
        ({"name": "Hanne", "email": "hanne"}, "owner.email"),
        ({"name": "Hanne", "telephone": "ring me"}, "owner.telephone"),
        ({"name": "x" * 121}, "owner.name"),
    ],
)
def test_what_cannot_be_is_refused_and_no_machine_is_left(ines, depot, owner, field):
    refused = take_in(ines, "AB 9", owner)
    assert (refused.status_code, refused.json()["field"]) == (400, field)
    assert not Machine.objects.filter(fleet_number="AB 9").exists()


@pytest.mark.parametrize("words", ["weir", "Hanne WEIR", "hanne@weir", "47 555 01234", "5550-1234"])
def test_a_machine_is_found_by_its_owner(ines, weirs, words):
    found = ines.get(f"/api/owners?find={words}").json()["machine_ids"]
    assert sorted(found) == [machine.pk for machine in weirs]


@pytest.mark.parametrize("words", ["", "  ", "nobody", "12", "%", "weir stellan"])
def test_what_nobody_is_called_finds_nothing(ines, weirs, words):
    assert ines.get("/api/owners").status_code == 200
    assert ines.get(f"/api/owners?find={words.replace('%', '%25')}").json()["machine_ids"] == []


def test_the_same_name_is_corrected_everywhere_another_name_is_another_owner(maud, weirs):
    one, two = weirs
    assert edit(maud, one, WEIR | {"telephone": "555 02"}).status_code == 200
    two.refresh_from_db()
    assert two.owner.telephone == "555 02"
    assert edit(maud, one, {"name": "Jon Brae"}).status_code == 200
    assert set(Owner.objects.values_list("name", flat=True)) == {"Hanne Weir", "Jon Brae"}
    assert edit(maud, one, None).status_code == 200
    assert set(Owner.objects.values_list("name", flat=True)) == {"Hanne Weir"}  # nobody stays without a machine
    seen = maud.get(f"/api/machines/{two.pk}").json()["edited_at"]
    body = {"fleet_number": two.fleet_number, "kind": "Van", "seen": seen}
    assert maud.send("put", f"/api/machines/{two.pk}", body).json()["owner"]["name"] == "Hanne Weir"  # left out: as it is


def test_they_stand_on_the_sheet(ines, weirs):
    loop = Loop.objects.get(machine=weirs[0])
    job = {"id": str(uuid.uuid4()), "machine_id": weirs[0].pk, "loops": [{"loop_id": loop.pk, "job_type": "check"}]}
    assert ines.post("/api/jobs", job).status_code == 201
    assert ines.get(f"/api/loops/{loop.pk}/sheet").json()["owner"]["telephone"] == WEIR["telephone"]
    assert ines.get(f"/api/loops/{loop.pk}/sheet.pdf").content.startswith(b"%PDF")


def test_a_lead_erases_them_and_is_told_what_free_text_still_says(maud, ines, weirs):
    Machine.objects.filter(pk=weirs[1].pk).update(description="blue, of hanne weir, ring first")
    owner = Owner.objects.get()
    path = f"/api/owners/{owner.uuid}"
    assert ines.get(path).status_code == 403
    assert ines.send("delete", path).status_code == 403
    shown = maud.get(path).json()
    assert [row["fleet_number"] for row in shown["machines"]] == ["AB 1", "AB 2"]
    said = maud.send("delete", path).json()["named_in"]
    assert said == shown["named_in"]
    assert [row["where"] for row in said] == ["AB 2, description"]
    assert not Owner.objects.exists()
    assert Erased.objects.get().owner_uuid == owner.uuid
    assert maud.send("delete", path).status_code == 404
    whole = ines.get("/api/machines").content + ines.get("/api/loops").content
    assert b"Hanne Weir" not in whole


def test_a_restored_state_is_erased_from_again(maud, weirs, tmp_path, django_capture_on_commit_callbacks):
    owner = Owner.objects.get()
    older = tmp_path / "older.sqlite3"
    with closing(sqlite3.connect(older)) as db, db:
        db.execute("CREATE TABLE people_person (id INTEGER)")
        db.execute("CREATE TABLE fleet_owner (id INTEGER, uuid TEXT, name TEXT)")
        db.execute("CREATE TABLE fleet_machine (id INTEGER, owner_id INTEGER)")
        db.execute("CREATE TABLE fleet_erased (owner_uuid TEXT, at TEXT, by_id INTEGER, depot_id INTEGER)")
        db.execute(
            "INSERT INTO fleet_owner VALUES (1, ?, 'Hanne Weir'), (2, ?, 'Jon Brae')", (owner.uuid.hex, uuid.uuid4().hex)
        )
        db.execute("INSERT INTO fleet_machine VALUES (5, 1), (6, 2)")
        db.execute("INSERT INTO people_person VALUES (?)", (Person.objects.get(username="maud").pk,))
    (Path(settings.DATA) / "erased.jsonl").write_text('{"owner_uuid": "cut')  # by a crash, before
    with django_capture_on_commit_callbacks(execute=True):
        assert maud.send("delete", f"/api/owners/{owner.uuid}").status_code == 200
    (Path(settings.DATA) / "erased.jsonl").open("a").write('{"owner_uuid": "cut of')
    assert [row["owner_uuid"] for row in erased_in(Path(settings.DATA))] == [str(owner.uuid)]
    assert "Hanne" not in (Path(settings.DATA) / "erased.jsonl").read_text()
    with closing(sqlite3.connect(older)) as db, db:
        assert erase_again(db, Path(settings.DATA)) == 1
        assert db.execute("SELECT name FROM fleet_owner").fetchall() == [("Jon Brae",)]
        assert db.execute("SELECT owner_id FROM fleet_machine ORDER BY id").fetchall() == [(None,), (2,)]
        assert db.execute("SELECT owner_uuid FROM fleet_erased").fetchall() == [(owner.uuid.hex,)]
        assert erase_again(db, Path(settings.DATA)) == 0  # a second time finds nobody


def test_an_archive_says_what_personal_data_it_holds(weirs, depot, tmp_path):
    written = tmp_path / "depot.zip"
    manifest = write_archive(depot, written)
    assert manifest["personal"]["owners"] == ["name", "telephone", "email"]
    with zipfile.ZipFile(written) as archive:
        read_me = archive.read("README.txt").decode()
        assert "owners (name, telephone, email)" in read_me
        assert WEIR["telephone"] in archive.read("tables/owners.jsonl").decode()
        machines = [json.loads(line) for line in archive.read("tables/machines.jsonl").splitlines()]
    assert {row["uuid"] for row in machines} == {str(one) for one in Machine.objects.values_list("uuid", flat=True)}
    columns = {table.name: table.columns for table in TABLES}
    assert all(set(names) <= set(columns[table]) for table, names in PERSONAL.items())


def test_a_uuid_leads_to_its_page_in_its_own_depot_only(ines, depot, elsewhere, weirs):
    machine, loop = weirs[0], Loop.objects.get(machine=weirs[0])
    assert ines.get(f"/api/of/{machine.uuid}").json()["page"] == f"/machines/{machine.pk}"
    assert ines.get(f"/api/of/{loop.uuid}").json()["page"] == f"/loops/{loop.pk}"
    assert loop.uuid == uuid.uuid5(machine.uuid, "1")  # a tablet that took it in knows it before the server does
    signed = Loop.objects.filter(job_loops__signed_at__isnull=False).first().job_loops.first()
    assert f"job={signed.job_id}" in ines.get(f"/api/of/{signed.job_id}").json()["page"]
    for things, page in ((depot.products, "/products"), (depot.waters, "/products"), (depot.instruments, "/instruments")):
        assert ines.get(f"/api/of/{things.first().uuid}").json()["page"] == page
    assert ines.get(f"/api/of/{elsewhere.uuid}").status_code == 404
    assert ines.get(f"/api/of/{uuid.uuid4()}").status_code == 404
    assert ines.get(f"/api/loops/{loop.pk}/label").json()["address"].endswith(f"/of/{loop.uuid}")
