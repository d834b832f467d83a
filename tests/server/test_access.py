"""Who may do what: every endpoint with every role, sign-in, throttling, other depots."""

import uuid

import pytest
from django.core.management import CommandError, call_command

from config import urls
from fleet.models import Owner
from fleet.queries import machine_detail
from jobs.models import Photo
from people.models import Person
from tests.server.conftest import Api
from tests.server.test_photos import a_photo, upload

MIX = {"glycol": "ethylene", "loop_volume_l": 32, "inside": {"volume_l": 7.5}, "target_freeze_c": -45}
MACHINE = {
    "id": "0b1f6c1e-6a59-4c9d-8f0a-1d2f3a4b5c6f",
    "fleet_number": "N-1",
    "kind": "New one",
    "loop": {"layout": "degas_tank", "capacity_l": 30.0, "capacity_source": "manual"},
}
QUESTIONS = {
    "mix": MIX,
    "ready-mix": {key: MIX[key] for key in ("glycol", "loop_volume_l", "inside")} | {"ready_mix": {"strength_percent": 50}},
    "correction": {"glycol": "ethylene", "loop_volume_l": 8, "now": {"freeze_c": -20}, "target_freeze_c": -30},
    "batch": {"product_l": 18.3, "water_l": 6.6, "containers": [{"size_l": 5}]},
    "whole-cans": {"mix": MIX, "containers": [{"size_l": 5}]},
    "top-up": {"glycol": "ethylene", "volume_l": 8, "strength_percent": 50, "added_l": 1},
    "reading": {"glycol": "ethylene", "scale": "freeze_ethylene", "value": -30},
    "boil": {"glycol": "ethylene", "strength_percent": 50, "altitude_m": 0, "cap_gauge_kpa": 103},
    "expansion": {"glycol": "ethylene", "strength_percent": 50, "volume_l": 8, "cold_c": 10, "hot_c": 90},
    "flush": {
        "vessels": [{"name": "radiator", "volume_l": 11}, {"name": "block", "volume_l": 21}],
        "first_drain_l": {"radiator": 10.5, "block": 14},
        "rounds": [{"drained_l": {"radiator": 10.5, "block": 14}}],
        "limit_percent": 5,
    },
    "vacuum": {"empty_volume_l": 24.5, "altitude_m": 0, "vacuum_kpa": 85, "loop_c": 15},
    "cooldown": {"from_c": 90, "ambient_c": 10, "until_c": 45, "loop_volume_l": 18},
}
SCALE = {"name": "Other glass", "kind": "optical", "scale": "brix", "seen": "SEEN"}
ENTRY_ID = "0b1f6c1e-6a59-4c9d-8f0a-1d2f3a4b5c6d"
ENTRY = {"entries": [{"id": ENTRY_ID, "kind": "drained", "facts": {"drained_l": 1, "measured": "marks"}}]}
NEW_ID = "0b1f6c1e-6a59-4c9d-8f0a-1d2f3a4b5c70"
MACHINE_EDIT = {"fleet_number": "G-07", "kind": "Piste groomer", "year": 2018, "seen": "SEEN"}
LOOP_ADD = {
    "id": NEW_ID,
    "loop": {"name": "Charge air", "layout": "no_tank", "capacity_l": 6.0, "capacity_source": "manual"},
}
PRODUCT = {
    "id": NEW_ID,
    "name": "New one",
    "base": "ethylene",
    "family": "oat",
    "form": "concentrate",
    "glycol_mass_percent": 95,
}
AGENT = {"id": NEW_ID, "name": "New cleaner", "kind": "cleaner", "container_ml": 500, "treats_l": 10}
WATER = {"id": NEW_ID, "name": "New tap", "kind": "tap"}
JOB = {
    "id": "0b1f6c1e-6a59-4c9d-8f0a-1d2f3a4b5c6e",
    "machine_id": "SLED",
    "loops": [{"loop_id": "SLED", "job_type": "refill"}],
}

