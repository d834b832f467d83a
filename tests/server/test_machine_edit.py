"""Editing machines and loops: leads only, between jobs, never over somebody else's change."""

import uuid
from datetime import timedelta

import pytest

from fleet.models import Loop, Machine
from jobs.models import JobLoop


def detail_of(api, loop):
    """The machine's page, and the part about this loop."""
    page = api.get(f"/api/machines/{loop.machine_id}").json()
    return page, next(row for row in page["loops"] if row["id"] == loop.id)


@pytest.fixture
def shuttle(depot):
    """S-12's engine loop, between jobs."""
    return Loop.objects.get(machine__fleet_number="S-12", position=1)


def edited(api, loop, seen=None, **changes):
    """Send a loop with changes."""
    _, part = detail_of(api, loop)
    body = {"spec": part["spec"] | changes, "seen": seen or part["edited_at"]}
    return api.send("put", f"/api/loops/{loop.id}/spec", body)


def test_what_is_entered_comes_back_and_the_next_job_reckons_with_it(maud, shuttle):
    equipment = {
        "tank": "degas_and_catch",
        "level_rule": "below_lip",
        "level_below_lip_mm": 20,
        "tank_l_per_mm": 0.05,
        "thermostat_opens_c": 85,
        "bleed": None,
        "preheater": True,
        "preheater_pump": True,
        "coolant_filter": "charged",
        "conductivity_limit_us_cm": None,
        "interval": {"months": 48, "distance_km": 180000, "hours": None},
    }
    answer = edited(
        maud, shuttle, equipment=equipment, maker_families=["si_hoat"], maker_stated_in="book, page 3", cap_gauge_kpa=140
    )
    assert answer.status_code == 200, answer.json()
    part = answer.json()["loops"][0]
    assert part["spec"]["equipment"] == equipment
    assert {said["code"] for said in part["cautions"]} == {"preheater", "catch_tank", "charged_filter"}
    assert part["level"]["sentence"] == "Level: 20 mm below the lip, read cold."
    bench = maud.get(f"/api/loops/{shuttle.id}").json()
    verdicts = {choice["product"]["name"]: choice["judged"]["verdict"] for choice in bench["choices"]}
    assert verdicts["Winterline O"] == "emergency_only"  # the maker now asks for another of the same group
    assert bench["cautions"]["fill"][0]["code"] == "preheater"


