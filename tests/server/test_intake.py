"""A machine taken in by whoever receives it: by its kind, unchecked, high voltage asked, its capacity honest."""

import uuid

import pytest

from fleet.models import Loop, Machine
from fleet.queries import machine_detail
from people.models import Person
from tests.server.conftest import Api

KIND = {"key": "small_car", "high_voltage": False}


@pytest.fixture
def tech(depot):
    return Api(Person.objects.get(username="ines"))


@pytest.fixture
def other(depot):
    return Api(Person.objects.get(username="tomo"))


@pytest.fixture
def lead(depot):
    return Api(Person.objects.get(username="maud"))


def taken(api, number="AB 12", **kind):
    """What the page sends; the machine."""
    body = {"id": str(uuid.uuid4()), "fleet_number": number, "kind": "Small car", "of_kind": KIND | kind}
    answer = api.send("post", "/api/machines", body)
    assert answer.status_code == 201, answer.content
    return Machine.objects.get(pk=answer.json()["id"])


def test_a_technician_takes_a_machine_in_and_a_lead_sees_that_nobody_checked_it(tech, lead):
    machine = taken(tech)
    assert machine.unchecked
    rows = lead.client.get("/api/attention").json()["waiting"]
    row = next(row for row in rows if row["kind"] == "not_checked")
    assert (row["machine"]["fleet_number"], row["by"]) == ("AB 12", "Ines Halvard")
    assert tech.send("post", f"/api/machines/{machine.pk}/checked", {}).status_code == 403
    assert lead.send("post", f"/api/machines/{machine.pk}/checked", {}).status_code == 200
    assert not [row for row in lead.client.get("/api/attention").json()["waiting"] if row["kind"] == "not_checked"]


def test_what_a_lead_takes_in_is_checked(lead):
    assert not taken(lead).unchecked


def test_not_known_is_the_range_of_its_kind(tech):
    loop = taken(tech).loops.get()
    assert (loop.capacity_l, loop.capacity_source) == (5.5, "kind")
    assert loop.capacity_sd_l == pytest.approx(2 / 12**0.5)  # 4.5 to 6.5 L, anything as likely as anything else
    assert "4.5 to 6.5 L" in loop.capacity_note


def test_a_capacity_that_is_known_replaces_it(tech):
    loop = taken(tech, capacity_l=5.2, capacity_source="manual").loops.get()
    assert (loop.capacity_l, loop.capacity_source, loop.capacity_sd_l) == (5.2, "manual", None)


@pytest.mark.parametrize(
    ("kind", "field"),
    [
        ({"capacity_l": 5.2}, "of_kind.capacity_source"),
        ({"capacity_source": "manual"}, "of_kind.capacity_l"),
        ({"key": "boot"}, "kind"),
        ({"capacity_l": -3, "capacity_source": "manual"}, "of_kind.capacity_l"),
    ],
)
def test_what_contradicts_itself_is_refused(tech, kind, field):
    body = {"id": str(uuid.uuid4()), "fleet_number": "AB 12", "kind": "Small car", "of_kind": KIND | kind}
    refused = tech.send("post", "/api/machines", body)
    assert (refused.status_code, refused.json()["field"]) == (400, field)
    assert not Machine.objects.filter(fleet_number="AB 12").exists()


def test_a_hybrid_has_two_loops_and_high_voltage_is_of_the_whole_machine(tech):
    machine = taken(tech, "HY 1", key="hybrid_car", high_voltage=True)
    assert [(loop.name, loop.position) for loop in machine.loops.all()] == [("Engine loop", 1), ("Electronics loop", 2)]
    assert all(loop.core.high_voltage for loop in machine.loops.all())


def test_not_known_high_voltage_counts_as_yes(tech):
    loop = taken(tech, high_voltage=None).loops.get()
    assert loop.high_voltage is None
    assert loop.core.high_voltage
    assert any(row.code == "high_voltage" for row in machine_detail(loop.machine).loops[0].cautions)


