"""An additive dose over the API: by the strips, out of its container; undone, it goes back; a cleaner out of its own too."""

import pytest
from shelf.models import Can

from jobs.models import Entry
from tests.server.conftest import loop_of


@pytest.fixture
def dosing(ines):
    """The demo's snow blower, its strips read, the dose decided."""
    loop = loop_of("H-09")
    ines.record(loop, "job_type_chosen", {"job_type": "dose", "advised": "dose"})
    return loop


def bench(api, loop):
    return api.get(f"/api/loops/{loop.id}").json()


def dose(api, loop, ml, *, can=None, agent="Linerdose"):
    agents = api.get("/api/catalogue").json()["agents"]
    facts = {"agent_id": next(row["id"] for row in agents if row["name"] == agent), "dose_ml": ml}
    return api.record(loop, "dosed", facts | ({"taken": [{"can_id": can.pk, "litres": ml / 1000}]} if can else {}))


def left(api, can):
    return next(row["left_l"] for row in api.get("/api/shelf").json()["cans"] if row["id"] == can.pk)


def test_the_bench_says_what_to_pour(ines, dosing):
    (row,) = bench(ines, dosing)["dosing"]
    assert (row["agent"]["name"], row["dose"]["ml"]) == ("Linerdose", 730)
    assert row["dose"]["at_most_mg_l"]["nitrite_mg_l"] == pytest.approx(800 + 1200 * 730 / 500 * 20 / 44)


def test_a_dose_comes_out_of_its_container_and_an_undo_gives_it_back(ines, dosing):
    can = Can.objects.get(agent__name="Linerdose")
    before = left(ines, can)
    assert dose(ines, dosing, 730, can=can).status_code == 201
    assert left(ines, can) == pytest.approx(before - 0.73)
    assert bench(ines, dosing)["state"]["dose"]["step"] == "run"
    entry = Entry.objects.get(loop=dosing, kind="dosed")
    ines.record(dosing, "voided", {"entry_id": str(entry.id), "reason": "wrong machine"})
    assert left(ines, can) == pytest.approx(before)
    assert bench(ines, dosing)["state"]["dose"]["step"] == "pour"


@pytest.mark.parametrize(
    ("ml", "agent", "field", "code"),
    [
        (2300, "Linerdose", "dose_ml", "overdose"),
        (0, "Linerdose", "dose_ml", "out_of_range"),
        (300, "Rinseflow", "agent_id", "not_an_additive"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_is_recorded(ines, dosing, ml, agent, field, code):
    refused = dose(ines, dosing, ml, agent=agent)
    assert refused.status_code == 400
    assert code in refused.content.decode()
    assert field in refused.content.decode()
    assert not Entry.objects.filter(loop=dosing, kind="dosed").exists()


def test_another_products_container_is_refused(ines, dosing):
    refused = dose(ines, dosing, 300, can=Can.objects.get(agent__name="Rinseflow"))
    assert refused.status_code == 400
    assert "Scan the can in your hand" in refused.content.decode()


def test_a_label_says_what_it_raises(maud, ines):
    line = next(row for row in ines.get("/api/catalogue").json()["agents"] if row["name"] == "Linerdose")
    body = {
        "seen": line["edited_at"],
        "name": "Linerdose",
        "kind": "additive",
        "container_ml": 500,
        "treats_l": 20,
        "nitrite_mg_l": 900,
        "molybdate_mg_l": 200,
        "families": ["noat"],
    }
    assert maud.send("put", f"/api/agents/{line['id']}", body).status_code == 200
    changed = next(row for row in ines.get("/api/catalogue").json()["agents"] if row["name"] == "Linerdose")
    assert (changed["nitrite_mg_l"], changed["molybdate_mg_l"], changed["families"]) == (900, 200, ["noat"])
    cleaner = body | {"seen": changed["edited_at"], "kind": "cleaner", "families": []}
    refused = maud.send("put", f"/api/agents/{line['id']}", cleaner)
    assert (refused.status_code, "adds no inhibitor" in refused.content.decode()) == (400, True)
