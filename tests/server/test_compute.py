"""The calculators over HTTP: the contract's shapes and refusals, and the committed OpenAPI document."""

import math
from io import StringIO
from pathlib import Path

import pytest
from django.core.management import call_command
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from people.models import Person
from tests.server.conftest import Api
from tests.server.test_access import QUESTIONS

MIX = {"glycol": "ethylene", "loop_volume_l": 32, "inside": {"volume_l": 7.5, "strength_percent": 0}, "target_freeze_c": -45}
READING = {"glycol": "ethylene", "scale": "freeze_ethylene", "value": -44.6, "zero": -0.4}


@pytest.fixture
def ask(ines):
    """Ask a calculator."""
    return lambda name, body: ines.post(f"/api/compute/{name}", body)


def test_mix_answers_as_the_contract_says(ask):
    answer = ask("mix", MIX)
    assert answer.status_code == 200
    said = answer.json()
    assert said["feasible"] is True
    assert said["concentrate_l"] == pytest.approx(18.33, abs=0.08)
    assert said["water_l"] == pytest.approx(6.56, abs=0.02)
    final = said["final"]
    assert set(final) >= {"volume_l", "strength_percent", "poured_percent", "glycol_mass_percent", "freeze_c", "boil_c"}
    assert final["volume_l"] == 32
    assert final["freeze_c"] == pytest.approx(-45)
    assert said["likely"] is None


def test_mix_with_spread_says_how_sure(ask):
    spread = {"loop_volume_l": 0.32, "drained_l": 0.17, "inside_strength_percent": 0, "glycol_mass_percent": 0.5}
    said = ask("mix", MIX | {"spread": spread}).json()
    likely, curve = said["likely"], said["likely_with_curve"]
    assert likely["freeze_c_low"] == pytest.approx(-47, abs=0.5)
    assert likely["freeze_c_high"] == pytest.approx(-43, abs=0.5)
    assert curve["freeze_c_high"] == pytest.approx(-41, abs=0.5)
    assert likely["refused_percent"] < 1


def test_an_honest_negative_answer_is_a_200(ask):
    said = ask("mix", MIX | {"inside": {"volume_l": 20}}).json()
    assert said["feasible"] is False
    assert said["reason"]["code"] == "too_much_inside"
    assert said["reason"]["drain_more_l"] > 0
    assert said["reason"]["best_freeze_c"] == pytest.approx(said["final"]["freeze_c"])


@pytest.mark.parametrize(
    ("changes", "field", "code"),
    [
        ({"glycol": "methanol"}, "glycol", "literal_error"),
        ({"loop_volume_l": -1}, "loop_volume_l", "out_of_range"),
        ({"loop_volume_l": "32"}, "loop_volume_l", "float_type"),
        ({"loop_volume_l": 1e308}, "loop_volume_l", "out_of_range"),
        ({"inside": {"volume_l": 40}}, "inside.volume_l", "out_of_range"),
        ({"inside": {"volume_l": 7.5, "strength_percent": 150}}, "inside.strength_percent", "out_of_range"),
        ({"inside": 7.5}, "inside", "model_type"),
        ({"target_freeze_c": -60}, "target_freeze_c", "out_of_range"),
        ({"concentrate": {"glycol_mass_percent": 0.95}}, "concentrate.glycol_mass_percent", "out_of_range"),
        ({"spread": {"drained_l": -1}}, "spread.drained_l", "out_of_range"),
        ({"sprad": {}}, "sprad", "extra_forbidden"),
    ],
)
def test_mix_refuses_by_dotted_path(ask, changes, field, code):
    answer = ask("mix", MIX | changes)
    assert answer.status_code == 400
    assert (answer.json()["field"], answer.json()["code"]) == (field, code)
    assert len(answer.json()["message"]) > 15


def test_reading_answers_as_the_contract_says(ask):
    said = ask("reading", READING).json()
    assert said["freeze_c"] == pytest.approx(-42.6, abs=0.1)
    assert said["spread"]["freeze_c"] > 0
    assert said["below_detection"] is False
    assert said["flags"] == []