# endpoint, body, status for: nobody, technician, lead, person of another depot
STARTER = {"picks": [{"key": "eg_oat", "id": NEW_ID}]}
FIRST_RUN = {
    "code": "aaaa-aaaa",
    "name": "Another",
    "time_zone": "UTC",
    "currency": "EUR",
    "coldest_c": -20,
    "username": "thief",
    "person": "Theo Thief",
    "password": "a-long-enough-one",
}
NO_CHANGE = {"id": "00000000-0000-4000-8000-0000000000ed", "changes": []}
TOKEN = {"name": "Bay meter", "reads_only": True, "days": 30, "password": "wrong"}
MATRIX = [
    ("get", "/api/session", None, (200, 200, 200, 200)),
    ("get", "/api/health", None, (503, 503, 503, 503)),
    ("get", "/api/data", None, (401, 403, 200, 403)),
    ("get", "/api/archive", None, (401, 403, 200, 403)),
    ("get", "/api/reference", None, (401, 403, 200, 403)),
    ("get", "/api/board", None, (401, 200, 200, 200)),
    ("get", "/api/kit", None, (401, 200, 200, 200)),
    ("get", "/api/kit/loops/GROOMER", None, (401, 200, 200, 404)),
    ("post", "/api/kit/loops/GROOMER", {"seen": 0, "waits": []}, (401, 200, 200, 404)),
    ("get", "/api/names", None, (401, 200, 200, 200)),
    ("get", "/api/machines", None, (401, 200, 200, 200)),
    ("post", "/api/machines", MACHINE, (401, 201, 201, 201)),
    ("get", "/api/machines/MACHINE", None, (401, 200, 200, 404)),
    ("post", "/api/machines/MACHINE/checked", {}, (401, 403, 200, 403)),
    ("get", "/api/kinds", None, (401, 200, 200, 200)),
    ("get", "/api/starter", None, (401, 200, 200, 200)),
    ("post", "/api/starter", STARTER, (401, 403, 201, 403)),
    ("get", "/api/getting-started", None, (401, 200, 200, 200)),
    ("post", "/api/getting-started", {}, (401, 403, 200, 403)),
    ("post", "/api/first-run", FIRST_RUN, (409, 409, 409, 409)),
    ("post", "/api/jobs/JOB/move", {"machine_id": 10**9}, (401, 403, 404, 403)),
    ("get", "/api/owners?find=weir", None, (401, 200, 200, 200)),
    ("get", "/api/owners/OWNER", None, (401, 403, 200, 403)),
    ("delete", "/api/owners/OWNER", None, (401, 403, 200, 403)),
    ("get", "/api/of/LABEL", None, (401, 200, 200, 404)),
    ("put", "/api/machines/MACHINE", MACHINE_EDIT, (401, 403, 200, 404)),
    ("post", "/api/machines/MACHINE/loops", LOOP_ADD, (401, 403, 201, 403)),
    ("put", "/api/loops/SLED/spec", "SPEC", (401, 403, 200, 404)),
    ("get", "/api/inspection", None, (401, 200, 200, 200)),
    ("get", "/api/catalogue", None, (401, 200, 200, 200)),
    ("get", "/api/shelf", None, (401, 200, 200, 200)),
    ("post", "/api/cans", "CAN", (401, 201, 201, 404)),
    ("get", "/api/cans/CAN", None, (401, 200, 200, 404)),
    ("put", "/api/cans/CAN", "CAN", (401, 200, 200, 404)),
    ("post", "/api/cans/CAN/count", {"id": NEW_ID, "litres": 1.0}, (401, 201, 201, 404)),
    ("get", "/api/lots?lot=none", None, (401, 200, 200, 200)),
    ("get", "/api/waste", None, (401, 200, 200, 200)),
    ("get", "/api/waste.csv", None, (401, 200, 200, 200)),
    ("post", "/api/waste/handovers", {"id": NEW_ID, "entry_ids": [NEW_ID], "taken_by": "x"}, (401, 400, 400, 400)),
    ("delete", "/api/waste/handovers/HANDOVER", None, (401, 403, 404, 403)),
    ("post", "/api/waste/handovers/HANDOVER/photo", {}, (401, 415, 415, 415)),
    ("post", "/api/products", PRODUCT, (401, 403, 201, 403)),
    ("put", "/api/products/PRODUCT", PRODUCT | {"seen": "SEEN"}, (401, 403, 200, 403)),
    ("post", "/api/agents", AGENT, (401, 403, 201, 403)),
    ("put", "/api/agents/AGENT", AGENT | {"seen": "SEEN"}, (401, 403, 200, 403)),
    ("post", "/api/waters", WATER, (401, 403, 201, 403)),
    ("put", "/api/waters/WATER", WATER | {"seen": "SEEN"}, (401, 403, 200, 403)),
    ("get", "/api/loops/GROOMER/history", None, (401, 200, 200, 404)),
    ("get", "/api/loops/GROOMER/lessons", None, (401, 200, 200, 404)),
    ("post", "/api/loops/GROOMER/lessons", {"key": "drain", "take": True, "value": 0.7}, (401, 403, 400, 403)),
    ("post", "/api/loops/GROOMER/photos", "PHOTO", (401, 201, 201, 404)),
    ("get", "/api/photos/PICTURE", None, (401, 200, 200, 404)),
    ("get", "/api/layouts?capacity_l=30", None, (401, 200, 200, 200)),
    ("get", "/api/products", None, (401, 200, 200, 200)),
    ("get", "/api/instruments", None, (401, 200, 200, 200)),
    ("post", "/api/instruments", {"name": "New", "kind": "strips"}, (401, 403, 201, 403)),
    ("put", "/api/instruments/GLASS", SCALE, (401, 403, 200, 403)),
    ("post", "/api/instruments/GLASS/zero", {"zero": -0.2}, (401, 200, 200, 404)),
    ("post", "/api/instruments/GLASS/bias", {"against_id": None}, (401, 403, 200, 403)),
    ("post", "/api/instruments/GLASS/take", {"id": str(uuid.uuid4())}, (401, 400, 400, 404)),
    ("put", "/api/instruments/GLASS/sample", {}, (401, 404, 404, 404)),
    ("get", "/api/readings", None, (401, 200, 200, 200)),
    ("get", "/api/readings/watch", None, (401, 200, 200, 200)),
    ("get", "/api/readings/export/csv", None, (401, 200, 200, 200)),
    ("post", "/api/readings/import", {"dry_run": "yes"}, (401, 403, 400, 403)),
    ("post", "/api/readings/import/columns", {}, (401, 403, 400, 403)),
    ("get", "/api/readings/template.csv", None, (401, 200, 200, 200)),
    ("get", "/api/readings/imports", None, (401, 403, 200, 403)),
    ("put", "/api/readings/imports/IMPORT", {"undone": True}, (401, 403, 200, 403)),
    ("get", "/api/readings/imports/IMPORT/progress", None, (401, 403, 200, 403)),
    ("post", "/api/jobs", JOB, (401, 201, 201, 404)),
    ("get", "/api/policy", None, (401, 200, 200, 200)),
    ("post", "/api/policy/margin_k", {"value": 6.0, "reason": "colder here"}, (401, 403, 200, 403)),
    ("get", "/api/loops/GROOMER", None, (401, 200, 200, 404)),
    ("get", "/api/loops/GROOMER/ledger", None, (401, 200, 200, 404)),
    ("get", "/api/loops/GROOMER/sheet", None, (401, 200, 200, 404)),
    ("get", "/api/loops/GROOMER/sheet.pdf", None, (401, 200, 200, 404)),
    ("get", "/api/loops/GROOMER/label", None, (401, 200, 200, 404)),
    ("get", "/api/calendar.ics", None, (401, 200, 200, 200)),
    ("post", "/api/rejudged/1/answer", {"answer": "Planned."}, (401, 403, 404, 403)),
    ("get", "/api/season", None, (401, 200, 200, 200)),
    ("get", "/api/loops", None, (401, 200, 200, 200)),
    ("get", "/api/people", None, (401, 403, 200, 403)),
    ("post", "/api/night", {"low_c": -12}, (401, 403, 200, 403)),
    ("post", "/api/people", {"username": "pia", "name": "Pia Moen", "role": "technician"}, (401, 403, 201, 403)),
    ("put", "/api/people/INES", {"name": "Ines Halvard", "role": "technician", "active": True}, (401, 403, 200, 403)),
    ("post", "/api/people/INES/password", {}, (401, 403, 200, 403)),
    ("delete", "/api/people/INES/devices", None, (401, 403, 200, 403)),
    ("get", "/api/profile", None, (401, 200, 200, 200)),
    ("put", "/api/profile", {"name": "Another Name"}, (401, 200, 200, 200)),
    ("post", "/api/profile/password", {"old": "wrong", "new": "a-long-enough-one"}, (401, 400, 400, 400)),
    ("delete", "/api/profile/devices", None, (401, 200, 200, 200)),
    ("post", "/api/profile/tokens", TOKEN, (401, 400, 400, 400)),
    ("delete", "/api/profile/tokens/KEY", None, (401, 404, 404, 404)),
    ("delete", "/api/people/INES/tokens/KEY", None, (401, 403, 404, 403)),
    ("get", "/api/practice", None, (401, 200, 200, 200)),
    ("post", "/api/practice/offered", {}, (401, 204, 204, 204)),
    ("post", "/api/practice/runs", {"id": NEW_ID, "lesson": "none-such"}, (401, 400, 400, 400)),
    ("get", "/api/practice/runs/RUN", None, (401, 404, 404, 404)),
    ("post", "/api/practice/runs/RUN/acts", {"id": NEW_ID, "act": {"do": "feel"}}, (401, 404, 404, 404)),
    ("post", "/api/practice/runs/RUN/wait", {"minutes": 5}, (401, 404, 404, 404)),
    ("get", "/api/practice/runs/RUN/truth", None, (401, 404, 404, 404)),
    ("post", "/api/practice/runs/RUN/truth", {}, (401, 404, 404, 404)),
    ("get", "/api/practice/record", None, (401, 403, 200, 403)),
    ("get", "/api/practice/record.csv", None, (401, 403, 200, 403)),
    ("put", "/api/practice/asked/WORK", {"lesson": None}, (401, 403, 200, 403)),
    ("post", "/api/practice/lessons", {"text": ""}, (401, 403, 400, 403)),
    ("get", "/api/practice/lessons/LESSON", None, (401, 403, 200, 403)),
    ("delete", "/api/practice/lessons/LESSON", None, (401, 403, 400, 403)),
    ("get", "/api/plan", None, (401, 200, 200, 200)),
    ("put", "/api/plan/service-1-20200101", {"day": None, "person_id": None}, (401, 403, 400, 403)),
    ("get", "/api/attention", None, (401, 403, 200, 403)),
    ("get", "/api/figures", None, (401, 403, 200, 403)),
    ("get", "/api/figures.csv", None, (401, 403, 200, 403)),
    ("get", "/api/wall/no-such-token", None, (404, 404, 404, 404)),
    ("get", "/api/wall-links", None, (401, 403, 200, 403)),
    ("post", "/api/wall-links", {"name": "Bay 1"}, (401, 403, 201, 403)),
    ("delete", "/api/wall-links/1", None, (401, 403, 200, 403)),
    ("post", "/api/loops/GROOMER/entries", ENTRY, (401, 201, 201, 404)),
    ("get", "/api/loops/GROOMER/entries/DRAIN", None, (401, 200, 200, 404)),
    ("put", "/api/loops/GROOMER/entries/DRAIN", NO_CHANGE, (401, 400, 400, 404)),
    ("post", "/api/loops/GROOMER/entries/DRAIN/preview", NO_CHANGE, (401, 400, 400, 404)),
    ("post", "/api/loops/GROOMER/preview", ENTRY, (401, 200, 200, 404)),
    ("put", "/api/loops/GROOMER/drafts/mix", {"data": {"target": "-45"}}, (401, 200, 200, 404)),
    ("delete", "/api/loops/GROOMER/drafts/mix", None, (401, 204, 204, 404)),
    ("post", "/api/loops/GROOMER/capacity", {"capacity_l": 32.0}, (401, 403, 409, 403)),
    *((("post", f"/api/compute/{name}", body, (401, 200, 200, 200)) for name, body in QUESTIONS.items())),
    ("get", "/api/schema", None, (401, 200, 200, 200)),
    ("delete", "/api/session", None, (204, 204, 204, 204)),
]


