"""A job begun on the wrong machine: moved whole, by the rules of the right one, and struck where it stood."""

import uuid

import pytest
from shelf.models import Draw

from fleet.models import Loop, Machine
from jobs.chain import ledger_breaks
from jobs.models import Entry, Job, JobLoop
from tests.server.test_owners import take_in

pytestmark = pytest.mark.django_db


@pytest.fixture
def pair(ines, depot):
    """Two machines as they came in, and an open check with a temperature on the first: loops and job."""
    loops = []
    for number in ("WRONG 1", "RIGHT 1"):
        assert take_in(ines, number).status_code == 201
        loops.append(Loop.objects.get(machine__fleet_number=number))
    job = str(uuid.uuid4())
    body = {"id": job, "machine_id": loops[0].machine_id, "loops": [{"loop_id": loops[0].pk, "job_type": "check"}]}
    assert ines.post("/api/jobs", body).status_code == 201
    assert ines.record(loops[0], "temperature_logged", {"c": 31.0}).status_code == 201
    ines.check_safe(loops[0])
    return *loops, job


def move(api, job, machine_id):
    """As the dialog asks for it."""
    return api.post(f"/api/jobs/{job}/move", {"machine_id": machine_id})


def test_it_is_recorded_there_as_it_happened_and_struck_here(ines, maud, pair):
    wrong, right, job = pair
    before = list(Entry.objects.filter(loop=wrong).order_by("seq").values_list("kind", "happened_at", "person__username"))
    assert move(ines, job, right.machine_id).status_code == 403
    ines.send("put", f"/api/loops/{wrong.pk}/drafts/inspect", {"data": {"typed": "half a sentence"}, "seen": None})
    moved = move(maud, job, right.machine_id)
    assert (moved.status_code, moved.json()["loop_ids"]) == (200, [right.pk])
    drafts = ines.get(f"/api/loops/{right.pk}").json()["drafts"]
    assert [row["data"] for row in drafts] == [{"typed": "half a sentence"}]  # what is typed goes along
    after = list(Entry.objects.filter(loop=right).order_by("seq").values_list("kind", "happened_at", "person__username"))
    assert after == before
    assert not JobLoop.objects.filter(loop=wrong, signed_at=None).exists()
    struck = Entry.objects.filter(loop=wrong, kind="voided")
    assert struck.count() == len(before)
    assert {row.facts["reason"] for row in struck} == {"moved to RIGHT 1"}
    there = ines.get(f"/api/loops/{right.pk}").json()["state"]
    assert (there["job_id"], there["gate"]["observed"]) == (moved.json()["id"], True)
    assert ines.get(f"/api/loops/{wrong.pk}").json()["state"]["job_id"] is None
    assert ledger_breaks() == []
    again = move(maud, job, right.machine_id)
    assert again.json() == moved.json()
    assert Entry.objects.filter(loop=right).count() == len(before)
    assert ines.record(right, "temperature_logged", {"c": 30.0}).status_code == 201  # and it goes on
    reopened = {
        "id": str(uuid.uuid4()),
        "machine_id": wrong.machine_id,
        "loops": [{"loop_id": wrong.pk, "job_type": "check"}],
    }
    assert ines.post("/api/jobs", reopened).status_code == 201


def test_it_moves_back_and_a_page_left_open_is_told(maud, pair):
    wrong, right, job = pair
    there = move(maud, job, right.machine_id).json()["id"]
    back = move(maud, there, wrong.machine_id)
    assert back.status_code == 200, back.content
    assert back.json()["loop_ids"] == [wrong.pk]
    stale = move(maud, job, right.machine_id)
    assert (stale.status_code, stale.json()["code"]) == (409, "no_job")
    assert ledger_breaks() == []


def test_an_edit_counts_as_it_is_now(ines, maud, pair):
    wrong, right, job = pair
    logged = Entry.objects.get(loop=wrong, kind="temperature_logged")
    body = {"id": str(uuid.uuid4()), "changes": [{"path": "c", "value": 44.0}], "seen": None, "undo": False}
    assert ines.send("put", f"/api/loops/{wrong.pk}/entries/{logged.pk}", body).status_code in (200, 201)
    assert move(maud, job, right.machine_id).status_code == 200
    assert Entry.objects.get(loop=right, kind="temperature_logged").facts["c"] == 44.0
    assert not Entry.objects.filter(loop=right, kind="edited").exists()


def test_what_cannot_be_there_moves_nothing(maud, ines, pair, depot, elsewhere):
    wrong, right, job = pair
    many = Entry.objects.count()
    busy = JobLoop.objects.filter(signed_at=None).exclude(loop=wrong).first().loop
    plain = Machine.objects.get(pk=wrong.machine_id)
    for machine_id, status, code in (
        (plain.pk, 409, "same"),
        (busy.machine_id, 409, None),
        (elsewhere.machine_id, 404, None),
        (10**9, 404, None),
    ):
        refused = move(maud, job, machine_id)
        assert refused.status_code == status, refused.content
        assert code is None or refused.json()["code"] == code
    assert move(maud, uuid.uuid4(), right.machine_id).status_code == 404
    Loop.objects.filter(pk=right.pk).update(position=2)
    refused = move(maud, job, right.machine_id)
    assert refused.json()["code"] == "no_such_loop"
    assert "RIGHT 1 has no loop 1" in refused.json()["message"]
    Loop.objects.filter(pk=right.pk).update(position=1, high_voltage=True)
    refused = move(maud, job, right.machine_id)  # the check was made without isolating, which this machine asks for
    assert refused.status_code in (200, 409)
    signed = JobLoop.objects.exclude(signed_at=None).exclude(job__job_loops__signed_at=None).first()
    assert move(maud, signed.job_id, right.machine_id).json()["code"] == "signed_off"
    assert refused.status_code == 200 or Entry.objects.count() == many
    assert Job.objects.filter(machine=right.machine).count() == (1 if refused.status_code == 200 else 0)


def test_every_job_in_work_of_the_demo_moves_whole_or_not_at_all(maud, depot):
    """To a sister that shares the layout: what cannot be of it, for what happened there before, moves nothing."""
    jobs = Job.objects.filter(job_loops__signed_at=None).exclude(job_loops__signed_at__isnull=False).distinct()
    moved = 0
    for n, job in enumerate(jobs):
        sister = {"id": str(uuid.uuid4()), "fleet_number": f"SISTER {n}", "kind": "Sister", "copy_of": job.machine_id}
        made = maud.post("/api/machines", sister).json()
        many, draws = Entry.objects.count(), sorted(Draw.objects.values_list("can_id", "litres"))
        answered = move(maud, job.pk, made["id"])
        assert sorted(Draw.objects.values_list("can_id", "litres")) == draws
        if answered.status_code == 200:
            moved += 1
            assert not JobLoop.objects.filter(job=job).exists()
            assert JobLoop.objects.filter(job_id=answered.json()["id"]).count() == len(answered.json()["loop_ids"])
        else:
            assert answered.json()["code"] == "cannot_follow", answered.content
            assert "Nothing was moved." in answered.json()["message"]
            assert Entry.objects.count() == many
    assert moved >= len(jobs) // 2
    assert ledger_breaks() == []
    assert maud.get("/api/board").json()["broken"] == []
