"""People: added, edited, disabled, passwords reset, devices signed out; no last lead is lost; everything is audited."""

import io

import pytest
from django.core.management import CommandError, call_command

from people.actions import note_device
from people.models import Person, PersonChange, SignedIn
from tests.server.conftest import Api

NEW = {"username": "pia", "name": "Pia Moen", "role": "technician"}
OWN = "a-word-of-her-own"


def sign_in(username, password):
    """Somebody at a screen, signed in as people do; and the answer."""
    api = Api()
    answer = api.post("/api/session", {"username": username, "password": password})
    api.token = api.client.cookies["csrftoken"].value  # signing in made another
    return api, answer


def audit(username):
    """What was done to somebody's account: what, by whom, in order."""
    rows = PersonChange.objects.filter(person__username=username).order_by("id")
    return [(row.what, row.by.username if row.by else None) for row in rows]


@pytest.fixture
def pia(maud):
    """Somebody new, and the password that was shown once."""
    answer = maud.post("/api/people", NEW)
    assert answer.status_code == 201
    return answer.json()


def test_somebody_new_sets_a_password_of_their_own_before_anything_else(pia, depot):
    api, answer = sign_in("pia", pia["password"])
    assert answer.json()["must_change"]
    refused = api.get("/api/board")
    assert (refused.status_code, "Set your own first" in refused.json()["message"]) == (403, True)
    wrong = api.post("/api/profile/password", {"old": "no", "new": OWN})
    assert (wrong.status_code, wrong.json()["field"]) == (400, "old")
    weak = api.post("/api/profile/password", {"old": pia["password"], "new": "short"})
    assert (weak.status_code, weak.json()["field"]) == (400, "new")
    same = api.post("/api/profile/password", {"old": pia["password"], "new": pia["password"]})
    assert same.json()["code"] == "same_password"
    assert not api.post("/api/profile/password", {"old": pia["password"], "new": OWN}).json()["must_change"]
    assert api.get("/api/board").status_code == 200  # still signed in, here
    assert audit("pia") == [("added", "maud"), ("password_changed", "pia")]
    assert sign_in("pia", pia["password"])[1].status_code == 400
    assert sign_in("pia", OWN)[1].status_code == 200


@pytest.mark.parametrize(
    ("changes", "status", "field"),
    [
        ({"username": "ines"}, 409, "username"),
        ({"username": "INES"}, 409, "username"),
        ({"username": "pia moen"}, 400, "username"),
        ({"username": ""}, 400, "username"),
        ({"name": " "}, 400, "name"),
        ({"name": "x" * 81}, 400, "name"),
        ({"role": "boss"}, 400, "role"),
    ],
)
def test_somebody_who_cannot_be_added(maud, changes, status, field):
    answer = maud.post("/api/people", NEW | changes)
    assert (answer.status_code, answer.json()["field"]) == (status, field)
    assert not Person.objects.filter(username="pia").exists()


def test_name_role_and_disabled_are_edited_and_a_disabled_person_is_out_at_once(maud, pia):
    api, _ = sign_in("pia", pia["password"])
    api.post("/api/profile/password", {"old": pia["password"], "new": OWN})
    path = f"/api/people/{pia['person']['id']}"
    rows = maud.send("put", path, {"name": "Pia Berg", "role": "lead", "active": True}).json()["people"]
    row = next(row for row in rows if row["person"]["username"] == "pia")
    assert (row["person"]["name"], row["person"]["role"], len(row["devices"])) == ("Pia Berg", "lead", 1)
    assert api.get("/api/people").status_code == 200  # a lead now
    maud.send("put", path, {"name": "Pia Berg", "role": "lead", "active": False})
    assert api.get("/api/board").status_code == 401
    assert sign_in("pia", OWN)[1].status_code == 400
    maud.send("put", path, {"name": "Pia Berg", "role": "technician", "active": True})
    assert sign_in("pia", OWN)[1].status_code == 200
    whats = [what for what, _ in audit("pia")]
    assert whats == ["added", "password_changed", "renamed", "role", "disabled", "role", "enabled"]


@pytest.mark.parametrize("change", [{"role": "technician"}, {"active": False}])
def test_the_last_lead_is_not_locked_out(maud, change):
    lead = Person.objects.get(username="maud")
    body = {"name": lead.name, "role": "lead", "active": True} | change
    answer = maud.send("put", f"/api/people/{lead.pk}", body)
    assert (answer.status_code, answer.json()["code"]) == (409, "last_lead")
    lead.refresh_from_db()
    assert (lead.role, lead.is_active, audit("maud")) == ("lead", True, [])