PARTS = (
    {"RUN": "<uuid:run_id>", "WORK": "<str:work>", "LESSON": "<str:key>"}
    | {"DRAIN": "<uuid:entry_id>", "IMPORT": "<uuid:import_id>", "KEY": "<str:token_key>"}
    | {"OWNER": "<uuid:owner_uuid>", "LABEL": "<uuid:uuid>", "JOB": "<uuid:job_id>"}
    | {"csv": "<str:kind>", "CAN": "<int:can_id>", "HANDOVER": "<uuid:handover_id>"}
    | {"GROOMER": "<int:loop_id>", "SLED": "<int:loop_id>", "MACHINE": "<int:machine_id>", "PICTURE": "<str:sha256>"}
    | {
        "GLASS": "<int:instrument_id>",
        "INES": "<int:person_id>",
        "no-such-token": "<str:token>",
        "service-1-20200101": "<str:key>",
        "csv": "<str:kind>",
        **dict.fromkeys(("PRODUCT", "AGENT", "WATER"), "<int:line_id>"),
    }
)


def test_every_endpoint_stands_in_the_matrix():
    """A new endpoint without a row stands out."""
    job_types = {str(p.pattern) for p in urls.urlpatterns if str(p.pattern).startswith("api/")}
    rows = set()
    for _, path, _, _ in MATRIX:
        bare = path.split("?")[0].strip("/")
        parts = [PARTS.get(part, part) for part in bare.split("/")]
        if "drafts" in parts:
            parts[-1] = "<str:stage>"
        if "rejudged" in parts:
            parts[2] = "<int:rejudged_id>"
        if "wall-links" in parts and len(parts) > 2:
            parts[-1] = "<int:link_id>"
        if "policy" in parts and len(parts) > 2:
            parts[-1] = "<str:key>"
        rows.add("/".join(parts))
    assert rows == job_types