def test_reading_off_scale_has_no_number(ask):
    said = ask("reading", READING | {"value": -53}).json()
    assert said["freeze_c"] is None
    assert said["flags"][0]["code"] == "off_scale"


@pytest.mark.parametrize(
    ("changes", "field"), [({"value": -300}, "value"), ({"zero": 50}, "zero"), ({"scale": "balls"}, "scale")]
)
def test_reading_refuses_by_name(ask, changes, field):
    answer = ask("reading", READING | changes)
    assert answer.status_code == 400
    assert answer.json()["field"] == field


def test_ready_mix_answers_as_the_contract_says(ask):
    body = {key: MIX[key] for key in ("glycol", "loop_volume_l", "inside")} | {"ready_mix": {"strength_percent": 50}}
    alone = ask("ready-mix", body).json()
    assert alone["misses_by_c"] is None
    assert alone["boost"] is None
    said = ask("ready-mix", body | {"target_freeze_c": -45}).json()
    assert said["final"]["freeze_c"] == pytest.approx(-22.6, abs=0.1)
    assert said["misses_by_c"] == pytest.approx(22.4, abs=0.1)
    assert set(said["boost"]) == {"concentrate_l", "ready_mix_l"}


def test_be_sure_and_inputs_over_the_wire(ask):
    spread = {"loop_volume_l": 3.2, "drained_l": 0.17, "inside_strength_percent": 0, "glycol_mass_percent": 0.5}
    said = ask("mix", MIX | {"target_freeze_c": -25, "spread": spread, "be_sure": True}).json()
    assert said["likely_with_curve"]["freeze_c_high"] == pytest.approx(-25, abs=0.05)
    assert said["inputs"][0]["name"] == "loop_volume_l"
    assert said["inputs"][0]["measured_sd"] == pytest.approx(0.32)


def test_the_depots_policy_warns(ask, depot):
    weak = MIX | {"target_freeze_c": -12}
    assert [w["code"] for w in ask("mix", weak).json()["warnings"]] == ["below_corrosion_minimum"]
    depot.policy_overrides = {"corrosion_minimum_percent": 20.0}
    depot.save()
    assert ask("mix", weak).json()["warnings"] == []


@pytest.mark.parametrize(
    ("name", "body", "checks"),
    [
        ("correction", QUESTIONS["correction"], {"feasible": True, "add": "concentrate"}),
        ("batch", QUESTIONS["batch"], {"short_l": 0.0, "cost_used": None}),
        ("top-up", QUESTIONS["top-up"], {"likely": None}),
        ("boil", QUESTIONS["boil"], {"absolute_kpa": 101.325 + 103, "margin_c": None}),
        ("expansion", QUESTIONS["expansion"], {"fits": None, "extrapolated": False}),
        ("reading", {"glycol": "ethylene", "scale": "brix", "value": 30}, {"below_detection": False, "flags": []}),
        ("flush", QUESTIONS["flush"], {"rounds_to_limit": 2, "water_l": 24.5, "waste_l": 49.0, "reason": None}),
        ("cooldown", QUESTIONS["cooldown"], {"time_constant_min": 120.0, "points_counted": 0}),
        ("vacuum", QUESTIONS["vacuum"], {"tight": None, "ambient_kpa": 101.325}),
        ("vacuum", QUESTIONS["vacuum"] | {"held": {"minutes": 10, "drop_kpa": 3}}, {"tight": False}),
    ],
)
def test_each_calculator_answers(ask, name, body, checks):
    answer = ask(name, body)
    assert answer.status_code == 200, answer.content
    assert answer.json().items() >= checks.items()


