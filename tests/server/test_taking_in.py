"""A machine taken in on a tablet without a network: the same loops as the depot makes of it, and nothing of it lost."""

import json
import uuid
from dataclasses import replace
from datetime import timedelta

import pytest
from bay.answers import Bay
from bay.taking_in import LOCAL, local_number
from django.utils import timezone

from fleet.models import Loop, Machine
from jobs.models import Entry
from temper_core.starter.machine_kinds import machine_kinds
from tests.server.test_kit import Tablet

pytestmark = pytest.mark.django_db


def body_of(number, key="small_car", **more):
    """As the form sends it."""
    kind = {"key": key, "high_voltage": None} | more.pop("of_kind", {})
    return {"id": str(uuid.uuid4()), "fleet_number": number, "kind": "Small car", "of_kind": kind} | more


def numbers(row, added, own):
    """What waits, with the depot's numbers in it: as the page does before it sends."""
    text = json.dumps(row)
    for mine, theirs in zip([own["id"], *own["loop_ids"]], [added["id"], *added["loop_ids"]], strict=True):
        text = text.replace(str(mine), str(theirs))
    return json.loads(text)


@pytest.mark.parametrize("key", [kind.key for kind in machine_kinds()])
def test_each_kind_is_the_same_loop_here_as_at_the_depot(ines, depot, key):
    tablet = Tablet(ines, depot)
    body = body_of("NEW 1", key)
    status, own = tablet.ask("POST", "/api/machines", body)
    assert status == 201, own
    assert own["id"] == local_number(uuid.UUID(body["id"])) >= LOCAL
    added = ines.post("/api/machines", tablet.waits[0]["body"]).json()
    for mine, theirs in zip(own["loop_ids"], added["loop_ids"], strict=True):
        stored = Loop.objects.select_related("machine__depot").get(pk=theirs)
        here = tablet.bay.work.loops[mine]
        assert replace(here.loop, id=str(theirs)) == stored.core
        assert here.kept.shown.uuid == stored.uuid
    assert Machine.objects.get(pk=added["id"]).uuid == uuid.UUID(body["id"])


def test_its_job_goes_on_without_a_network_and_is_sent_in_order(ines, depot):
    tablet = Tablet(ines, depot)
    body = body_of("FIELD 7", owner={"name": "Hanne Weir", "telephone": "555 01"})
    _, own = tablet.ask("POST", "/api/machines", body)
    loop = own["loop_ids"][0]
    listed = [row for row in tablet.ask("GET", "/api/loops")[1]["loops"] if row["loop_id"] == loop]
    assert listed[0]["machine"]["fleet_number"] == "FIELD 7"
    assert any(row["machine"]["id"] == own["id"] for row in tablet.ask("GET", "/api/machines")[1]["machines"])
    assert tablet.ask("GET", f"/api/machines/{own['id']}")[1]["loops"][0]["spec"]["high_voltage"] is None
    label = uuid.uuid5(uuid.UUID(body["id"]), "1")
    assert tablet.ask("GET", f"/api/of/{label}")[1]["page"] == f"/loops/{loop}"
    assert tablet.ask("GET", f"/api/of/{uuid.uuid4()}")[0] == 503
    job = {"id": str(uuid.uuid4()), "machine_id": own["id"], "loops": [{"loop_id": loop, "job_type": "check"}]}
    assert tablet.ask("POST", "/api/jobs", job)[0] == 201
    entry = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 31.0}}
    status, bench = tablet.ask("POST", f"/api/loops/{loop}/entries", {"entries": [entry], "seen": None})
    assert status == 201
    assert bench["loop"]["high_voltage"] is True  # not known counts as yes
    strips = tablet.ask("GET", "/api/board")[1]["strips"]
    assert [row["machine"]["fleet_number"] for row in strips if row["loop_id"] == loop] == ["FIELD 7"]
    first, *rest = tablet.waits
    added = ines.post(first["path"], first["body"])
    assert added.status_code == 201
    again = ines.post(first["path"], first["body"])  # no answer came, so it is sent again
    assert again.json() == added.json()
    tablet.send(ines, [numbers(row, added.json(), own) for row in rest])
    real = added.json()["loop_ids"][0]
    assert Entry.objects.filter(loop=real).count() == 2
    shown = ines.get(f"/api/machines/{added.json()['id']}").json()
    assert shown["owner"]["name"] == "Hanne Weir"
    assert shown["machine"]["unchecked"]


