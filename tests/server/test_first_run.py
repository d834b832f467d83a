"""Opening a workshop in the browser: the code, who comes second, what cannot be; and what a new depot lacks."""

import re
from datetime import timedelta

import pytest
from django.core.management import CommandError, call_command
from django.utils import timezone

from depots.models import Depot
from people.first_run import new_code
from people.models import FirstRunCode, Person
from temper_core.basis.errors import Conflict
from tests.server.conftest import Api

WORKSHOP = {
    "name": "Hill Farm Garage",
    "time_zone": "Europe/Oslo",
    "currency": "NOK",
    "units": "us",
    "coldest_c": -28,
    "altitude_m": 340,
    "username": "Ada",
    "person": "Ada Hill",
    "password": "rain-on-the-roof",
}

pytestmark = pytest.mark.usefixtures("nothing_kept")


def opened(**more):
    """What the page sends."""
    return Api().send("post", "/api/first-run", WORKSHOP | more)


def test_a_server_without_a_depot_says_so_and_one_with_a_depot_does_not():
    assert Api().client.get("/api/session").json()["first_run"] is True
    assert opened(code=new_code()).status_code == 201
    assert Api().client.get("/api/session").json()["first_run"] is False


def test_the_code_opens_it_and_signs_its_lead_in():
    code = new_code()
    assert re.fullmatch(r"[a-z2-9]{4}-[a-z2-9]{4}", code)
    api = Api()
    answer = api.send("post", "/api/first-run", WORKSHOP | {"code": f" {code.upper().replace('-', ' ')} "})
    assert answer.status_code == 201, answer.content
    assert answer.json()["person"] | {"id": 0} == {
        "id": 0, "username": "ada", "name": "Ada Hill", "initials": "AH", "role": "lead", "isolates_until": None,
    }  # fmt: skip
    assert api.client.get("/api/people").status_code == 200
    depot = Depot.objects.get()
    assert (depot.name, depot.coldest_c, depot.altitude_m, depot.units) == ("Hill Farm Garage", -28, 340, "us")
    assert not FirstRunCode.objects.exists()
    assert Person.objects.get().check_password("rain-on-the-roof")


def test_a_used_code_opens_nothing_again():
    code = new_code()
    opened(code=code)
    again = opened(code=code, username="thief")
    assert (again.status_code, again.json()["code"]) == (409, "open")
    assert Person.objects.count() == 1
    with pytest.raises(Conflict):
        new_code()


def test_five_wrong_codes_end_it_even_for_who_has_the_right_one():
    code = new_code()
    for n in range(5):
        wrong = opened(code="aaaa-aaaa")
        assert wrong.status_code == 400
        assert (" more t" in wrong.json()["message"]) == (n < 4)
    assert opened(code=code).json()["code"] == "code_ended"
    assert opened(code=new_code()).status_code == 201


def test_a_code_is_good_for_an_hour():
    code = new_code()
    FirstRunCode.objects.update(made_at=timezone.now() - timedelta(minutes=61))
    assert "first-run-code" in opened(code=code).json()["message"]


def test_a_miss_is_counted_whatever_else_is_wrong():
    new_code()
    opened(code="aaaa-aaaa", coldest_c=900, password="x")
    assert FirstRunCode.objects.get().misses == 1


@pytest.mark.parametrize(
    ("part", "field"),
    [
        ({"name": "  "}, "name"),
        ({"time_zone": "Mars/Base"}, "time_zone"),
        ({"time_zone": "../../etc/passwd"}, "time_zone"),
        ({"currency": "€"}, "currency"),
        ({"coldest_c": -273}, "coldest_c"),
        ({"altitude_m": 9000}, "altitude_m"),
        ({"username": "Ada Hill"}, "username"),
        ({"person": "A"}, "person"),
        ({"password": "password12"}, "password"),
    ],
)
def test_what_cannot_be_is_refused_by_name_and_costs_no_try(part, field):
    code = new_code()
    refused = opened(code=code, **part)
    assert (refused.status_code, refused.json()["field"]) == (400, field)
    assert FirstRunCode.objects.get().misses == 0
    assert not Depot.objects.exists()
    assert opened(code=code).status_code == 201


def test_two_at_once_open_one(monkeypatch):
    """The second passes the code's check and is refused where the depot is made."""
    code = new_code()
    from people import first_run

    real = first_run.open_workshop

    def somebody_was_faster(given):
        real(given.model_copy(update={"username": "faster"}))
        return real(given)

    monkeypatch.setattr(first_run, "open_workshop", somebody_was_faster)
    second = opened(code=code)
    assert (second.status_code, second.json()["code"]) == (409, "open")


def test_the_terminal_makes_another_code_until_it_is_open(capsys):
    call_command("first_run_code")
    said = capsys.readouterr().out
    code = re.search(r"code  (\S+)", said)[1]
    assert opened(code=code).status_code == 201
    call_command("first_run_code", "--where-none")
    assert capsys.readouterr().out == ""
    with pytest.raises(CommandError, match="open already"):
        call_command("first_run_code")


def test_a_new_workshop_lacks_what_is_not_there():
    api = Api()
    api.send("post", "/api/first-run", WORKSHOP | {"code": new_code()})
    api = Api(Person.objects.get())
    start = api.client.get("/api/getting-started").json()
    assert start["shown"]
    assert not any(row["done"] for row in start["steps"])
    keys = ["eg_oat", "demineralised", "optical_ethylene"]
    picks = [{"key": key, "id": f"00000000-0000-4000-8000-00000000000{n}"} for n, key in enumerate(keys)]
    assert api.send("post", "/api/starter", {"picks": picks}).status_code == 201
    assert api.send("post", "/api/starter", {"picks": picks}).status_code == 201  # sent twice, added once
    start = {row["step"]: row for row in api.client.get("/api/getting-started").json()["steps"]}
    assert (start["coolants"]["many"], start["coolants"]["labels_missing"], start["coolants"]["done"]) == (1, 1, False)
    assert start["water"]["done"]
    assert start["instrument"]["done"]
    line = api.client.get("/api/catalogue").json()["products"][0]
    label = {"seen": line["edited_at"], "base": "ethylene", "family": "oat", "form": "concentrate"}
    label |= {"name": "Blue can", "glycol_mass_percent": None, "standards": ["ASTM D3306"]}
    kept = api.send("put", f"/api/products/{line['product']['id']}", label)
    assert kept.status_code == 200, kept.content
    product = kept.json()["products"][0]["product"]
    assert (product["label_entered"], product["glycol_stated"], product["glycol_mass_percent"]) == (True, False, 93.5)
    start = {row["step"]: row for row in api.client.get("/api/getting-started").json()["steps"]}
    assert start["coolants"]["done"]
    assert api.send("post", "/api/getting-started", {}).json()["shown"] is False


def test_an_unknown_line_adds_none_of_them():
    Api().send("post", "/api/first-run", WORKSHOP | {"code": new_code()})
    api = Api(Person.objects.get())
    picks = [{"key": "eg_oat", "id": "00000000-0000-4000-8000-000000000001"}]
    picks.append({"key": "gold", "id": "00000000-0000-4000-8000-000000000002"})
    refused = api.send("post", "/api/starter", {"picks": picks})
    assert refused.json()["code"] == "unknown_line"
    assert not Depot.objects.get().products.exists()