def test_a_lead_may_step_down_once_there_is_another_and_a_disabled_one_does_not_count(maud, pia):
    lead, path = Person.objects.get(username="maud"), f"/api/people/{pia['person']['id']}"
    maud.send("put", path, {"name": "Pia Moen", "role": "lead", "active": False})
    down = {"name": lead.name, "role": "technician", "active": True}
    assert maud.send("put", f"/api/people/{lead.pk}", down).status_code == 409
    maud.send("put", path, {"name": "Pia Moen", "role": "lead", "active": True})
    assert maud.send("put", f"/api/people/{lead.pk}", down).status_code == 200
    assert maud.get("/api/people").status_code == 403


def test_a_reset_password_signs_out_and_is_for_one_sign_in(maud, pia):
    api, _ = sign_in("pia", pia["password"])
    answer = maud.post(f"/api/people/{pia['person']['id']}/password", {})
    assert answer.json()["password"] != pia["password"]
    assert api.get("/api/profile").status_code == 401
    assert sign_in("pia", pia["password"])[1].status_code == 400
    assert sign_in("pia", answer.json()["password"])[1].json()["must_change"]
    own = maud.post(f"/api/people/{Person.objects.get(username='maud').pk}/password", {})
    assert (own.status_code, own.json()["code"]) == (409, "own_account")


def test_devices_are_listed_and_signed_out_elsewhere(ines, pia):
    here, _ = sign_in("pia", pia["password"])
    here.post("/api/profile/password", {"old": pia["password"], "new": OWN})
    there, _ = sign_in("pia", OWN)
    devices = here.get("/api/profile").json()["devices"]
    assert sorted(row["this"] for row in devices) == [False, True]
    assert [row["this"] for row in here.send("delete", "/api/profile/devices").json()["devices"]] == [True]
    assert there.get("/api/board").status_code == 401
    assert here.get("/api/board").status_code == 200
    assert here.send("put", "/api/profile", {"name": "Pia Lund"}).json()["person"]["name"] == "Pia Lund"
    assert ines.get("/api/board").status_code == 200  # nobody else's


def test_nobody_of_another_depot_is_reached(maud, elsewhere):
    other = Person.objects.get(username="else")
    for method, path in (("put", ""), ("post", "/password"), ("delete", "/devices")):
        body = {"name": "Some Body", "role": "lead", "active": True} if method == "put" else {}
        assert maud.send(method, f"/api/people/{other.pk}{path}", body).status_code == 404
    assert "else" not in [row["person"]["username"] for row in maud.get("/api/people").json()["people"]]


def test_a_device_is_written_down_once_in_a_while(depot, django_assert_num_queries):
    person = Person.objects.get(username="ines")
    note_device(person, "k" * 32, "Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/128.0", "10.0.0.7")
    assert SignedIn.objects.get(session_key="k" * 32).device == "Firefox on Linux"
    with django_assert_num_queries(0):
        note_device(person, "k" * 32, "Firefox/128.0", "10.0.0.7")


# ---- on the command line ------------------------------------------------------------------------------------------


def person(*words, **extra):
    """What `./temper person` says."""
    said = io.StringIO()
    call_command("person", *words, stdout=said, **extra)
    return said.getvalue()


def test_people_on_the_command_line(depot, monkeypatch):
    said = person("add", "olav", "Olav Rud", "--lead")
    password = said.rsplit(": ", 1)[1].strip()
    assert sign_in("olav", password)[1].json()["must_change"]
    assert "olav" in person("list")
    assert "technician" in person("role", "olav", "technician")
    assert "disabled" in person("disable", "olav")
    assert sign_in("olav", password)[1].status_code == 400
    person("enable", "olav")
    assert "signed out on 0 devices" in person("sign-out", "olav")  # disabled: it was signed out then
    monkeypatch.setenv("TEMPER_PASSWORD", "out-of-the-vault-1")
    assert "Password" not in person("password", "olav")
    assert sign_in("olav", "out-of-the-vault-1")[1].json()["must_change"]
    assert {by for _, by in audit("olav")} == {None}


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("role", "maud", "technician"), "only lead"),
        (("disable", "maud"), "only lead"),
        (("disable", "nobody"), "Nobody here"),
        (("add", "ines", "Another Ines"), "taken"),
        (("add", "x y", "Some Body"), "cannot be a sign-in name"),
    ],
)
def test_what_the_command_line_refuses(depot, words, says):
    with pytest.raises(CommandError, match=says):
        person(*words)


def test_the_command_line_says_which_depot(depot, elsewhere):
    with pytest.raises(CommandError, match="several depots"):
        person("list")
    assert "else" in person("--depot", "Elsewhere", "list")