@pytest.mark.parametrize(("method", "path", "body", "expected"), MATRIX)
@pytest.mark.parametrize("role", range(4), ids=["nobody", "technician", "lead", "another depot"])
def test_who_may(method, path, body, expected, role, depot, elsewhere, groomer, sled):
    person = [None, *(Person.objects.get(username=name) for name in ("ines", "maud", "else"))][role]
    api = Api(person)
    things = {
        "GROOMER": groomer,
        "SLED": sled,
        "GLASS": depot.instruments.first(),
        "DRAIN": groomer.entries.filter(kind="drained").first(),
        "MACHINE": groomer.machine,
        "PRODUCT": depot.products.first(),
        "AGENT": depot.agents.first(),
        "WATER": depot.waters.first(),
        "CAN": depot.cans.first(),
        "INES": Person.objects.get(username="ines"),
        "IMPORT": depot.imports.first(),
    }
    thing = next((things[part] for part in path.split("/") if part in things), None)
    for name, value in things.items():
        path = path.replace(f"/{name}", f"/{value.id}")
    owner = Owner.objects.create(depot=depot, name="Hanne Weir")
    path = path.replace("OWNER", str(owner.uuid)).replace("LABEL", str(groomer.machine.uuid))
    path = path.replace("/JOB/", f"/{NEW_ID}/").replace("HANDOVER", NEW_ID).replace("RUN", NEW_ID)
    path = path.replace("WORK", "cleaner").replace("LESSON", "first-level-check")
    path = path.replace("PICTURE", Photo.objects.first().sha256)
    if body == "PHOTO":
        about = groomer.entries.filter(kind="sampled").first()
        answer = upload(api, groomer, about, a_photo(), pk=NEW_ID)
        assert answer.status_code == expected[role], answer.content
        return
    if body == "CAN":
        can = depot.cans.first()
        body = {"id": NEW_ID, "kind": "coolant", "product_id": can.product_id, "size_l": 250}
        body |= {"seen": can.edited_at.isoformat()} if method == "put" else {}
    if body == "SPEC":
        detail = machine_detail(sled.machine).loops[0]
        body = {"spec": detail.spec.model_dump(mode="json"), "seen": detail.edited_at.isoformat()}
    if isinstance(body, dict) and body.get("seen") == "SEEN":
        body = body | {"seen": thing.edited_at.isoformat()}
    if body is JOB:
        body = {"id": JOB["id"], "machine_id": sled.machine_id, "loops": [{"loop_id": sled.id, "job_type": "refill"}]}
    answer = api.send(method, path, body)
    assert answer.status_code == expected[role], answer.content
    if answer.status_code >= 400 and path not in ("/api/schema", "/api/health"):  # they answer in their own form
        assert set(answer.json()) == {"field", "code", "message"}