def edit(api, loop, **change):
    """The loop's form sent with a change."""
    loop = Loop.objects.get(pk=loop.pk)
    detail = next(row for row in machine_detail(loop.machine).loops if row.id == loop.pk)
    spec = detail.spec.model_dump(mode="json") | change
    return api.send("put", f"/api/loops/{loop.pk}/spec", {"spec": spec, "seen": detail.edited_at.isoformat()})


@pytest.mark.parametrize("said", [True, None])
def test_only_a_lead_makes_a_no_of_a_yes(tech, lead, said):
    loop = taken(tech, high_voltage=said).loops.get()
    assert edit(tech, loop, high_voltage=False).status_code == 403
    assert edit(lead, loop, high_voltage=False).status_code == 200


def test_who_took_it_in_corrects_it_until_the_first_entry_and_nobody_else(tech, other, lead):
    loop = taken(tech).loops.get()
    assert edit(other, loop, name="Mine now").status_code == 403
    assert edit(tech, loop, name="Engine").status_code == 200
    job = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id, "loops": [{"loop_id": loop.pk, "job_type": "check"}]}
    assert tech.send("post", "/api/jobs", job).status_code == 201
    refused = edit(tech, loop, name="Too late")
    assert (refused.status_code, "begun" in refused.json()["message"]) == (403, True)


def test_being_checked_ends_the_technicians_say(tech, lead):
    loop = taken(tech).loops.get()
    lead.send("post", f"/api/machines/{loop.machine_id}/checked", {})
    assert edit(tech, loop, name="Engine").status_code == 403


def test_the_same_plate_is_refused_with_a_word(tech):
    taken(tech)
    body = {"id": str(uuid.uuid4()), "fleet_number": "ab 12", "kind": "Small car", "of_kind": KIND}
    refused = tech.send("post", "/api/machines", body)
    assert (refused.status_code, refused.json()["code"]) == (409, "taken")


def test_a_vessel_that_nothing_joins_is_refused_when_it_is_saved(lead):
    loop = taken(lead).loops.get()
    layout = loop.layout | {"pipes": [pipe for pipe in loop.layout["pipes"] if "heater" not in (pipe["start"], pipe["end"])]}
    refused = edit(lead, loop, layout=layout)
    assert (refused.status_code, refused.json()["code"]) == (400, "not_joined")
    assert "Heater" in refused.json()["message"]


def test_every_kind_can_be_taken_in(tech):
    for n, kind in enumerate(tech.client.get("/api/kinds").json()["kinds"]):
        machine = taken(tech, f"K {n}", key=kind["key"], high_voltage=None)
        assert machine.loops.count() == len(kind["loops"])


def test_a_sister_of_a_machine_nobody_knows_is_as_unsure_as_it(tech):
    machine = taken(tech)
    body = {"id": str(uuid.uuid4()), "fleet_number": "AB 13", "kind": "Small car", "copy_of": machine.pk}
    assert tech.send("post", "/api/machines", body).status_code == 201
    loop = Loop.objects.get(machine__fleet_number="AB 13")
    assert (loop.capacity_source, loop.capacity_sd_l) == ("kind", machine.loops.get().capacity_sd_l)


def test_sent_twice_it_is_taken_in_once(tech):
    body = {"id": str(uuid.uuid4()), "fleet_number": "AB 14", "kind": "Small car", "of_kind": KIND}
    first, second = (tech.send("post", "/api/machines", body) for _ in range(2))
    assert first.json() == second.json()
    assert Machine.objects.filter(fleet_number="AB 14").count() == 1


def test_the_doubt_of_a_kind_is_in_the_litres_that_stay_inside(tech):
    """Drained 3.0 L of a car that holds 4.5 to 6.5 L: what stays is unsure by the whole range, not by a manual's 3 %."""
    loop = taken(tech).loops.get()
    job = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id, "loops": [{"loop_id": loop.pk, "job_type": "refill"}]}
    assert tech.send("post", "/api/jobs", job).status_code == 201
    state = tech.client.get(f"/api/loops/{loop.pk}").json()["loop"]
    assert (state["capacity_l"], state["capacity_source"]) == (5.5, "kind")
