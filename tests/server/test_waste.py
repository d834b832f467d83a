"""Waste to its end: full containers, who took them, the register, recovered coolant on the shelf."""

import io
import uuid
from datetime import timedelta

import pytest
from django.utils import timezone
from PIL import Image
from shelf.models import Can, HandedOver

from jobs.models import Entry
from tests.server.conftest import Api
from tests.server.test_editing import edit


@pytest.fixture
def filled(ines, railcar):
    """The railcar's old coolant, drained, in two containers; the loop."""
    assert ines.record(railcar, "drained", {"drained_l": 40.0, "measured": "weighed"}).status_code == 201
    facts = {"kind": "old_coolant", "litres": 38.0, "containers": 2, "stands": "behind bay 2"}
    assert ines.record(railcar, "waste_kept", facts).status_code == 201
    return railcar


def mine(waste, loop):
    """Rows of one loop that stand here."""
    return [row for row in waste["standing"] if row["loop_id"] == loop.id]


def hand_over(api, rows, **more):
    """Somebody takes them."""
    body = {"id": str(uuid.uuid4()), "entry_ids": [row["entry_id"] for row in rows], "taken_by": "Fjordline Waste"}
    return api.post("/api/waste/handovers", body | {"paper": "W-3311"} | more)


def test_what_stands_full_is_listed_with_its_place(ines, filled):
    (row,) = mine(ines.get("/api/waste").json(), filled)
    assert (row["litres"], row["containers"], row["stands"], row["too_long"]) == (38.0, 2, "behind bay 2", False)
    assert row["fleet_number"] == "R-02"


def test_handed_over_it_leaves_the_list_and_stands_in_the_register(ines, filled):
    rows = mine(ines.get("/api/waste").json(), filled)
    id_ = str(uuid.uuid4())
    for _ in range(2):  # the answer was lost: sent again
        answer = hand_over(ines, rows, id=id_)
        assert answer.status_code == 201, answer.content
    waste = answer.json()
    assert mine(waste, filled) == []
    (one,) = [row for row in waste["handovers"] if row["id"] == id_]
    assert (one["litres"], one["paper"], one["taken_by"]) == (38.0, "W-3311", "Fjordline Waste")
    month = next(row for row in waste["months"] if row["kind"] == "old_coolant")
    assert month["handed_l"] == 38.0
    assert HandedOver.objects.filter(handover=id_).count() == 1
    text = ines.get("/api/waste.csv").content.decode()
    assert text.splitlines()[0] == "month,kind,filled_l,handed_over_l,stands_at_its_end_l"
    assert "old coolant" in text


@pytest.mark.parametrize(
    ("change", "status", "field"),
    [
        ({"taken_by": "  "}, 400, "taken_by"),
        ({"entry_ids": [str(uuid.uuid4())]}, 400, "entry_ids.0"),
        ({"entry_ids": []}, 400, "entry_ids"),
        ({"at": (timezone.now() - timedelta(days=3)).isoformat()}, 400, "at"),
    ],
)
def test_what_cannot_be_is_refused(ines, filled, change, status, field):
    rows = mine(ines.get("/api/waste").json(), filled)
    answer = hand_over(ines, rows, **change)
    assert (answer.status_code, answer.json()["field"]) == (status, field)
    assert mine(ines.get("/api/waste").json(), filled)


def test_two_carriers_do_not_take_the_same_containers(ines, tomo, filled):
    rows = mine(ines.get("/api/waste").json(), filled)
    assert hand_over(ines, rows).status_code == 201
    assert hand_over(tomo, rows).status_code == 409


def test_only_a_lead_undoes_a_handover_and_it_stays_struck(ines, maud, filled):
    rows = mine(ines.get("/api/waste").json(), filled)
    one = hand_over(ines, rows).json()["handovers"][0]
    assert ines.send("delete", f"/api/waste/handovers/{one['id']}").status_code == 403
    waste = maud.send("delete", f"/api/waste/handovers/{one['id']}").json()
    assert mine(waste, filled)
    assert waste["handovers"][0]["undone"]
    assert hand_over(ines, rows).status_code == 201  # the right one


