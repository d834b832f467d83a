"""Flush through the API: rounds, clocks, pauses, hand-over, waste; the board with hundreds of jobs and long lives."""

import json
import uuid
from importlib import import_module

import pytest
from django.apps import apps
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from fleet.models import Loop
from jobs.board import ROWS, board_of
from jobs.comeback import RESTS
from jobs.models import Entry, JobLoop
from jobs.queries import bench_of
from jobs.stored import SNAPSHOT
from people.models import Person
from tests.server.conftest import loop_of
from tools.crowd import crowd

ROUND = {"method": "fill_run_drain", "water": "demineralised"}
HOT = {"minutes": 25, "opened": True, "heater_full": True}


@pytest.fixture
def resurfacer(depot):
    """IR-1: cleaner is in, over its limit."""
    return loop_of("IR-1")


@pytest.fixture
def rinsing(depot):
    """G-02: its second rinse is being run."""
    return loop_of("G-02")


@pytest.fixture
def aside(depot):
    """T-22: put aside with rinse water inside."""
    return loop_of("T-22")


def bench(api, loop):
    """The bench as somebody sees it."""
    return api.get(f"/api/loops/{loop.id}").json()


def felt(api, loop):
    """Two signs, everything ready."""
    asked = [row["ready"] for row in bench(api, loop)["state"]["gate"]["asked"]]
    return api.record(
        loop, "gate_observed", {"warmth": "hand", "held": True, "pressure": "hose", "soft": True, "ready": asked}
    )


def test_a_first_drain_by_weight_plans_the_rounds(ines, railcar):
    page = bench(ines, railcar)
    ines.record(railcar, "planned", {"product_id": page["choices"][0]["product"]["id"], "coldest_c": -25, "margin_k": 5})
    advised = bench(ines, railcar)["state"]["advice"]["job_type"]
    ines.record(railcar, "job_type_chosen", {"job_type": "change_type", "advised": advised, "reason": "for the test"})
    felt(ines, railcar)
    ines.record(railcar, "drained", {"caught": [{"where": "A", "gross_kg": 27.4, "tare_kg": 1.3}]})
    page = bench(ines, railcar)
    assert page["state"]["stage"] == "flush"
    assert page["state"]["flush"]["rounds"][0]["out_l"] == pytest.approx(26.1 / 1.04, rel=0.05)
    rounds = {method["method"]: method["rounds"] for method in page["flushing"]["methods"]}
    assert rounds["fill_run_drain"] == len(page["flushing"]["ahead"])
    assert [point["where"] for point in page["drain"]["points"]][:2] == ["A", "B"]


def test_the_rounds_of_the_demo_say_what_they_rest_on(ines, rinsing):
    page = bench(ines, rinsing)
    flush = page["state"]["flush"]
    assert [row["source"] for row in flush["rounds"]] == ["predicted", "corrected", "predicted"]
    assert flush["step"] == "run"
    assert [timer["kind"] for timer in page["state"]["timers"]] == ["warm_up"]
    assert page["wait"]["kind"] == "counting"


def test_a_round_through_the_api(ines, rinsing):
    assert ines.record(rinsing, "engine_run", HOT).json()["state"]["flush"]["step"] == "gate"
    shut = ines.record(rinsing, "drained", {"drained_l": 24.5}, seen=bench(ines, rinsing)["state"]["last_entry_id"])
    assert (shut.status_code, shut.json()["code"]) == (409, "gate_shut")
    assert felt(ines, rinsing).json()["state"]["flush"]["step"] == "drain"
    caught = [{"where": "A", "gross_kg": 17.1, "tare_kg": 1.3}, {"where": "B", "marks_l": 9.0, "at_c": 30}]
    state = ines.record(rinsing, "drained", {"caught": caught}).json()["state"]
    assert state["flush"]["rounds"][-1]["out_l"] == pytest.approx(24.8, abs=0.3)
    assert state["flush"]["finished_old_percent"] < 2
    state = ines.record(rinsing, "sampled", {"spot": "drain", "looks": ["crystal_clear"]}).json()["state"]
    assert state["flush"]["enough"]["enough"]
    state = ines.record(rinsing, "flush_ended", {}).json()["state"]
    assert state["stage"] == "mix"
    assert bench(ines, rinsing)["flushing"] is None