def test_a_person_without_a_depot_is_told_so(db):
    answer = Api(Person.objects.create_user("new", password="not-placed-yet")).get("/api/board")
    assert answer.status_code == 403
    assert "no depot" in answer.json()["message"]


def test_signing_in_and_out(depot, nobody):
    answer = nobody.post("/api/session", {"username": "ines", "password": "snow-and-cable"})
    assert answer.status_code == 200
    assert answer.json()["person"]["initials"] == "IH"
    assert answer.json()["depot"]["name"].startswith("Skarn Pass")
    assert nobody.get("/api/board").status_code == 200
    nobody.token = nobody.client.cookies["csrftoken"].value
    assert nobody.send("delete", "/api/session").status_code == 204
    assert nobody.get("/api/board").status_code == 401


def test_wrong_words_are_one_refusal_for_name_and_password(depot, nobody):
    for username in ("ines", "no-such-person"):
        answer = nobody.post("/api/session", {"username": username, "password": "guess"})
        assert answer.status_code == 400
        assert answer.json()["code"] == "wrong_sign_in"


def test_a_name_is_locked_after_eight_wrong_tries(depot, nobody):
    for _ in range(8):
        last = nobody.post("/api/session", {"username": "tomo", "password": "guess"})
    answer = nobody.post("/api/session", {"username": "tomo", "password": "snow-and-cable"})
    assert last.status_code in (400, 429)
    assert answer.status_code == 429
    assert "15 minutes" in answer.json()["message"]
    assert nobody.post("/api/session", {"username": "ines", "password": "snow-and-cable"}).status_code == 200