def test_a_new_capacity_asks_for_vessels_that_add_up_and_forgets_what_was_learned(maud, shuttle):
    Loop.objects.filter(pk=shuttle.pk).update(capacity_sd_l=0.1)
    refused = edited(maud, shuttle, capacity_l=12.0)
    assert refused.status_code == 400
    assert refused.json()["field"] == "spec.layout"
    assert "2.60 L are missing" in refused.json()["message"]
    _, part = detail_of(maud, shuttle)
    layout = part["spec"]["layout"]
    layout["nodes"][-1]["volume_l"] += 2.6
    assert edited(maud, shuttle, capacity_l=12.0, capacity_source="measured", layout=layout).status_code == 200
    shuttle.refresh_from_db()
    assert (shuttle.capacity_l, shuttle.capacity_sd_l) == (12.0, None)
    assert "before 9.40 L; entered by Maud Stellan" in shuttle.capacity_note


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"capacity_l": -3}, "capacity_l"),
        ({"cap_gauge_kpa": 900}, "cap_gauge_kpa"),
        ({"coldest_c": -90}, "coldest_c"),
        ({"believed_strength_percent": 140}, "strength_percent"),
        ({"equipment": {"level_rule": "below_lip"}}, "level_below_lip_mm"),
        ({"layout": {"nodes": []}}, "nodes"),
        ({"colour": "x"}, "colour"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_is_kept(maud, shuttle, changes, field):
    before = Loop.objects.filter(pk=shuttle.pk).values().get()
    answer = edited(maud, shuttle, **changes)
    assert answer.status_code == 400, answer.json()
    assert answer.json()["field"].split(".")[-1] == field
    assert Loop.objects.filter(pk=shuttle.pk).values().get() == before


def test_nobody_writes_over_somebody_elses_change(maud, shuttle):
    _, part = detail_of(maud, shuttle)
    assert edited(maud, shuttle, cap_gauge_kpa=99).status_code == 200
    stale = edited(maud, shuttle, seen=part["edited_at"], cap_gauge_kpa=50)
    assert (stale.status_code, stale.json()["code"]) == (409, "moved")


def test_a_loop_in_work_stays_as_it_is(maud, groomer):
    answer = edited(maud, groomer, cap_gauge_kpa=99)
    assert (answer.status_code, answer.json()["code"]) == (409, "job_open")


def test_a_signed_job_keeps_the_loop_it_had(maud, shuttle):
    before = JobLoop.objects.get(loop=shuttle, signed_at__isnull=False).result["loop"]
    _, part = detail_of(maud, shuttle)
    layout = part["spec"]["layout"]
    layout["nodes"][0]["name"] = "Other tank"
    assert edited(maud, shuttle, layout=layout).status_code == 200
    assert JobLoop.objects.get(loop=shuttle, signed_at__isnull=False).result["loop"] == before


def test_number_and_name(maud, depot):
    machine = Machine.objects.get(fleet_number="W-02")
    page = maud.get(f"/api/machines/{machine.id}").json()
    body = {"fleet_number": "W-03", "kind": "Loader", "description": "", "year": 2012, "seen": page["edited_at"]}
    assert maud.send("put", f"/api/machines/{machine.id}", body).json()["machine"]["fleet_number"] == "W-03"
    assert maud.send("put", f"/api/machines/{machine.id}", body).status_code == 409  # has moved on
    page = maud.get(f"/api/machines/{machine.id}").json()
    taken = maud.send("put", f"/api/machines/{machine.id}", body | {"fleet_number": "g-07", "seen": page["edited_at"]})
    assert (taken.status_code, taken.json()["field"]) == (409, "fleet_number")
    year = maud.send("put", f"/api/machines/{machine.id}", body | {"year": 1492, "seen": page["edited_at"]})
    assert (year.status_code, year.json()["field"]) == (400, "year")


def test_one_more_loop_once(maud, shuttle):
    loop = {"name": "Charge air", "layout": "no_tank", "capacity_l": 4.2, "capacity_source": "manual"}
    body = {"id": str(uuid.uuid4()), "loop": loop}
    for _ in range(2):
        answer = maud.post(f"/api/machines/{shuttle.machine_id}/loops", body)
        assert answer.status_code == 201
        assert [row["position"] for row in answer.json()["loops"]] == [1, 2, 3]
    bad = maud.post(f"/api/machines/{shuttle.machine_id}/loops", {"id": str(uuid.uuid4()), "loop": loop | {"capacity_l": 0}})
    assert bad.json()["field"] == "loop.capacity_l"


def test_the_list_says_when_each_is_due(ines):
    cards = {card["machine"]["fleet_number"]: card for card in ines.get("/api/machines").json()["machines"]}
    assert len(cards) == 18
    assert cards["S-12"]["loops"][0]["due_on"] is not None
    assert cards["RS-1"]["loops"][0]["due_on"] is None


@pytest.mark.parametrize(("days", "overdue"), [(-1, True), (0, False), (1, False)])
def test_the_list_says_which_loop_is_overdue(ines, depot, days, overdue):
    part = JobLoop.objects.get(loop__machine__fleet_number="S-12", signed_at__isnull=False)
    part.result["state"]["due"]["on"] = (depot.now.date() + timedelta(days=days)).isoformat()
    part.save()
    cards = ines.get("/api/machines").json()["machines"]
    shown = next(loop for card in cards for loop in card["loops"] if loop["id"] == part.loop_id)
    assert shown["overdue"] is overdue
