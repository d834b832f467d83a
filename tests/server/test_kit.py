"""A tablet's kit at work: what is recorded without a network, and how the depot takes it when it is sent.

The browser's own Python answers the same (test_bay); here the same code runs beside the server, so that walks are quick.
"""

import json
import random
import uuid
from collections import Counter
from datetime import timedelta

import pytest
from bay.answers import Bay
from django.utils import timezone

from fleet.models import Loop
from jobs.models import Entry, JobLoop, cores_of
from people.models import Person
from temper_core.job.entries import JobOpened
from temper_core.job.kinds import REGISTRY
from tests.server.test_walks import as_sent
from tests.walks import steps

MOST_KB = 1000  # of 40 loops


@pytest.fixture
def depots_now(depot):
    """The depot's clock as text."""
    return lambda: depot.now.isoformat()


class Tablet:
    """A kit at work, and what waits on it."""

    def __init__(self, api, depot, **query):
        answer = api.get("/api/kit" + "".join(f"?{key}={value}" for key, value in query.items()))
        assert answer.status_code == 200, answer.content
        self.text, self.depot, self.waits = answer.content.decode(), depot, []
        self.bay = Bay(self.text)

    def ask(self, method, path, body=None, now=None):
        """Status and body; what is to be sent is kept."""
        asked = {"method": method, "path": path, "body": body, "now": (now or self.depot.now).isoformat()}
        said = json.loads(self.bay.ask(json.dumps(asked)))
        if said["keep"]:
            self.waits.append(said["keep"] | {"at": asked["now"]})
        return said["status"], json.loads(said["text"]) if said["text"] else None

    def record(self, loop, kind, facts, now=None, **more):
        """One entry."""
        entry = {"id": str(uuid.uuid4()), "kind": kind, "facts": facts}
        return self.ask("POST", f"/api/loops/{loop.id}/entries", {"entries": [entry], "seen": None, **more}, now)

    def send(self, api, rows=None):
        """Everything that waits, as the page sends it."""
        for row in self.waits if rows is None else rows:
            body = row["body"] | ({"apart": True, "seen": None} if "entries" in row["body"] else {})
            answer = api.post(row["path"], body)
            assert answer.status_code == 201, answer.content
        if rows is None:
            self.waits = []


def loop_of(number, position=1):
    """A loop by its machine's number."""
    return Loop.objects.get(machine__fleet_number=number, position=position)


def state_at(api, loop):
    """The loop's state as the depot has it."""
    return api.get(f"/api/loops/{loop.id}").json()["state"]


def test_a_kit_holds_the_loops_in_work_and_is_small(ines, depot):
    kit = json.loads(Tablet(ines, depot).text)
    in_work = set(JobLoop.objects.filter(signed_at__isnull=True).values_list("loop_id", flat=True))
    loops = {row["id"] for row in kit["loops"]}
    assert in_work <= loops
    assert kit["person"]["username"] == "ines"
    a_loop_kb = len(json.dumps(kit["loops"], separators=(",", ":"))) / len(loops) / 1000
    rest_kb = len(json.dumps(kit | {"loops": []}, separators=(",", ":"))) / 1000
    assert rest_kb + 40 * a_loop_kb < MOST_KB, (rest_kb, a_loop_kb)
    assert "password" not in json.dumps(kit)


def test_a_kit_is_for_people_and_takes_numbers_of_machines(ines, depot, elsewhere):
    assert ines.get("/api/kit?machines=x").json()["code"] == "not_numbers"
    other = json.loads(Tablet(ines, depot, machines=str(elsewhere.machine_id)).text)
    assert elsewhere.pk not in {row["id"] for row in other["loops"]}


def test_a_job_is_opened_and_done_without_a_network_and_the_depot_ends_in_the_same_state(ines, depot):
    loop = loop_of("S-12")
    tablet = Tablet(ines, depot, machines=str(loop.machine_id))
    job = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id, "loops": [{"loop_id": loop.id, "job_type": "check"}]}
    assert tablet.ask("POST", "/api/jobs", job)[0] == 201
    status, page = tablet.record(loop, "contents_reported", {"base": "ethylene", "family": "oat", "topped_up": "water"})
    assert status == 201, page
    assert tablet.record(loop, "paused", {"note": "lunch"})[0] == 201
    assert not Entry.objects.filter(loop=loop, kind="paused").exists()
    here = tablet.ask("GET", f"/api/loops/{loop.id}")[1]["state"]
    assert here["paused"]["note"] == "lunch"
    tablet.send(ines)
    there = state_at(ines, loop)
    assert {key for key in there if there[key] != here[key]} <= {"timers"}
    opened = Entry.objects.get(loop=loop, kind="job_opened", job__id=job["id"])
    assert opened.person.username == "ines"