def test_a_cleaner_over_its_limit_is_first_and_still_goes_through_the_gate(tomo, resurfacer):
    board = tomo.get("/api/board").json()["strips"]
    assert (board[0]["machine"]["fleet_number"], board[0]["wait"]["kind"]) == ("IR-1", "limit")
    state = bench(tomo, resurfacer)["state"]
    assert state["flush"]["cleaner"]["running"]
    assert "must not stay overnight" in state["standing"]["sentence"]
    tomo.record(resurfacer, "paused", {"note": "lunch"})
    assert tomo.get("/api/board").json()["strips"][0]["wait"]["kind"] == "limit"  # it cannot be put away
    tomo.record(resurfacer, "resumed", {})
    tomo.record(resurfacer, "engine_run", HOT)
    answer = tomo.record(resurfacer, "drained", {"drained_l": 13}, seen=bench(tomo, resurfacer)["state"]["last_entry_id"])
    assert answer.json()["code"] == "gate_shut"


def test_label_and_analysis_are_written_into_the_round(tomo, depot, aside):
    cleaner, tap = depot.agents.get(name="Rinseflow"), depot.waters.get(name="Bay tap")
    tomo.record(aside, "resumed", {})
    tomo.record(aside, "engine_run", HOT)
    felt(tomo, aside)
    tomo.record(aside, "drained", {"drained_l": 6.9})
    facts = {"method": "cleaner", "water_id": tap.id, "agent_id": cleaner.id, "agent_ml": 416, "run_min": 180}
    answer = tomo.record(aside, "round_filled", facts)
    assert answer.status_code == 201, answer.content
    state = answer.json()["state"]
    assert state["flush"]["cleaner"]["limit_min"] == 240
    cleaner.limit_min = 200
    cleaner.save()
    assert bench(tomo, aside)["state"]["flush"]["cleaner"]["limit_min"] == 240
    kept = Entry.objects.filter(loop=aside, kind="round_filled").latest("recorded_at").facts
    assert (kept["water"], kept["solids_mg_l"]) == ("tap", 290)


@pytest.mark.parametrize(
    ("facts", "field", "words"),
    [
        ({"method": "cleaner"}, "facts.agent", "The cleaner is missing"),
        ({"method": "cleaner", "agent_id": "Linerdose", "agent_ml": 5, "run_min": 9}, "facts.agent", "is not a cleaner"),
        ({"method": "cleaner", "agent_id": "Rinseflow", "run_min": 180}, "facts.agent_ml", "amount of cleaner is missing"),
        ({"method": "cleaner", "agent_id": "Rinseflow", "agent_ml": 9, "run_min": 300}, "facts.run_min", "over the label's"),
        ({"method": "blow_out"}, "facts.method", "Record it as a rinse"),
        ({"method": "fill_run_drain", "fill_l": 99}, "facts.fill_l", "more than the 24.5 L of room"),
        ({"method": "boil"}, "entries.0.facts.method", "fill_run_drain"),
    ],
)
def test_rounds_that_cannot_be_are_refused_by_name(ines, depot, groomer, facts, field, words):
    ended = Entry.objects.filter(loop=groomer, kind="flush_ended").get()
    ines.record(groomer, "voided", {"entry_id": str(ended.id)})
    if isinstance(facts.get("agent_id"), str):
        facts = facts | {"agent_id": depot.agents.get(name=facts["agent_id"]).id}
    answer = ines.record(groomer, "round_filled", {"water": "tap"} | facts)
    assert answer.status_code == 400, answer.content
    assert answer.json()["field"] == field
    assert words in answer.json()["message"]


