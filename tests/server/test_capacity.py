"""A capacity learned from readings: offered, taken over by a lead between jobs, once."""

import uuid

import pytest

from tests.server.conftest import loop_of


@pytest.fixture
def loader(depot):
    """W-02: finished, and its readings know the capacity better than somebody's memory."""
    return loop_of("W-02")


def test_a_learned_capacity_is_offered_to_a_lead_and_taken_over_once(ines, maud, loader):
    learned = ines.get(f"/api/loops/{loader.id}").json()["state"]["learned"]
    assert learned["believed"]["value"] == 16.0
    assert learned["believed"]["sd"] == pytest.approx(1.6)
    assert learned["believed"]["half"] == pytest.approx(1.96 * 1.6, rel=1e-3)
    assert learned["combined"]["sd"] < 0.5
    address, body = f"/api/loops/{loader.id}/capacity", {"capacity_l": learned["combined"]["value"]}
    assert ines.post(address, body).status_code == 403
    assert maud.post(address, {"capacity_l": 17.0}).json()["code"] == "moved"
    bench_after = maud.post(address, body)
    assert bench_after.status_code == 200
    said = bench_after.json()
    assert said["loop"]["capacity_l"] == pytest.approx(learned["combined"]["value"])
    assert said["loop"]["capacity_source"] == "learned"
    assert said["state"]["learned"] is None  # one reading is not learned from twice
    assert said["state"]["spread"]["loop_volume_l"] == pytest.approx(learned["combined"]["sd"], rel=1e-3)
    again = maud.post(address, body)
    assert again.status_code == 409
    assert again.json()["code"] == "nothing_learned"
    loader.refresh_from_db()
    assert "Maud Stellan" in loader.capacity_note


def test_no_capacity_changes_under_an_open_job(maud, loader):
    job = {"id": str(uuid.uuid4()), "machine_id": loader.machine_id, "loops": [{"loop_id": loader.id, "job_type": "refill"}]}
    assert maud.post("/api/jobs", job).status_code == 201
    answer = maud.post(f"/api/loops/{loader.id}/capacity", {"capacity_l": 16.1})
    assert answer.status_code == 409
    assert answer.json()["code"] == "job_open"


def test_a_capacity_that_would_hardly_sharpen_is_not_offered(ines):
    shuttle = loop_of("S-12")  # from the book, within 3 %: three readings to a degree do not know it better
    assert ines.get(f"/api/loops/{shuttle.id}").json()["state"]["learned"] is None


def test_signing_off_keeps_the_share_of_old_coolant(ines, loader):
    """The readings say how strong it is; how much of it is old the litres say, and they still do."""
    inside = ines.get(f"/api/loops/{loader.id}").json()["state"]["inside"]
    assert 0 < inside["finished_old_percent"] < 2
    assert inside["old_percent"] == pytest.approx(inside["finished_old_percent"], abs=0.1)