def test_what_was_sent_and_only_the_answer_was_lost_is_stored_once(ines, depot):
    """The page asked the server first, without a time; nothing answered, so it was kept here with its time."""
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    body = {"entries": [{"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 33.0}}], "seen": None}
    assert ines.post(f"/api/loops/{loop.id}/entries", body).status_code == 201
    assert tablet.ask("POST", f"/api/loops/{loop.id}/entries", body)[0] == 201
    tablet.send(ines, [tablet.waits[0], tablet.waits[0]])
    assert Entry.objects.filter(pk=body["entries"][0]["id"]).count() == 1
    other = json.loads(json.dumps(tablet.waits[0]))
    other["body"]["entries"][0]["facts"]["c"] = 34.0
    refused = ines.post(other["path"], other["body"])
    assert (refused.status_code, refused.json()["code"]) == (409, "id_taken")


def test_nothing_is_kept_of_what_is_refused(ines, depot):
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    before = tablet.ask("GET", f"/api/loops/{loop.id}")[1]["state"]["last_entry_id"]
    good = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 33.0}}
    bad = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 3300.0}}
    status, said = tablet.ask("POST", f"/api/loops/{loop.id}/entries", {"entries": [good, bad], "seen": None})
    assert (status, said["code"]) == (400, "out_of_range")
    assert tablet.waits == []
    assert tablet.ask("GET", f"/api/loops/{loop.id}")[1]["state"]["last_entry_id"] == before


