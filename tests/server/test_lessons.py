"""What a machine teaches, over the API: offered from signed jobs, its sisters' too; a lead takes over or refuses."""

import uuid
from datetime import timedelta

import pytest
from django.utils import timezone

from jobs.models import Job, JobLoop
from tests.server.conftest import loop_of


@pytest.fixture
def taught(groomer, ines):
    """The groomer with two signed jobs that were measured, and none in work."""
    JobLoop.objects.filter(loop=groomer).delete()
    for days, share in ((400, 0.74), (40, 0.76)):
        at = timezone.now() - timedelta(days=days)
        job = Job.objects.create(id=uuid.uuid4(), machine=groomer.machine, opened_by=ines_of(ines), opened_at=at)
        result = {"schema": 7, "state": {}, "lesson": {"drain": share, "round": 0.7}}
        JobLoop.objects.create(job=job, loop=groomer, signed_at=at, result=result)
    return groomer


def ines_of(api):
    from people.models import Person

    return Person.objects.get(username="ines")


def rows(api, loop):
    return {row["key"]: row for row in api.get(f"/api/loops/{loop.id}/lessons").json()["rows"]}


def test_two_measured_jobs_are_offered_with_their_doubt(ines, taught):
    found = rows(ines, taught)
    assert set(found) == {"drain", "round"}
    drain = found["drain"]
    assert (drain["jobs"], drain["own"], drain["sisters"], drain["taken"]) == (2, 2, 0, None)
    assert drain["value"] == pytest.approx(0.75)
    assert drain["likely"]["low"] < 0.74 < 0.76 < drain["likely"]["high"]


def test_taken_over_it_is_the_next_prediction_and_refused_it_is_not(ines, maud, taught):
    value = rows(ines, taught)["drain"]["value"]
    body = {"key": "drain", "take": True, "value": value}
    assert ines.post(f"/api/loops/{taught.id}/lessons", body).status_code == 403
    row = next(row for row in maud.post(f"/api/loops/{taught.id}/lessons", body).json()["rows"] if row["key"] == "drain")
    assert (row["taken"], row["taken_value"]) == (True, value)
    bench = ines.get(f"/api/loops/{taught.id}").json()
    assert "Learned from 2 jobs." in bench["taught"]["drain"][0]["sentence"]
    assert maud.post(f"/api/loops/{taught.id}/lessons", body | {"take": False}).status_code == 200
    assert ines.get(f"/api/loops/{taught.id}").json()["taught"] == {}
    assert rows(ines, taught)["drain"]["taken"] is False


@pytest.mark.parametrize(
    ("change", "status", "code"),
    [({"key": "fill"}, 400, "nothing_learned"), ({"value": 0.6}, 409, "moved"), ({"key": "x" * 30}, 400, "")],
)
def test_what_is_not_offered_is_refused(maud, taught, change, status, code):
    refused = maud.post(f"/api/loops/{taught.id}/lessons", {"key": "drain", "take": True, "value": 0.75} | change)
    assert (refused.status_code, code in refused.content.decode()) == (status, True)


def test_while_a_job_is_open_nothing_is_taken_over(maud, taught):
    job = Job.objects.create(id=uuid.uuid4(), machine=taught.machine, opened_by=ines_of(maud), opened_at=timezone.now())
    JobLoop.objects.create(job=job, loop=taught)
    refused = maud.post(f"/api/loops/{taught.id}/lessons", {"key": "drain", "take": True, "value": 0.75})
    assert (refused.status_code, "job_open" in refused.content.decode()) == (409, True)


def test_a_sister_of_the_same_kind_and_layout_counts_and_another_does_not(ines, taught):
    other = loop_of("H-09")
    other.machine.kind, other.name = taught.machine.kind, taught.name
    other.machine.save()
    other.save()
    job = Job.objects.create(id=uuid.uuid4(), machine=other.machine, opened_by=ines_of(ines), opened_at=timezone.now())
    JobLoop.objects.create(job=job, loop=other, signed_at=timezone.now(), result={"lesson": {"drain": 0.5}})
    assert rows(ines, taught)["drain"]["sisters"] == 0
    other.layout, other.capacity_l = taught.layout, taught.capacity_l
    other.save()
    drain = rows(ines, taught)["drain"]
    assert (drain["sisters"], drain["jobs"], drain["own"]) == (1, 3, 2)
    assert drain["value"] < 0.75