def test_a_pause_is_taken_up_by_another_who_feels_it_again(ines, aside):
    page = bench(ines, aside)
    assert page["state"]["paused"]["note"].startswith("Heater fan")
    assert page["by"]["username"] == "tomo"
    refused = ines.record(aside, "engine_run", HOT)
    assert (refused.status_code, refused.json()["code"]) == (409, "paused")
    page = ines.record(aside, "resumed", {}).json()
    assert page["by"]["username"] == "ines"
    assert page["state"]["flush"]["step"] == "gate"
    strip = next(s for s in ines.get("/api/board").json()["strips"] if s["machine"]["fleet_number"] == "T-22")
    assert strip["by"]["username"] == "ines"


def test_a_clock_on_one_tablet_does_not_make_another_stale(ines, tomo, rinsing):
    seen = bench(ines, rinsing)["state"]["last_entry_id"]
    assert tomo.record(rinsing, "clock_started", {"clock": "hose_flow", "minutes": 15}).status_code == 201
    assert ines.record(rinsing, "engine_run", HOT, seen=seen).status_code == 201


def test_clocks_survive_and_stop_once(ines, rinsing):
    started = bench(ines, rinsing)["state"]["timers"][0]
    answer = ines.record(rinsing, "clock_stopped", {"entry_id": started["entry_id"]})
    assert [timer["kind"] for timer in answer.json()["state"]["timers"]] == []
    again = ines.record(rinsing, "clock_stopped", {"entry_id": started["entry_id"]})
    assert (again.status_code, again.json()["code"]) == (409, "not_running")


def test_waste_is_kept_in_containers_and_never_more_than_came_out(ines, groomer):
    state = ines.record(groomer, "waste_kept", {"kind": "rinse_water", "litres": 49, "containers": 3}).json()["state"]
    row = next(row for row in state["flush"]["waste"] if row["kind"] == "rinse_water")
    assert (row["kept_l"], row["containers"]) == (49, 3)
    more = ines.record(groomer, "waste_kept", {"kind": "rinse_water", "litres": 20, "containers": 1})
    assert (more.status_code, more.json()["field"]) == (400, "facts.litres")
    reuse = ines.record(groomer, "waste_kept", {"kind": "old_coolant", "litres": 20, "containers": 1, "reuse": True})
    assert "not for reuse" in reuse.json()["message"]


def test_the_litres_of_a_round_may_be_corrected_after_the_flush_was_ended(ines, groomer):
    """As the mix does it: the old entry is taken back, the new one takes its place in time."""
    drain = Entry.objects.filter(loop=groomer, kind="drained").latest("happened_at")
    entries = [
        {"id": str(uuid.uuid4()), "kind": "voided", "facts": {"entry_id": str(drain.id)}},
        {
            "id": str(uuid.uuid4()),
            "kind": "drained",
            "facts": {"drained_l": 20.0, "measured": "weighed"},
            "happened_at": drain.happened_at.isoformat(),
        },
    ]
    answer = ines.post(f"/api/loops/{groomer.id}/entries", {"entries": entries})
    assert answer.status_code == 201, answer.content
    state = answer.json()["state"]
    assert state["stage"] == "mix"
    assert state["drained_l"] == pytest.approx(20, abs=0.05)
    assert state["flush"]["rounds"][-1]["out_l"] == 20


def test_rinses_told_as_a_number_become_the_rounds_they_were(depot, railcar):
    """The data migration: the fold before and after says the same of what is inside."""
    job = JobLoop.objects.get(loop=railcar, signed_at__isnull=True).job
    at, person = timezone.now(), Person.objects.get(username="ines")
    Entry.objects.create(
        id=uuid.uuid4(), loop=railcar, job=job, kind="drained", happened_at=at, recorded_at=at, person=person,
        facts={"drained_l": 41.5, "measured": "weighed", "by_vessel": {}, "rinses": 2},
    )  # fmt: skip
    import_module("jobs.migrations.0005_rounds_of_their_own").told_as_rounds(apps, None)
    kinds = list(railcar.entries.order_by("happened_at").values_list("kind", flat=True))
    assert kinds[-8:] == ["drained", *["round_filled", "engine_run", "drained"] * 2, "flush_ended"]
    state = bench_of(railcar, person).state
    assert state.flush.finished_old_percent == pytest.approx(100 * (16.5 / 58) ** 3, rel=0.02)


