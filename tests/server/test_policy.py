"""The policy page's API: every rule with its reason and origin, changed by leads with a reason, and it counts at once."""

import pytest

from depots.models import Depot, PolicyChange
from temper_core.basis.policy import D3306, MEMORY, OWN, PRACTICE, RULES, SHIPPED


def rules_of(api):
    """Rules by key."""
    return {rule["key"]: rule for rule in api.get("/api/policy").json()["rules"]}


def test_every_rule_stands_there_with_reason_and_origin(ines):
    rules = rules_of(ines)
    assert list(rules) == [rule.key for rule in SHIPPED]
    for rule in rules.values():
        assert rule["value"] == rule["shipped"]
        assert rule["low"] <= rule["shipped"] <= rule["high"]
        assert rule["origin"] in (PRACTICE, OWN, D3306, MEMORY)
        assert len(rule["reason"]) >= 4
        assert rule["changes"] == []


def test_a_lead_changes_a_rule_and_the_target_follows(maud, ines, groomer):
    before = ines.get(f"/api/loops/{groomer.id}").json()["state"]["suggested_target_c"]
    answer = maud.post("/api/policy/margin_k", {"value": 7.0, "reason": "the pass has its own weather"})
    assert answer.status_code == 200
    rule = rules_of(ines)["margin_k"]
    assert (rule["value"], rule["shipped"]) == (7.0, 5.0)
    assert rule["changes"][0]["person"]["initials"] == "MS"
    assert rule["changes"][0]["reason"] == "the pass has its own weather"
    assert ines.get(f"/api/loops/{groomer.id}").json()["state"]["suggested_target_c"] == before - 2


def test_back_to_the_shipped_value_keeps_the_history(maud, depot):
    maud.post("/api/policy/jug_l", {"value": 3.0, "reason": "the new jug"})
    maud.post("/api/policy/jug_l", {"value": None, "reason": "the old one is back"})
    rule = rules_of(maud)["jug_l"]
    assert rule["value"] == rule["shipped"]
    assert [change["value"] for change in rule["changes"]] == [None, 3.0]
    assert Depot.objects.get(pk=depot.pk).policy_overrides == {}


@pytest.mark.parametrize(
    ("key", "body", "field"),
    [
        ("margin_k", {"value": 50.0, "reason": "x"}, "value"),
        ("margin_k", {"value": -1.0, "reason": "x"}, "value"),
        ("margin_k", {"value": "6", "reason": "x"}, "value"),
        ("margin_k", {"value": 6.0, "reason": "  "}, "reason"),
        ("margin_k", {"reason": "x"}, "value"),
        ("marigin", {"value": 6.0, "reason": "x"}, "key"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_is_kept(maud, key, body, field):
    answer = maud.post(f"/api/policy/{key}", body)
    assert answer.status_code == 400
    assert answer.json()["field"] == field
    assert PolicyChange.objects.count() == 0


def test_every_shipped_value_may_be_set():
    for rule in RULES.values():
        rule.check(rule.value)
