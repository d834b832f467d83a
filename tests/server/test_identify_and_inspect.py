"""Know and test over the API: told, seen, skipped, decided; overrides that a lead sees; history; older signed jobs."""

import uuid

import pytest

from fleet.models import Loop
from jobs.models import Entry, JobLoop


@pytest.fixture
def railcar(depot):
    """R-02, just opened."""
    return Loop.objects.get(machine__fleet_number="R-02")


def bench(api, loop):
    """The bench."""
    return api.get(f"/api/loops/{loop.id}").json()


def record(api, loop, *entries):
    """Several entries at once, behind the safe-to-open check."""
    if any(kind in ("sampled", "tested", "read") for kind, _ in entries):
        api.check_safe(loop)
    given = [{"id": str(uuid.uuid4()), "kind": kind, "facts": facts} for kind, facts in entries]
    return api.post(f"/api/loops/{loop.id}/entries", {"entries": given})


def test_what_is_told_changes_the_verdicts(ines, railcar):
    before = {c["product"]["name"]: c["judged"]["verdict"] for c in bench(ines, railcar)["choices"]}
    assert before["Old Guard S"] == "fits"
    told = {"base": "ethylene", "family": "iat", "topped_up": "other"}
    answer = record(ines, railcar, ("metered", {"distance_km": 500_000.0}), ("contents_reported", told))
    assert answer.status_code == 201
    after = {c["product"]["name"]: c["judged"]["verdict"] for c in answer.json()["choices"]}
    assert after["Old Guard S"] == "fits_after_change_out"
    assert answer.json()["state"]["inspection"]["metered"]["distance_km"] == 500_000.0


def test_a_test_is_recorded_judged_and_decided(ines, railcar):
    product = next(c["product"]["id"] for c in bench(ines, railcar)["choices"] if c["product"]["name"] == "Old Guard S")
    record(ines, railcar, ("planned", {"product_id": product, "coldest_c": -25.0, "margin_k": 5.0}))
    answer = record(
        ines,
        railcar,
        ("sampled", {"spot": "neck", "looks": ["orange_rust"], "sediment_mm": 6.0}),
        ("tested", {"check": "pressure", "figures": {"start_kpa": 50.0, "end_kpa": 50.0, "minutes": 10.0}}),
        ("tested", {"check": "hoses", "outcome": "sound"}),
    )
    state = answer.json()["state"]
    assert state["stage"] == "inspect"
    assert (state["advice"]["job_type"], state["advice"]["stop"]) == ("clean", False)
    dirt = next(reason for reason in state["advice"]["reasons"] if reason["code"] == "dirt")
    assert dirt["entry_id"] == state["inspection"]["seen"][0]["entry_id"]
    answer = record(
        ines,
        railcar,
        ("skipped", {"checks": ["cap", "level"], "reason": "no time"}),
        ("job_type_chosen", {"job_type": "clean", "advised": "clean"}),
    )
    state = answer.json()["state"]
    assert (state["stage"], state["job_type"]) == ("drain", "clean")  # the check made for the sample stands
    assert state["inspection"]["skipped"] == [{"checks": ["cap", "level"], "reason": "no time"}]
    assert state["overrides"] == []