def test_passwords_are_kept_with_argon2(depot):
    assert Person.objects.get(username="ines").password.startswith("argon2")


def test_without_the_csrf_token_nothing_is_written(ines, groomer):
    ines.token = "wrong"
    answer = ines.post("/api/compute/mix", MIX)
    assert answer.status_code == 403
    assert "CSRF" in answer.json()["message"]


def test_unknown_addresses_answer_as_the_api_does(nobody):
    answer = nobody.get("/api/nothing/here")
    assert answer.status_code == 404
    assert answer.json()["code"] == "not_found"


def test_a_trailing_slash_is_not_held_against_the_sender(ines):
    assert ines.post("/api/compute/mix/", MIX).status_code == 200


def test_the_page_carries_its_nonce_and_a_policy(nobody, settings, tmp_path):
    (tmp_path / "index.html").write_text('<meta name="csp-nonce" content="__CSP_NONCE__">')
    settings.WEB = tmp_path
    answer = nobody.get("/loops/1")
    policy = answer["Content-Security-Policy"]
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert f'content="{nonce}"' in answer.content.decode()
    assert "default-src 'self'" in policy
    assert "script-src 'self' 'wasm-unsafe-eval';" in f"{policy};"  # the decoder of codes; no other code from anywhere
    assert "camera=(self), microphone=()" in answer["Permissions-Policy"]
    assert "unsafe-inline" not in policy