def test_asked_twice_it_waits_once_and_a_draft_stays_in_the_browser(ines, depot):
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    body = {"entries": [{"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 33.0}}], "seen": None}
    for _ in range(2):
        assert tablet.ask("POST", f"/api/loops/{loop.id}/entries", body)[0] == 201
    assert len(tablet.waits) == 1
    status, said = tablet.ask("PUT", f"/api/loops/{loop.id}/drafts/verify", {"data": {"value": "-30"}, "seen": None})
    assert (status, said["code"]) == (503, "needs_network")  # so the page keeps it where it was typed


def test_a_loop_that_was_not_taken_along_and_what_only_the_server_has_say_so(ines, depot):
    tablet = Tablet(ines, depot)
    status, said = tablet.ask("GET", "/api/loops/99999")
    assert (status, said["code"]) == (409, "not_in_kit")
    status, said = tablet.ask("GET", "/api/figures")
    assert (status, said["code"]) == (503, "needs_network")


def test_an_old_kit_records_but_gives_no_verdict(ines, depot):
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    late = depot.now + timedelta(hours=73)
    assert tablet.record(loop, "temperature_logged", {"c": 22.0}, late)[0] == 201
    status, said = tablet.record(loop, "signed_off", {"proof": "proven"}, late)
    assert status == 403
    assert "72 hours without contact" in said["message"]


@pytest.mark.parametrize("later_h", [-3, 0, 80])
def test_a_reload_stands_where_it_stood(ines, depot, later_h):
    """Whatever was taken is taken again, also days later, or by a clock that was set back."""
    loop = loop_of("T-22")
    tablet = Tablet(ines, depot)
    for kind, facts in [("temperature_logged", {"c": 33.0}), ("resumed", {}), ("paused", {"note": "lunch"})]:
        assert tablet.record(loop, kind, facts)[0] == 201
    before = tablet.ask("GET", f"/api/loops/{loop.id}")[1]["state"]
    again = Tablet(ines, depot)
    later = (depot.now + timedelta(hours=later_h)).isoformat()
    assert json.loads(again.bay.again(json.dumps(tablet.waits), later)) == []
    after = again.ask("GET", f"/api/loops/{loop.id}")[1]["state"]
    assert {key for key in after if after[key] != before[key]} <= {"timers"}


def test_a_technician_may_no_more_than_at_the_depot(ines, maud, depot):
    loop = loop_of("D-17")
    theirs = Entry.objects.filter(loop=loop).exclude(person__username="ines").exclude(kind="job_opened").last()
    if theirs is None:
        theirs = Entry.objects.create(
            id=uuid.uuid4(), loop=loop, job=Entry.objects.filter(loop=loop).last().job, kind="temperature_logged",
            facts={"c": 30.0}, happened_at=timezone.now(), recorded_at=timezone.now(),
            person=Person.objects.get(username="tomo"),
        )  # fmt: skip
    undo = {"entry_id": str(theirs.pk)}
    for api, status in ((ines, 409), (maud, 201)):
        answer = Tablet(api, depot).record(loop, "voided", undo)
        assert answer[0] == status, answer


def test_recorded_apart_is_asked_at_its_own_time(ines, tomo, depot):
    """Tomo ran the engine at the depot after Ines had felt and measured out there: hers happened before."""
    loop = loop_of("T-22")
    tablet = Tablet(ines, depot)
    tablet.record(loop, "resumed", {})
    gate = {"warmth": "hand", "pressure": "hose", "held": True, "soft": True}
    status, said = tablet.record(loop, "gate_observed", gate | {"ready": ["supported", "ventilated", "tray", "glasses"]})
    assert status == 201, said
    tablet.send(ines)
    assert Entry.objects.filter(loop=loop, kind="gate_observed", person__username="ines").exists()
    run = {"id": str(uuid.uuid4()), "kind": "engine_run", "facts": {"by": "engine", "minutes": 5.0}}
    at = (timezone.now() + timedelta(seconds=30)).isoformat()
    assert (
        tomo.post(f"/api/loops/{loop.id}/entries", {"entries": [run | {"happened_at": at}], "seen": None}).status_code == 201
    )
    mine = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 31.0}}
    body = {"entries": [mine | {"happened_at": timezone.now().isoformat()}], "seen": None, "apart": True}
    assert ines.post(f"/api/loops/{loop.id}/entries", body).status_code == 201


def test_both_stories_are_put_side_by_side(ines, tomo, depot):
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    kit = json.loads(tablet.text)
    seen = max(row["seq"] for one in kit["loops"] if one["id"] == loop.id for row in one["rows"])
    assert tablet.record(loop, "paused", {"note": "mine"})[0] == 201
    theirs = {"id": str(uuid.uuid4()), "kind": "paused", "facts": {"note": "theirs"}}
    assert tomo.post(f"/api/loops/{loop.id}/entries", {"entries": [theirs], "seen": None}).status_code == 201
    waits = [{"n": 7, "body": tablet.waits[0]["body"] | {"apart": True}}]
    answer = ines.post(f"/api/kit/loops/{loop.id}", {"seen": seen, "waits": waits})
    assert answer.status_code == 200, answer.content
    said = answer.json()
    (mine,) = said["mine"]
    assert (mine["n"], mine["met"]["asks"]) == (7, True)
    assert [row["id"] for row in said["theirs"]] == [theirs["id"]]
    assert all(said[which]["inside"]["template"] for which in ("here", "there", "together"))


@pytest.mark.parametrize("number", ["G-02", "T-22", "S-12"])
def test_whatever_a_tablet_took_the_depot_takes_and_both_end_alike(ines, depot, number):
    """Seeded walks: jobs begun, done and undone without a network, sent in their order."""
    loop = loop_of(number)
    tablet = Tablet(ines, depot, machines=str(loop.machine_id))
    rng, kinds, entries, taken = random.Random(number), Counter(), cores_of(loop.entries.acting()), 0
    for facts in steps(rng, entries, kinds, tries=90):
        kind = REGISTRY.of(facts)
        if isinstance(facts, JobOpened):
            job = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id}
            job["loops"] = [{"loop_id": loop.id, "job_type": facts.job_type.value}]
            taken += tablet.ask("POST", "/api/jobs", job)[0] == 201
        elif kind.by_client and kind.name != "acknowledged":
            taken += tablet.record(loop, kind.name, as_sent(facts, depot))[0] == 201
    assert taken >= 4
    here = tablet.ask("GET", f"/api/loops/{loop.id}")[1]["state"]
    tablet.send(ines)
    there = state_at(ines, loop)
    moving = {"timers", "gate", "due"}
    assert {key for key in there if there[key] != here[key]} <= moving
