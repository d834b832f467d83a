"""Machines: from a generic layout, or like a sister; leads only, once, and never two of one number."""

import uuid

import pytest

from fleet.models import Loop, Machine


def machine(**changes):
    """A two-bank engine of 28.5 l by the book."""
    loop = {"layout": "two_banks", "capacity_l": 28.5, "capacity_source": "manual", "materials": ["aluminium"]}
    return {"id": str(uuid.uuid4()), "fleet_number": "G-11", "kind": "Piste groomer", "loop": loop} | changes


def with_loop(**changes):
    """The same with another loop."""
    given = machine()
    return given | {"loop": given["loop"] | changes}


def test_a_machine_from_a_layout_can_have_a_job(maud):
    body = machine()
    answer = maud.post("/api/machines", body)
    assert answer.status_code == 201
    loop_id = answer.json()["loop_ids"][0]
    assert maud.post("/api/machines", body).json() == answer.json()  # sent twice, added once
    bench = maud.get(f"/api/loops/{loop_id}").json()
    assert len(bench["loop"]["layout"]["bleeders"]) == 2
    assert [node["id"] for node in bench["loop"]["layout"]["nodes"]] == ["tank", "bank1", "bank2", "radiator", "hoses"]
    assert sum(node["volume_l"] for node in bench["loop"]["layout"]["nodes"]) == pytest.approx(28.5)
    job = {"id": str(uuid.uuid4()), "machine_id": answer.json()["id"], "loops": [{"loop_id": loop_id, "job_type": "refill"}]}
    assert maud.post("/api/jobs", job).status_code == 201


def test_litres_may_be_gallons(maud):
    answer = maud.post("/api/machines", with_loop(capacity_l={"value": 7.5, "unit": "us_gal"}))
    assert Loop.objects.get(pk=answer.json()["loop_ids"][0]).capacity_l == pytest.approx(28.39, abs=0.01)


def test_like_a_sister_loops_and_all_but_nothing_learned(maud, depot):
    shuttle = Machine.objects.get(fleet_number="S-12")
    engine = shuttle.loops.get(position=1)
    Loop.objects.filter(pk=engine.pk).update(capacity_source="learned", capacity_sd_l=0.1, believed_strength_percent=41)
    answer = maud.post("/api/machines", machine(fleet_number="S-14", loop=None, copy_of=shuttle.id))
    assert answer.status_code == 201
    copies = list(Loop.objects.filter(pk__in=answer.json()["loop_ids"]).order_by("position"))
    assert [loop.name for loop in copies] == [loop.name for loop in shuttle.loops.order_by("position")]
    assert copies[0].layout == engine.layout
    assert (copies[0].capacity_source, copies[0].capacity_sd_l) == ("remembered", None)
    assert copies[0].believed_strength_percent is None  # nobody read the sister's for this one
    assert copies[1].high_voltage


@pytest.mark.parametrize(
    ("body", "status", "field"),
    [
        (machine(fleet_number="  "), 400, "fleet_number"),
        (machine(kind=""), 400, "kind"),
        (machine(fleet_number="g-07"), 409, "fleet_number"),
        (machine(loop=None), 400, "loop"),
        (machine(copy_of=1), 400, "loop"),
        (machine(loop=None, copy_of=99999), 404, ""),
        (with_loop(layout="spiral"), 400, "loop.layout"),
        (with_loop(capacity_l=-3), 400, "loop.capacity_l"),
        (with_loop(capacity_l={"value": 3, "unit": "gal"}), 400, "loop.capacity_l"),
        (with_loop(capacity_source="dreamt"), 400, "loop.capacity_source"),
        (with_loop(cap_gauge_kpa=1500.0), 400, "loop.cap_gauge_kpa"),
        (with_loop(believed_strength_percent=150.0), 400, "loop.strength_percent"),
        (with_loop(materials=["cheese"]), 400, "loop.materials.0"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_is_added(maud, body, status, field):
    before = Machine.objects.count()
    answer = maud.post("/api/machines", body)
    assert answer.status_code == status, answer.content
    assert answer.json()["field"] == field
    assert Machine.objects.count() == before


def test_a_sister_of_another_depot_is_not_there(maud, elsewhere):
    answer = maud.post("/api/machines", machine(loop=None, copy_of=elsewhere.machine_id))
    assert answer.status_code == 404


def test_layouts_are_drawn_for_the_capacity_that_is_asked_for(ines):
    shown = ines.get("/api/layouts?capacity_l=12.5").json()["layouts"]
    assert {row["key"] for row in shown} >= {"degas_tank", "overflow_bottle", "two_banks", "power_electronics", "no_tank"}
    for row in shown:
        assert sum(node["volume_l"] for node in row["layout"]["nodes"]) == pytest.approx(12.5)
    for wrong in ("", "?capacity_l=much", "?capacity_l=-1", "?capacity_l=nan"):
        assert ines.get(f"/api/layouts{wrong}").status_code == 400