def test_what_a_change_was_said_to_cost_is_what_the_flush_plans(ines, depot):
    """Know and Flush reckon the same rounds for every loop that has its product and is not drained yet."""
    agreed = 0
    for number in ("B-14", "V-31", "R-02", "G-02"):
        loop = loop_of(number)
        page = bench(ines, loop)
        if page["flushing"] is None or page["state"]["drained_l"] is not None:
            continue
        chosen = next(row for row in page["choices"] if str(row["product"]["id"]) == page["state"]["plan"]["product"]["id"])
        planned = next(row for row in page["flushing"]["methods"] if row["method"] == "fill_run_drain")
        if chosen["judged"]["old_limit_percent"] is not None:
            assert chosen["cost"]["rinses"] == planned["rounds"], number
            agreed += 1
    assert agreed


# ---- the board ----------------------------------------------------------------------------------------------------


def test_the_board_with_334_jobs_and_1000_clocks_asks_as_often_as_with_a_dozen(depot):
    with CaptureQueriesContext(
        connection,
    ) as few:
        before = len(board_of(depot).strips)
    crowd(depot, 334, 1)
    ROWS.forget()
    RESTS.forget()
    with CaptureQueriesContext(connection) as many:
        board = board_of(depot)
    assert len(board.strips) == before + 334
    assert sum(len(strip.row.timers) for strip in board.strips) >= 1000
    assert len(many) == len(few)


def test_a_long_life_adds_no_row_to_the_board(depot):
    """What a signed-off job hands on stands in for it: entries of signed jobs are not read again."""
    crowd(depot, 3, 10)
    with CaptureQueriesContext(connection) as asked:
        board_of(depot)
    sql = next(row["sql"] for row in asked if row["sql"].startswith('SELECT "jobs_entry"'))
    with connection.cursor() as cursor:
        read = len(cursor.execute(sql).fetchall())
    in_work = JobLoop.objects.filter(loop__machine__depot=depot, signed_at__isnull=True)
    assert read == Entry.objects.filter(job__in=[part.job_id for part in in_work]).count()


def test_what_is_handed_on_says_the_same_as_the_whole_life(depot):
    """Every strip of the board against its bench, which walks the whole ledger."""
    person = Person.objects.get(username="tomo")
    for strip in board_of(depot).strips:
        whole, row = bench_of(Loop.objects.get(pk=strip.loop_id), person).state, strip.row
        if strip.frost_low_c is None:
            assert row.act.template == whole.next_action.act.template
        assert row.stages == tuple(line.status for line in whole.stages)
        assert row.claim.why == whole.claim.why
        assert row.claim.freeze_c == pytest.approx(whole.claim.freeze_c, abs=1e-4)
        assert row.frost_risk == whole.frost_risk
        assert [timer.entry_id for timer in row.timers] == [timer.entry_id for timer in whole.timers]


def test_a_job_signed_before_anything_was_handed_on_is_walked_whole(depot):
    before = next(s for s in board_of(depot).strips if s.machine.fleet_number == "V-31").row
    JobLoop.objects.filter(loop__machine__fleet_number="V-31").update(handed_on=None)
    ROWS.forget()
    assert next(s for s in board_of(depot).strips if s.machine.fleet_number == "V-31").row == before


def test_what_is_handed_on_is_kept_with_the_job(depot):
    part = JobLoop.objects.filter(loop__machine__fleet_number="S-12", signed_at__isnull=False).get()
    assert SNAPSHOT.validate_python(part.handed_on).families[0] == "oat"
    assert json.dumps(part.handed_on)
