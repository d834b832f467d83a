"""The shelf through the API: containers, counts, what pours take and give back, what is short before a job, lots."""

import uuid

import pytest
from shelf.models import Can, Count, Draw

from jobs.models import Entry
from temper_core.science import Glycol, strength_of
from tests.server.test_editing import edit

LITRES = {"product_l": 18.1, "water_l": 6.7, "at_mark": True}


def a_can(api, product, *, left=60.0, size=60.0, lot="W-2609", **more):
    """A container on the shelf; gives what the shelf then shows of it."""
    body = {"id": str(uuid.uuid4()), "kind": "coolant", "product_id": product.id, "size_l": size, "left_l": left, "lot": lot}
    answer = api.post("/api/cans", body | more)
    assert answer.status_code == 201, answer.content
    return next(row for row in answer.json()["cans"] if Can.objects.get(pk=row["id"]).added_as == uuid.UUID(body["id"]))


def shown(api, can):
    """The container as the shelf shows it now."""
    return next(row for row in api.get("/api/shelf").json()["cans"] if row["id"] == can["id"])


@pytest.fixture
def product(depot):
    """The coolant that the groomer gets."""
    return depot.products.get(name="Winterline O")


def pour(api, loop, product, *taken):
    """The planned litres, out of these containers."""
    api.record(loop, "planned", {"product_id": product.id, "coldest_c": -40, "margin_k": 5, "target_freeze_c": -45.0})
    facts = LITRES | {"product_id": product.id, "taken": [{"can_id": can["id"], "litres": litres} for can, litres in taken]}
    return api.record(loop, "poured", facts)


def test_a_container_is_added_once_and_gets_the_next_number(ines, product):
    before = Can.objects.count()
    body = {"id": str(uuid.uuid4()), "kind": "coolant", "product_id": product.id, "size_l": 20}
    for _ in range(2):
        shelf = ines.post("/api/cans", body).json()
    assert len(shelf["cans"]) == before + 1
    number, left = next((row["number"], row["left_l"]) for row in shelf["cans"] if not row["lot"] and row["size_l"] == 20)
    assert (number, left) == (f"C-{before + 1:03d}", 20.0)
    assert a_can(ines, product)["number"] == f"C-{before + 2:03d}"