def test_what_waits_stands_there_again_after_a_reload_under_the_same_numbers(ines, depot):
    tablet = Tablet(ines, depot)
    _, own = tablet.ask("POST", "/api/machines", body_of("FIELD 8"))
    loop = own["loop_ids"][0]
    job = {"id": str(uuid.uuid4()), "machine_id": own["id"], "loops": [{"loop_id": loop, "job_type": "check"}]}
    tablet.ask("POST", "/api/jobs", job)
    fresh = Bay(tablet.text)
    assert json.loads(fresh.again(json.dumps(tablet.waits), depot.now.isoformat())) == []
    assert fresh.work.loops[loop].job_id == uuid.UUID(job["id"])


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"fleet_number": "  "}, "fleet_number"),
        ({"fleet_number": "d-17"}, "fleet_number"),  # the same plate is known to the tablet
        ({"of_kind": {"capacity_l": 9.0}}, "of_kind.capacity_source"),
        ({"of_kind": {"key": "submarine"}}, None),
        ({"owner": {"name": "Hanne", "email": "hanne"}}, "owner.email"),
        ({"owner": {"name": "", "telephone": "555 01"}}, "owner.name"),
        ({"owner": {"name": "Hanne", "telephone": "ring me"}}, "owner.telephone"),
        ({"loop": {"layout": "degas_tank", "capacity_l": 9, "capacity_source": "manual"}}, "loop"),
    ],
)
def test_it_refuses_what_the_depot_refuses(ines, depot, changes, field):
    tablet = Tablet(ines, depot)
    body = body_of("FIELD 9", **changes)
    status, said = tablet.ask("POST", "/api/machines", body)
    there = ines.post("/api/machines", body)
    assert (status, said["field"], said["message"]) == (there.status_code, there.json()["field"], there.json()["message"])
    assert field is None or said["field"] == field
    assert tablet.waits == []


def test_like_another_asks_for_the_network(ines, depot):
    tablet = Tablet(ines, depot)
    body = body_of("FIELD 9") | {"of_kind": None, "copy_of": Machine.objects.first().pk}
    assert tablet.ask("POST", "/api/machines", body)[1]["code"] == "needs_network"


def test_two_tablets_take_the_same_plate_in_and_neither_is_lost(ines, tomo, depot):
    one, two = Tablet(ines, depot), Tablet(tomo, depot)
    for tablet in (one, two):
        assert tablet.ask("POST", "/api/machines", body_of("A PLATE OF 16 CH"))[0] == 201
    first = ines.post("/api/machines", one.waits[0]["body"]).json()
    second = tomo.post("/api/machines", two.waits[0]["body"]).json()
    assert (first["fleet_number"], second["fleet_number"]) == ("A PLATE OF 16 CH", "A PLATE OF 1 (2)")
    assert tomo.post("/api/machines", two.waits[0]["body"]).json() == second
    here = body_of("A PLATE OF 16 CH")
    assert ines.post("/api/machines", here).status_code == 409  # where there is a network it is asked


def test_old_kits_without_the_depots_cold_ask_for_a_network(ines, depot):
    tablet = Tablet(ines, depot)
    kit = json.loads(tablet.text)
    del kit["depot"]["coldest_c"]
    tablet.bay = Bay(json.dumps(kit))
    assert tablet.ask("POST", "/api/machines", body_of("FIELD 9"))[1]["code"] == "kit_older"
    assert tablet.ask("GET", "/api/kinds", now=timezone.now() + timedelta(hours=1))[0] == 200