def test_its_paper_is_photographed_and_seen_in_the_depot_only(ines, filled, elsewhere):
    from people.models import Person

    one = hand_over(ines, mine(ines.get("/api/waste").json(), filled)).json()["handovers"][0]
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "white").save(picture, "JPEG")
    picture.seek(0)
    picture.name = "paper.jpg"
    answer = ines.client.post(f"/api/waste/handovers/{one['id']}/photo", {"file": picture}, HTTP_X_CSRFTOKEN=ines.token)
    assert answer.status_code == 201, answer.content
    sha = answer.json()["handovers"][0]["photo"]
    assert ines.get(f"/api/photos/{sha}").status_code == 200
    other = Api(Person.objects.get(username="else"))
    assert other.get(f"/api/photos/{sha}").status_code == 404
    assert other.get("/api/waste").json()["standing"] == []


def test_what_stands_too_long_is_said(maud, filled):
    Entry.objects.filter(loop=filled, kind="waste_kept").update(happened_at=timezone.now() - timedelta(days=120))
    waste = maud.get("/api/waste").json()
    (row,) = mine(waste, filled)
    assert (row["days"], row["too_long"]) == (120, True)
    assert waste["too_long"] >= 2


def test_an_undone_entry_is_no_waste(ines, filled):
    entry = Entry.objects.get(loop=filled, kind="waste_kept")
    ines.record(filled, "voided", {"entry_id": str(entry.id), "reason": "wrong machine"})
    assert mine(ines.get("/api/waste").json(), filled) == []


def test_coolant_kept_for_reuse_stands_on_the_shelf_with_its_strength(ines, depot):
    from tests.server.conftest import loop_of

    loop = loop_of("S-12")  # signed off and sound: a new job drains it clean
    job = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id, "loops": [{"loop_id": loop.id, "job_type": "refill"}]}
    assert ines.post("/api/jobs", job).status_code == 201
    glass = depot.instruments.get(name="Glass 3")
    state = ines.get(f"/api/loops/{loop.id}").json()["state"]
    ines.record(loop, "read", {"value": -38.0, "place": "as_found", "instrument_id": glass.id, "sample_c": 18.0})
    ines.record(loop, "sampled", {"spot": "neck", "looks": ["clean_bright"]})
    assert ines.record(loop, "drained", {"drained_l": 6.0, "measured": "weighed"}).status_code == 201
    state = ines.get(f"/api/loops/{loop.id}").json()["state"]
    assert state["flush"]["no_reuse"] == [], state["flush"]["no_reuse"]
    facts = {"kind": "old_coolant", "litres": 5.8, "reuse": True, "stands": "shelf, blue lid"}
    assert ines.record(loop, "waste_kept", facts).status_code == 201
    can = Can.objects.get(loop=loop, kind="recovered")
    assert can.product.family == state["found"]["family"]
    assert can.strength_percent == pytest.approx(state["found"]["strength_percent"])
    assert mine(ines.get("/api/waste").json(), loop) == []  # it is no waste
    entry = Entry.objects.get(loop=loop, kind="waste_kept")
    ines.record(loop, "voided", {"entry_id": str(entry.id), "reason": "dirty after all"})
    can.refresh_from_db()
    assert can.emptied_at is not None
    facts["reuse"] = False
    assert ines.record(loop, "waste_kept", facts).status_code == 201
    assert not Can.objects.filter(loop=loop, kind="recovered", emptied_at=None).exists()
    edited = edit(ines, Entry.objects.filter(loop=loop, kind="waste_kept").latest("seq"), "reuse", True)
    assert edited.status_code == 200, edited.json()
    again = Can.objects.get(loop=loop, kind="recovered", emptied_at=None)
    assert again.counts.get().litres == pytest.approx(5.8)
    assert mine(ines.get("/api/waste").json(), loop) == []