@pytest.mark.parametrize(
    ("kind", "facts", "field"),
    [
        ("sampled", {"spot": "neck"}, "facts.looks"),
        ("sampled", {"spot": "boot", "looks": ["gel"]}, "entries.0.facts.spot"),
        ("tested", {"check": "hoses", "outcome": "fine"}, "facts.outcome"),
        ("tested", {"check": "pressure", "figures": {"start_kpa": 100.0}}, "facts.figures.end_kpa"),
        ("tested", {"check": "pressure", "figures": {"start_kpa": "100"}}, "entries.0.facts.figures.start_kpa"),
        ("metered", {}, "facts.distance_km"),
        ("skipped", {"checks": ["cap"], "reason": " "}, "facts.reason"),
        ("job_type_chosen", {"job_type": "refill", "advised": "clean"}, "facts.reason"),
        ("contents_reported", {"base": "ethylene", "changed_on": "yesterday"}, "entries.0.facts.changed_on"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(ines, railcar, kind, facts, field):
    answer = record(ines, railcar, (kind, facts))
    assert (answer.status_code, answer.json()["field"]) == (400, field), answer.json()


def test_an_override_waits_for_a_lead_who_says_that_they_have_seen_it(ines, maud, depot):
    bus = Loop.objects.get(machine__fleet_number="B-14")
    assert ines.get("/api/board").json()["overrides"] == []  # leads only
    waiting = {row["machine"]["fleet_number"]: row for row in maud.get("/api/board").json()["overrides"]}
    assert waiting["B-14"]["override"]["job_type_chosen"]["reason"].startswith("takes the last cable-car crew")
    entry_id = waiting["B-14"]["override"]["entry_id"]
    refused = record(ines, bus, ("acknowledged", {"entry_id": entry_id}))
    assert (refused.status_code, refused.json()["message"]) == (
        403,
        "Only a lead can confirm a decision against the advice. Ask a lead.",
    )
    assert record(maud, bus, ("acknowledged", {"entry_id": entry_id})).status_code == 201
    assert "B-14" not in {row["machine"]["fleet_number"] for row in maud.get("/api/board").json()["overrides"]}
    again = record(maud, bus, ("acknowledged", {"entry_id": entry_id}))
    assert again.status_code == 409


def test_seeing_an_override_never_makes_the_technicians_sheet_stale(maud, tomo, depot):
    bus = Loop.objects.get(machine__fleet_number="B-14")
    tomo.open_up(bus)
    seen = bench(tomo, bus)["state"]["last_entry_id"]
    entry_id = str(Entry.objects.get(loop=bus, kind="job_type_chosen").id)
    record(maud, bus, ("acknowledged", {"entry_id": entry_id}))
    assert tomo.record(bus, "drained", {"drained_l": 9.0, "measured": "marks"}, seen=seen).status_code == 201


def test_reading_overrides_takes_no_query_per_loop(maud, depot, django_assert_max_num_queries):
    with django_assert_max_num_queries(22):
        maud.get("/api/board")


def test_history_tells_a_leak(ines, depot):
    pump = Loop.objects.get(machine__fleet_number="P-06")
    life = ines.get(f"/api/loops/{pump.id}/history").json()
    assert life["history"]["slope"]["leaks"]
    kinds = [event["kind"] for event in life["history"]["events"]]
    assert kinds.count("service") == 1
    assert kinds.count("top_up") == 1
    assert life["state"]["due"]["by"] == "hours"
    assert life["coldest_c"] == -22.0


def test_rust_that_came_back_twice_asks_for_the_gas_test(ines, depot):
    pickup = Loop.objects.get(machine__fleet_number="V-31")
    advice = bench(ines, pickup)["state"]["advice"]
    assert advice["stop"]
    assert [test["check"] for test in advice["tests"]] == ["combustion_gas"]
    answer = record(ines, pickup, ("tested", {"check": "combustion_gas", "outcome": "positive"}))
    assert answer.json()["state"]["advice"]["reasons"][0]["code"] == "combustion_gas"


def test_a_job_signed_before_tests_were_kept_still_opens(ines, depot):
    part = JobLoop.objects.get(loop__machine__fleet_number="S-12", signed_at__isnull=False)
    for name in ("inspection", "advice", "due", "overrides"):
        del part.result["state"][name]
    del part.result["schema"]
    part.save()
    answer = ines.get(f"/api/loops/{part.loop_id}/ledger")
    assert answer.status_code == 200
    assert answer.json()["signed"][0]["state"]["inspection"]["seen"] == []
    assert ines.get("/api/machines").status_code == 200
    assert ines.get("/api/board").status_code == 200


def test_the_words_of_the_inspection_come_from_the_core(ines):
    words = ines.get("/api/inspection").json()
    assert {row["check"] for row in words["checks"]} >= {"pressure", "combustion_gas", "conductivity"}
    assert {row["look"] for row in words["looks"]} >= {"brown_swirl", "gel"}


def test_the_gate_is_refused_then_passed_and_nobody_passes_it_for_another(ines, tomo, depot):
    bus = Loop.objects.get(machine__fleet_number="B-14")
    out = {"drained_l": 9.0, "measured": "marks"}
    shut = bench(tomo, bus)["state"]["gate"]
    assert [said["sentence"] for said in shut["reasons"]] == ["58 °C is not below 45 °C: wait, then measure again."]
    seen = bench(tomo, bus)["state"]["last_entry_id"]
    refused = tomo.record(bus, "drained", out, seen=seen)
    assert (refused.status_code, refused.json()["code"]) == (409, "gate_shut")
    tomo.open_up(bus)
    seen = bench(ines, bus)["state"]["last_entry_id"]
    assert ines.record(bus, "drained", out, seen=seen).json()["code"] == "gate_of_another"
    assert tomo.record(bus, "engine_run", {"by": "engine", "minutes": 2}).json()["state"]["stage"] == "open"
    assert ines.record(bus, "drained", out).status_code == 201  # Ines felt it herself