@pytest.mark.parametrize(
    ("name", "changes", "field"),
    [
        ("ready-mix", {"ready_mix": {"strength_percent": 0.5}}, "ready_mix.strength_percent"),
        ("ready-mix", {"inside": {"volume_l": 5, "poured": [{"volume_l": -1}]}}, "inside.poured.0.volume_l"),
        ("ready-mix", {"inside": {"volume_l": 5, "poured": [{"volume_l": 0.1}] * 60}}, "inside.poured"),
        ("correction", {"now": {}}, "now.freeze_c"),
        ("correction", {"now": {"freeze_c": -20, "branch": "left"}}, "now.branch"),
        ("batch", {"containers": []}, "containers"),
        ("batch", {"containers": [{"size_l": 5}] * 200}, "containers"),
        ("batch", {"containers": [{"size_l": -5}]}, "containers.0.size_l"),
        ("top-up", {"added_l": 1e308}, "added_l"),
        ("boil", {"altitude_m": 20000}, "altitude_m"),
        ("expansion", {"hot_c": 5}, "hot_c"),
        ("reading", {"scale": "brix", "value": 500}, "value"),
        ("flush", {"vessels": []}, "vessels"),
        ("flush", {"first_drain_l": {"boot": 1}}, "first_drain_l.boot"),
        ("flush", {"rounds": [{"drained_l": {"radiator": 12}}]}, "rounds.0.drained_l.radiator"),
        ("flush", {"rounds": [{"rinse": {"name": "block", "through_l": -1}}]}, "rounds.0.rinse.through_l"),
        ("flush", {"rounds": [{"fill_l": "much"}]}, "rounds.0.fill_l"),
        ("cooldown", {"until_c": 10}, "until_c"),
        ("vacuum", {"vacuum_kpa": 102}, "vacuum_kpa"),
        ("vacuum", {"loop_c": 80}, "loop_c"),
        ("vacuum", {"held": {"minutes": 0, "drop_kpa": 1}}, "held.minutes"),
        ("cooldown", {"points": [{"minute": 20, "c": 60}, {"minute": 30, "c": 300}]}, "points.1.c"),
    ],
)
def test_each_refuses_by_dotted_path(ask, name, changes, field):
    answer = ask(name, QUESTIONS[name] | changes)
    assert answer.status_code == 400
    assert answer.json()["field"] == field
    assert len(answer.json()["message"]) > 15


@pytest.mark.parametrize("name", QUESTIONS)
@pytest.mark.parametrize("text", ['{"glycol": NaN}', '{"loop_volume_l": Infinity}', "[]", "", '{"a": 1e999}'])
def test_what_is_no_number_is_no_question(ines, name, text):
    answer = ines.post(f"/api/compute/{name}", text)
    assert answer.status_code == 400
    assert set(answer.json()) == {"field", "code", "message"}


anything = st.recursive(
    st.none() | st.booleans() | st.floats(allow_nan=False, allow_infinity=False) | st.integers() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
numbers = st.floats(allow_nan=False, allow_infinity=False)


@pytest.mark.django_db
@settings(max_examples=150, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    volume=numbers | anything,
    inside=numbers | anything,
    strength=numbers,
    target=numbers | st.floats(-55, 5),
    content=numbers,
)
def test_whatever_is_asked_there_is_no_500(ines, volume, inside, strength, target, content):
    body = {
        "glycol": "ethylene",
        "loop_volume_l": volume,
        "inside": {"volume_l": inside, "strength_percent": strength},
        "target_freeze_c": target,
        "concentrate": {"glycol_mass_percent": content},
        "spread": {"drained_l": 1.0},
    }
    answer = ines.post("/api/compute/mix", body)
    assert answer.status_code in (200, 400)
    if answer.status_code == 200:
        assert math.isfinite(answer.json()["concentrate_l"])


def test_the_openapi_document_is_the_committed_one():
    made = StringIO()
    call_command("spectacular", fail_on_warn=True, validate=True, stdout=made)
    committed = Path(__file__).resolve().parents[2] / "server" / "openapi.yml"
    assert made.getvalue() == committed.read_text(), "The API changed: make server/openapi.yml again and read the diff."


def test_every_operation_documents_its_answer(depot):
    api = Api(Person.objects.get(username="ines"))
    document = api.client.get("/api/schema", HTTP_ACCEPT="application/vnd.oai.openapi+json")
    assert document.status_code == 200
    assert b"operationId: compute_mix" in document.content or b'"compute_mix"' in document.content
