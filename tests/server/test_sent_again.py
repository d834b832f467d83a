"""What is sent twice, late, or under another clock; a record that cannot be worked out; who may sign what off."""

import uuid
from datetime import timedelta

import pytest
from django.utils import timezone

from jobs.models import Entry
from tests.server.conftest import loop_of
from tests.server.test_entries import bench, drain


def entry(kind, facts, **more):
    """One entry as it is sent."""
    return {"id": str(uuid.uuid4()), "kind": kind, "facts": facts} | more


def send(api, loop, *entries, **more):
    """Entries on a loop, as they are."""
    return api.post(f"/api/loops/{loop.id}/entries", {"entries": list(entries)} | more)


def test_the_same_id_with_other_facts_is_refused_and_the_first_stands(ines, railcar):
    id_ = uuid.uuid4()
    bench(ines.record(railcar, "drained", drain(), id_=id_))
    answer = ines.record(railcar, "drained", drain(30.0), id_=id_)
    assert (answer.status_code, answer.json()["code"]) == (409, "id_taken")
    assert Entry.objects.get(pk=id_).facts["drained_l"] == 40.0


def test_the_same_id_by_another_person_is_refused(ines, tomo, railcar):
    told = entry("metered", {"distance_km": 1000.0, "hours": None, "replaced": False})
    assert send(ines, railcar, told).status_code == 201
    assert send(ines, railcar, told).status_code == 201
    assert send(tomo, railcar, told).status_code == 409
    assert Entry.objects.filter(pk=told["id"]).count() == 1


def test_taking_back_twice_under_one_id_takes_back_once(ines, railcar):
    told = entry("metered", {"distance_km": 1000.0, "hours": None, "replaced": False})
    assert send(ines, railcar, told).status_code == 201
    back = entry("voided", {"entry_id": told["id"], "reason": "wrong machine"})
    assert send(ines, railcar, back).status_code == 201
    assert send(ines, railcar, back).status_code == 201
    other = entry("voided", {"entry_id": told["id"], "reason": "wrong machine"})
    assert send(ines, railcar, other).status_code in (400, 409)
    assert Entry.objects.filter(kind="voided", loop=railcar).count() == 1


def test_what_was_recorded_under_a_clock_set_back_is_still_seen_as_later(ines, tomo, railcar):
    seen = ines.get(f"/api/loops/{railcar.id}").json()["state"]["last_entry_id"]
    early = (timezone.now() - timedelta(seconds=30)).isoformat()
    opened = Entry.objects.get(pk=seen)
    Entry.objects.filter(pk=seen).update(recorded_at=opened.recorded_at + timedelta(hours=2))
    facts = {"distance_km": 1000.0, "hours": None, "replaced": False}
    assert send(tomo, railcar, entry("metered", facts, happened_at=early), seen=seen).status_code == 201
    answer = send(ines, railcar, entry("metered", facts), seen=seen)
    assert (answer.status_code, answer.json()["code"]) == (409, "ledger_moved")


def test_one_record_that_cannot_be_worked_out_takes_nothing_else_down(ines, maud, railcar):
    told = entry("metered", {"distance_km": 1000.0, "hours": None, "replaced": False})
    assert send(ines, railcar, told).status_code == 201
    Entry.objects.filter(pk=told["id"]).update(facts={"distance_km": "lots"})
    board = ines.get("/api/board")
    assert board.status_code == 200
    assert [row["loop_id"] for row in board.json()["broken"]] == [railcar.id]
    assert len(board.json()["strips"]) > 5
    assert ines.get("/api/machines").status_code == 200
    assert ines.get(f"/api/loops/{railcar.id}").status_code == 409
    ledger = ines.get(f"/api/loops/{railcar.id}/ledger").json()
    assert ledger["state"] is None
    assert ledger["broken"]
    back = entry("voided", {"entry_id": told["id"], "reason": "cannot be worked out"})
    assert send(ines, railcar, back, seen=told["id"]).status_code == 201
    assert ines.get(f"/api/loops/{railcar.id}").status_code == 200
    assert ines.get("/api/board").json()["broken"] == []


def test_facts_that_cannot_be_folded_are_never_stored(ines, railcar, monkeypatch):
    import jobs.actions

    def fails(*_):
        raise ZeroDivisionError

    monkeypatch.setattr(jobs.actions, "fold", fails)
    answer = send(ines, railcar, entry("metered", {"distance_km": 1000.0, "hours": None, "replaced": False}))
    assert (answer.status_code, answer.json()["code"]) == (400, "not_digested")
    assert not Entry.objects.filter(loop=railcar, kind="metered").exists()


@pytest.mark.parametrize("size", ["²", "-1", "one"])
def test_a_size_that_is_no_number_is_refused(ines, size):
    assert ines.get(f"/api/readings?size={size}").status_code == 400


def test_deeply_nested_json_is_refused_not_a_crash(ines, railcar):
    body = '{"entries":' + "[" * 100_000 + "]" * 100_000 + "}"
    answer = ines.client.post(
        f"/api/loops/{railcar.id}/entries", body, content_type="application/json", HTTP_X_CSRFTOKEN=ines.token
    )
    assert answer.status_code == 400


def test_nothing_that_opens_a_loop_passes_without_its_check_on_a_top_up(ines, sled):
    job = {"id": str(uuid.uuid4()), "machine_id": sled.machine_id, "loops": [{"loop_id": sled.id, "job_type": "top_up"}]}
    assert ines.post("/api/jobs", job).status_code == 201
    product = ines.get(f"/api/loops/{sled.id}").json()["choices"][0]["product"]["id"]
    assert send(ines, sled, entry("planned", {"product_id": product, "coldest_c": -10, "margin_k": 5})).status_code == 201
    pour = {"product_id": product, "product_l": 0.2, "water_l": 0, "at_mark": True}
    answer = send(ines, sled, entry("poured", pour))
    assert answer.status_code in (400, 409)
    hot = {"warmth": "hand", "held": False, "pressure": "hose", "soft": False, "ready": ["glasses"]}
    send(ines, sled, entry("gate_observed", hot))
    assert send(ines, sled, entry("poured", pour)).status_code in (400, 409)
    assert not Entry.objects.filter(loop=sled, kind="poured").exists()


def test_a_reading_between_services_stands_behind_the_check(ines, depot):
    loop = loop_of("S-12")
    glass = depot.instruments.get(name="Glass 3")
    facts = {"value": -36.0, "place": "as_found", "instrument_id": glass.id, "sample_c": 20.0}
    answer = send(ines, loop, entry("read", facts), between=True)
    assert (answer.status_code, answer.json()["code"]) == (409, "gate_shut")
