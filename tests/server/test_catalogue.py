"""The catalogue: lines added and changed by leads, what each may go into, water against its limits."""

import uuid

import pytest

from catalogue.models import Product
from jobs.models import Entry


def product(**changes):
    """A coolant by its data sheet."""
    return {
        "id": str(uuid.uuid4()),
        "name": "Northline O",
        "base": "ethylene",
        "family": "oat",
        "form": "concentrate",
        "glycol_mass_percent": 94.0,
        "standards": ["ASTM D3306"],
        "container_sizes_l": [5, {"value": 1, "unit": "us_gal"}],
        "price_per_l": "7.10",
    } | changes


def line(page, name):
    """A coolant of the page."""
    return next(row for row in page["products"] if row["product"]["name"] == name)


def test_a_new_coolant_is_judged_for_every_loop_and_offered_at_once(maud, ines, depot):
    body = product()
    page = maud.post("/api/products", body).json()
    assert maud.post("/api/products", body).status_code == 201  # sent twice
    assert Product.objects.filter(name="Northline O").count() == 1
    fits = line(page, "Northline O")["fits"]
    assert fits == line(page, "Winterline O")["fits"]
    assert fits["fits"] + fits["after_change_out"] + fits["emergency"] + fits["no"] == 19  # loops of the depot
    assert line(page, "Northline O")["product"]["container_sizes_l"] == pytest.approx([5, 3.785], abs=0.001)
    railcar = next(c for c in ines.get("/api/machines").json()["machines"] if c["machine"]["fleet_number"] == "R-02")
    bench = ines.get(f"/api/loops/{railcar['loops'][0]['id']}").json()
    assert "Northline O" in {choice["product"]["name"] for choice in bench["choices"]}


def test_changing_a_composition_leaves_what_was_poured_as_it_was(maud, depot):
    page = maud.get("/api/catalogue").json()
    old = line(page, "Winterline O")
    body = product(id=None, name="Winterline O", glycol_mass_percent=90.0, seen=old["edited_at"])
    page = maud.send("put", f"/api/products/{old['product']['id']}", body).json()
    assert line(page, "Winterline O")["product"]["glycol_mass_percent"] == 90.0
    from jobs.models import Entry

    poured = Entry.objects.filter(kind="poured", loop__machine__fleet_number="S-12").first()
    assert poured.facts["product"]["glycol_mass_percent"] == 95.0
    stale = maud.send("put", f"/api/products/{old['product']['id']}", body)
    assert (stale.status_code, stale.json()["code"]) == (409, "moved")


@pytest.mark.parametrize(
    ("path", "body", "status", "field"),
    [
        ("products", product(name=" "), 400, "name"),
        ("products", product(name="winterline o"), 409, "name"),
        ("products", product(glycol_mass_percent=0.95), 400, "glycol_mass_percent"),
        ("products", product(base="none", family="glycol_free", glycol_mass_percent=20), 400, "glycol_mass_percent"),
        ("products", product(container_sizes_l=[0]), 400, "container_sizes_l.0"),
        ("products", product(price_per_l="-1"), 400, "price_per_l"),
        ("products", product(family="green"), 400, "family"),
        ("agents", {"name": "C", "kind": "cleaner", "container_ml": 0, "treats_l": 10}, 400, "container_ml"),
        (
            "agents",
            {"name": "C", "kind": "cleaner", "container_ml": 300, "treats_l": 10, "heavy_min": 300, "limit_min": 240},
            400,
            "limit_min",
        ),
        ("waters", {"name": "W", "kind": "tap", "ph": 17}, 400, "ph"),
        ("waters", {"name": "W", "kind": "holy"}, 400, "kind"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(maud, path, body, status, field):
    answer = maud.post(f"/api/{path}", body)
    assert (answer.status_code, answer.json()["field"]) == (status, field)


def test_water_is_judged_by_the_depots_limits(maud):
    page = maud.get("/api/catalogue").json()
    verdicts = {row["name"]: row["judged"]["verdict"] for row in page["waters"]}
    assert verdicts == {
        "Bay tap": "rinse_only",
        "Spring above the top station": "unknown",
        "Wash hall softener": "rinse_only",
        "Workshop demineraliser": "fit",
    }
    maud.post("/api/policy/water_hardness_mg_l", {"value": 250, "reason": "the maker allows it"})
    page = maud.get("/api/catalogue").json()
    assert {row["name"]: row["judged"]["verdict"] for row in page["waters"]}["Bay tap"] == "fit"


def test_the_price_of_a_change_follows_the_catalogue(maud, ines, depot):
    loop = next(c for c in ines.get("/api/machines").json()["machines"] if c["machine"]["fleet_number"] == "R-02")["loops"][
        0
    ]

    def cost():
        choices = ines.get(f"/api/loops/{loop['id']}").json()["choices"]
        return next(c["cost"] for c in choices if c["product"]["name"] == "Old Guard S")

    before = cost()
    assert before["rinses"] == 0
    demin = next(row for row in maud.get("/api/catalogue").json()["waters"] if row["kind"] == "demineralised")
    body = {"name": demin["name"], "kind": "demineralised", "price_per_l": "1.35", "seen": demin["edited_at"]}
    assert maud.send("put", f"/api/waters/{demin['id']}", body).status_code == 200
    assert cost()["price"] == pytest.approx(before["price"] + before["mix_water_l"])


def _pour_with(api, depot, loop, name):
    """The groomer's mix with a water of the depot."""
    product, water = depot.products.get(name="Winterline O"), depot.waters.get(name=name)
    api.record(loop, "planned", {"product_id": product.id, "coldest_c": -38, "margin_k": 5, "target_freeze_c": -45})
    facts = {"product_id": product.id, "product_l": 18.1, "water_l": 6.7, "water_id": water.id}
    return api.record(loop, "poured", facts | {"water": None})


@pytest.mark.parametrize(
    ("name", "words"),
    [
        ("Bay tap", "Hardness 210 mg/l"),
        ("Wash hall softener", "exchanged for salt"),
        ("Spring above the top station", "Not analysed"),
    ],
)
def test_a_water_that_does_not_pass_goes_into_no_mix(ines, depot, groomer, name, words):
    answer = _pour_with(ines, depot, groomer, name)
    assert (answer.status_code, answer.json()["code"]) == (400, "unfit_water")
    assert words in answer.json()["message"]


def test_good_town_water_is_allowed_once_its_analysis_passes(ines, maud, depot, groomer):
    spring = depot.waters.get(name="Spring above the top station")
    analysis = {"chloride_mg_l": 6, "sulphate_mg_l": 11, "hardness_mg_l": 48, "solids_mg_l": 95, "ph": 7.4}
    body = {"name": spring.name, "kind": "tap", "seen": spring.edited_at.isoformat(), "analysed_on": "2026-11-20"}
    assert maud.send("put", f"/api/waters/{spring.id}", body | analysis).status_code == 200
    assert _pour_with(ines, depot, groomer, spring.name).status_code == 201
    facts = Entry.objects.filter(loop=groomer, kind="poured").latest("seq").facts
    assert (facts["water"], facts["solids_mg_l"], facts["source"]) == ("tap", 95.0, spring.name)
    said = ines.get(f"/api/loops/{groomer.id}").json()["recent"][0]["said"]["sentence"]
    assert spring.name in said