@pytest.mark.parametrize(
    ("change", "status", "field"),
    [
        ({"product_id": None}, 400, "product_id"),
        ({"size_l": 0}, 400, "size_l"),
        ({"left_l": 50}, 400, "litres"),
        ({"strength_percent": 130}, 400, "strength_percent"),
        ({"kind": "agent"}, 400, "agent_id"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_stands_there(ines, product, change, status, field):
    before = Can.objects.count()
    body = {"id": str(uuid.uuid4()), "kind": "coolant", "product_id": product.id, "size_l": 20} | change
    answer = ines.post("/api/cans", body)
    assert (answer.status_code, answer.json()["field"]) == (status, field)
    assert Can.objects.count() == before


def test_a_pour_takes_from_its_can_and_an_undo_gives_it_back(ines, groomer, product):
    can = a_can(ines, product)
    assert pour(ines, groomer, product, (can, 18.1)).status_code == 201
    assert shown(ines, can)["left_l"] == pytest.approx(41.9)
    entry = Entry.objects.get(loop=groomer, kind="poured")
    assert "C-" in entry.core.facts.taken[0].can.number
    assert ines.record(groomer, "voided", {"entry_id": str(entry.id), "reason": "wrong can"}).status_code == 201
    assert shown(ines, can)["left_l"] == pytest.approx(60.0)
    assert not Draw.objects.filter(entry=entry).exists()


def test_an_edited_pour_takes_the_edited_litres(ines, groomer, product):
    can = a_can(ines, product)
    pour(ines, groomer, product, (can, 18.1))
    entry = Entry.objects.get(loop=groomer, kind="poured")
    assert edit(ines, entry, "taken.0.litres", 17.0).status_code == 200
    assert shown(ines, can)["left_l"] == pytest.approx(43.0)
    assert Draw.objects.filter(can_id=can["id"]).count() == 1


def test_of_two_cans_each_gives_its_part(ines, groomer, product):
    one, other = a_can(ines, product, left=5, size=20), a_can(ines, product, lot="W-2610")
    assert pour(ines, groomer, product, (one, 5.0), (other, 13.1)).status_code == 201
    assert (shown(ines, one)["left_l"], shown(ines, other)["left_l"]) == (0.0, pytest.approx(46.9))


def test_another_coolants_can_is_refused_and_takes_nothing(ines, groomer, depot, product):
    can = a_can(ines, depot.products.get(name="Longhaul N"))
    answer = pour(ines, groomer, product, (can, 18.1))
    assert answer.status_code == 400
    assert "another coolant" in answer.json()["message"]
    assert shown(ines, can)["left_l"] == 60.0


def test_counted_by_hand_counts_from_then_on_and_once(ines, groomer, product):
    can = a_can(ines, product)
    pour(ines, groomer, product, (can, 18.1))
    body = {"id": str(uuid.uuid4()), "litres": 40.0}
    for _ in range(2):
        assert ines.post(f"/api/cans/{can['id']}/count", body).status_code == 201
    assert shown(ines, can)["left_l"] == 40.0
    assert Count.objects.filter(can_id=can["id"]).count() == 2  # as it came, and this one
    over = ines.post(f"/api/cans/{can['id']}/count", {"id": str(uuid.uuid4()), "litres": 90.0})
    assert (over.status_code, over.json()["field"]) == (400, "litres")


def test_more_poured_than_counted_is_said(ines, groomer, product):
    can = a_can(ines, product, left=5, size=20)
    pour(ines, groomer, product, (can, 18.1))
    row = shown(ines, can)
    assert (row["left_l"], row["over"]) == (0.0, True)


def test_a_lot_is_traced_to_its_machine(ines, groomer, product):
    can = a_can(ines, product, lot="Batch 7/26")
    pour(ines, groomer, product, (can, 18.1))
    trace = ines.get("/api/lots?lot=batch 7/26").json()
    assert [row["number"] for row in trace["cans"]] == [can["number"]]
    assert [(row["fleet_number"], row["litres"], row["person"]["name"]) for row in trace["draws"]] == [
        ("G-07", 18.1, "Ines Halvard")
    ]
    assert trace["poured_l"] == pytest.approx(18.1)


def test_below_its_minimum_it_is_to_be_ordered(maud, ines, depot, product):
    Can.objects.all().update(emptied_at=depot.now)
    a_can(ines, product, left=6, size=20)
    line = next(row for row in maud.get("/api/catalogue").json()["products"] if row["product"]["id"] == product.id)
    own = {key: line["product"][key] for key in ("name", "base", "family", "form", "glycol_mass_percent", "standards")}
    body = own | {"seen": line["edited_at"], "minimum_l": 25.0}
    assert maud.send("put", f"/api/products/{product.id}", body).status_code == 200
    lines = ines.get("/api/shelf").json()["lines"]
    assert lines[0]["short_l"] is not None  # what is to be ordered stands first
    first = next(row for row in lines if row["name"] == "Winterline O")
    assert (first["name"], first["left_l"], first["short_l"]) == ("Winterline O", 6.0, pytest.approx(19.0))


def test_short_supplies_are_said_before_anything_is_opened(ines, railcar, depot):
    Can.objects.all().update(emptied_at=depot.now)
    best = ines.get(f"/api/loops/{railcar.id}").json()["choices"][0]["product"]
    product = depot.products.get(pk=best["id"])

    def coolant():
        choices = ines.get(f"/api/loops/{railcar.id}").json()["choices"]
        own = next(row for row in choices if row["product"]["id"] == product.id)
        return next(row for row in own["supplies"] if row["kind"] == "coolant")

    assert (coolant()["have_l"], coolant()["short_l"]) == (None, None)  # nobody counts anything here
    a_can(ines, product, left=3, size=20)
    row = coolant()
    assert row["short_l"] == pytest.approx(row["need_l"] - 3)
    a_can(ines, product, left=200, size=205)
    assert coolant()["short_l"] is None


def test_recovered_coolant_goes_in_with_its_own_strength(ines, groomer, product):
    can = a_can(ines, product, kind="recovered", strength_percent=48.0, since="2025-03-01")
    ines.record(groomer, "planned", {"product_id": product.id, "coldest_c": -40, "margin_k": 5, "target_freeze_c": -45.0})
    facts = {"product_id": product.id, "product_l": 10.0, "water_l": 0.0, "taken": [{"can_id": can["id"], "litres": 10.0}]}
    assert ines.record(groomer, "poured", facts).status_code == 201
    poured = Entry.objects.get(loop=groomer, kind="poured").core.facts
    assert (poured.product.form.value, poured.product.name) == ("ready_mix", "Winterline O, recovered")
    assert strength_of(Glycol.ETHYLENE, poured.product.glycol_mass_percent / 100) == pytest.approx(48.0, abs=0.01)


@pytest.mark.parametrize(
    ("name", "change", "says"),
    [
        ("Winterline O", {"since": None}, "is not known"),
        ("Old Guard S", {"since": "2025-03-01"}, "may not go into this loop"),
    ],
)
def test_recovered_coolant_goes_only_into_the_same_chemistry(ines, groomer, depot, product, name, change, says):
    other = depot.products.get(name=name)
    can = a_can(ines, other, kind="recovered", strength_percent=48.0, **change)
    ines.record(groomer, "planned", {"product_id": product.id, "coldest_c": -40, "margin_k": 5, "target_freeze_c": -45.0})
    facts = {"product_id": other.id, "product_l": 10.0, "water_l": 0.0, "taken": [{"can_id": can["id"], "litres": 10.0}]}
    refused = ines.record(groomer, "poured", facts)
    assert (refused.status_code, says in refused.content.decode()) == (400, True), refused.content


def test_its_own_coolant_goes_back_whatever_its_age(ines, groomer, product):
    can = a_can(ines, product, kind="recovered", strength_percent=48.0, loop_id=groomer.id)
    ines.record(groomer, "planned", {"product_id": product.id, "coldest_c": -40, "margin_k": 5, "target_freeze_c": -45.0})
    facts = {"product_id": product.id, "product_l": 10.0, "water_l": 0.0, "taken": [{"can_id": can["id"], "litres": 10.0}]}
    assert ines.record(groomer, "poured", facts).status_code == 201


def test_a_can_has_a_page_with_its_code(ines, product):
    can = a_can(ines, product)
    page = ines.get(f"/api/cans/{can['id']}").json()
    assert page["address"].endswith(f"/shelf/{can['id']}")
    assert len(page["qr"]) > 20


def test_another_depots_shelf_is_not_seen(ines, elsewhere, product):
    from people.models import Person
    from tests.server.conftest import Api

    can = a_can(ines, product)
    other = Api(Person.objects.get(username="else"))
    assert other.get("/api/shelf").json()["cans"] == []
    assert other.get(f"/api/cans/{can['id']}").status_code == 404
    assert other.post(f"/api/cans/{can['id']}/count", {"id": str(uuid.uuid4()), "litres": 1}).status_code == 404
    assert other.get("/api/lots?lot=W-2609").json()["draws"] == []


def test_a_tablet_takes_the_shelf_along(ines, product):
    can = a_can(ines, product)
    kit = ines.get("/api/kit").json()
    assert str(can["id"]) in {row["id"] for row in kit["depot"]["cans"]}
    assert kit["depot"]["stock"]["coolants"][str(product.id)] >= 60.0
    assert kit["answers"]["/api/shelf"]["cans"]


def test_two_people_do_not_overwrite_each_other(ines, tomo, product):
    can = a_can(ines, product)
    body = {"seen": can["edited_at"], "kind": "coolant", "product_id": product.id, "size_l": 60, "place": "rack 2"}
    assert ines.send("put", f"/api/cans/{can['id']}", body).status_code == 200
    assert tomo.send("put", f"/api/cans/{can['id']}", body | {"place": "rack 9"}).status_code == 409
    assert shown(ines, can)["place"] == "rack 2"