def test_an_unbuilt_front_end_says_what_to_do(nobody, settings, tmp_path):
    settings.WEB = tmp_path / "none"
    answer = nobody.get("/")
    assert answer.status_code == 503
    assert b"./temper setup" in answer.content


def test_nobody_is_served_in_earnest_with_the_demos_password(depot, capsys):
    from demo import leftovers

    assert leftovers.main() == 1
    assert "ines, tomo, maud" in capsys.readouterr().err.replace("maud, ines, tomo", "ines, tomo, maud")
    for person in Person.objects.all():
        person.set_password("something-of-their-own")
        person.save()
    assert leftovers.main() == 0


FIRST = {"depot": "Elsewhere", "coldest": -25.0, "username": "lead", "time_zone": "Europe/Oslo", "name": "Asta Vik"}


def test_the_first_lead_of_an_empty_database(nothing_kept, monkeypatch, nobody):
    monkeypatch.setenv("TEMPER_PASSWORD", "a-long-word-of-hers")
    call_command("first_lead", **FIRST)
    assert (
        nobody.post("/api/session", {"username": "lead", "password": "a-long-word-of-hers"}).json()["person"]["role"]
        == "lead"
    )
    with pytest.raises(CommandError, match="a depot already"):
        call_command("first_lead", **FIRST)


@pytest.mark.parametrize(
    ("changes", "password", "words"),
    [
        ({"time_zone": "Mars/Base"}, "a-long-word-of-hers", "no time zone"),
        ({"coldest": -200.0}, "a-long-word-of-hers", "-60 to 40"),
        ({}, "short", "at least 10 characters"),
    ],
)
def test_a_first_lead_that_cannot_be(nothing_kept, monkeypatch, changes, password, words):
    monkeypatch.setenv("TEMPER_PASSWORD", password)
    with pytest.raises(CommandError, match=words):
        call_command("first_lead", **(FIRST | changes))
    assert not Person.objects.exists()


@pytest.mark.parametrize(
    ("given", "status"),
    [
        ("ines", 200),
        ("INES", 200),
        ("Ines Halvard", 200),
        ("  ines   halvard ", 200),
        ("Ines", 200),
        ("Halvard", 400),
        ("", 400),
    ],
)
def test_the_shown_name_signs_in_as_well(nobody, depot, given, status):
    from demo import PASSWORD

    assert nobody.post("/api/session", {"username": given, "password": PASSWORD}).status_code == status


def test_a_name_that_two_people_have_signs_nobody_in(nobody, depot):
    from demo import PASSWORD

    Person.objects.filter(username__in=["ines", "tomo"]).update(first_name="Kim", last_name="Berg")
    assert nobody.post("/api/session", {"username": "Kim Berg", "password": PASSWORD}).status_code == 400
    assert nobody.post("/api/session", {"username": "tomo", "password": PASSWORD}).status_code == 200
