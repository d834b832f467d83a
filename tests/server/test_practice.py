"""The practice bench: a depot apart, a machine that answers, a clock that runs forward, the truth, and who may what."""

import csv
import io
import uuid
from datetime import datetime, timedelta

import pytest
from django.utils import timezone
from practice import runs
from practice.models import AskedLesson, Offered, Run

from depots.models import Depot
from fleet.models import Machine
from instruments.models import Instrument
from jobs.models import Entry, Job
from people.models import Person
from temper_core.practice.lesson import SHIPPED

FIRST, HYBRID = "first-level-check", "two-loops"


@pytest.fixture(autouse=True)
def practice_in_a_folder_of_its_own(settings, tmp_path):
    """No run stays in the depot's folder."""
    settings.DATA = tmp_path
    runs._worlds.clear()


def begin(api, lesson=FIRST, **more):
    """A run as the screen begins it."""
    answer = api.post("/api/practice/runs", {"id": str(uuid.uuid4()), "lesson": lesson, "seed": 7} | more)
    assert answer.status_code == 201, answer.content
    return answer.json()


def do(api, bench, do_, **more):
    """An act; its answer."""
    body = {"id": str(uuid.uuid4()), "act": {"do": do_} | more}
    return api.post(f"/api/practice/runs/{bench['run']['id']}/acts", body)


def found(answer):
    """What was found."""
    assert answer.status_code == 201, answer.content
    return answer.json()["done"][0]["found"]


def inside(bench, path):
    """An address of the run's own depot."""
    return f"/practice/{bench['run']['id']}{path}"


def counts():
    """Rows of the depot's own tables that practice might touch."""
    return [model.objects.count() for model in (Machine, Job, Entry, Instrument, Depot, Person)]


def open_a_job(api, bench, loop=0):
    """A job through the run's own API."""
    loop_id = bench["loops"][loop]["loop_id"]
    given = {
        "id": str(uuid.uuid4()),
        "machine_id": bench["machine_id"],
        "loops": [{"loop_id": loop_id, "job_type": "top_up"}],
    }
    return api.post(inside(bench, "/api/jobs"), given)


def test_twelve_lessons_in_rising_order_are_offered_once(ines):
    Offered.objects.filter(person__username="ines").delete()  # the demo's people have worked here for long
    page = ines.get("/api/practice").json()
    assert [row["key"] for row in page["lessons"]][:2] == [FIRST, "zero-the-refractometer"]
    assert len(page["lessons"]) == 12
    assert page["offer"]
    assert ines.post("/api/practice/offered", {}).status_code == 204
    assert not ines.get("/api/practice").json()["offer"]
    begin(ines)
    assert ines.post("/api/practice/offered", {}).status_code == 204


def test_what_is_done_in_practice_touches_nothing_of_the_depot(ines):
    before = counts()
    bench = begin(ines)
    real = ines.get("/api/board").json()
    assert open_a_job(ines, bench).status_code == 201
    board = ines.get(inside(bench, "/api/board")).json()
    assert len(board["strips"]) == 1
    assert "P-01" in str(board)
    assert "G-07" not in str(board)
    assert counts() == before
    after = ines.get("/api/board").json()
    assert [strip["row"] for strip in after["strips"]] == [strip["row"] for strip in real["strips"]]
    session = ines.get(inside(bench, "/api/session")).json()
    assert session["depot"]["name"] == "Practice depot"
    assert session["person"]["username"] == "ines"
    assert ines.get("/api/session").json()["depot"]["name"] != "Practice depot"


def test_rows_of_a_run_are_numbered_apart(ines):
    one, two = begin(ines), begin(ines)
    ids = {bench["loops"][0]["loop_id"] for bench in (one, two)}
    assert len(ids) == 2
    assert min(ids) > 10_000_000


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("get", "/api/archive"),
        ("get", "/api/people"),
        ("get", "/api/profile"),
        ("post", "/api/session"),
        ("delete", "/api/session"),
        ("post", "/api/machines"),
        ("put", "/api/policy/margin_k"),
        ("post", "/api/loops/1/photos"),
        ("get", "/api/practice"),
        ("post", "/api/readings/import"),
        ("get", "/api/photos/" + "a" * 64),
    ],
)
def test_only_work_at_the_machine_is_part_of_practice(ines, method, path):
    bench = begin(ines)
    answer = ines.send(method, inside(bench, path), {} if method != "get" else None)
    assert (answer.status_code, answer.json()["code"]) == (403, "not_in_practice")
    assert ines.get("/api/session").json()["person"]["username"] == "ines"


def test_a_run_is_its_persons_alone(ines, tomo):
    bench = begin(ines)
    assert tomo.get(inside(bench, "/api/board")).status_code == 404
    assert tomo.get(f"/api/practice/runs/{bench['run']['id']}").status_code == 404
    assert do(tomo, bench, "feel").status_code == 404
    twice = tomo.post("/api/practice/runs", {"id": bench["run"]["id"], "lesson": FIRST})
    assert twice.json()["code"] == "id_taken"


def test_the_machine_answers_and_says_what_cannot_be(ines):
    bench = begin(ines)
    felt = found(do(ines, bench, "feel"))
    assert felt["said"]["values"]["upper"] == "too hot to hold"
    refused = do(ines, bench, "pour", what="Winterline O", litres=0.3)
    assert (refused.status_code, refused.json()["code"]) == (400, "shut")
    unknown = do(ines, bench, "pour", what="Lemonade", litres=0.3)
    assert unknown.json()["field"] == "what"
    scalded = found(do(ines, bench, "open_cap"))
    assert [row["code"] for row in scalded["unsafe"]] == ["scalded"]


def test_an_act_sent_twice_is_done_once(ines):
    bench = begin(ines)
    body = {"id": str(uuid.uuid4()), "act": {"do": "open_cap"}}
    path = f"/api/practice/runs/{bench['run']['id']}/acts"
    first, second = ines.post(path, body).json(), ines.post(path, body)
    assert second.status_code == 201
    assert len(second.json()["done"]) == len(first["done"]) == 1


def test_the_clock_runs_forward_and_it_cools(ines):
    bench = begin(ines)
    hot = found(do(ines, bench, "feel"))["said"]["values"]["surface_c"]
    path = f"/api/practice/runs/{bench['run']['id']}/wait"
    later = ines.post(path, {"minutes": 120}).json()
    ahead = datetime.fromisoformat(later["now"]) - timezone.now()
    assert timedelta(minutes=119) < ahead < timedelta(minutes=123)
    shown = datetime.fromisoformat(ines.get(inside(bench, "/api/board")).json()["server_time"])
    assert abs(shown - datetime.fromisoformat(later["now"])) < timedelta(minutes=1)
    assert found(do(ines, bench, "feel"))["said"]["values"]["surface_c"] < hot - 20
    assert ines.post(path, {"minutes": -1}).json()["field"] == "minutes"
    real = datetime.fromisoformat(ines.get("/api/session").json()["server_time"])
    assert abs(real - timezone.now()) < timedelta(minutes=1)


def test_a_practice_lasts_weeks_and_not_for_ever(ines):
    bench = begin(ines, "a-leak-made-good")
    path = f"/api/practice/runs/{bench['run']['id']}"
    for _ in range(9):
        assert ines.post(f"{path}/wait", {"minutes": 13 * 1440}).status_code == 200
    assert ines.post(f"{path}/wait", {"minutes": 13 * 1440}).json()["code"] == "too_long"
    assert found(do(ines, bench, "level"))["said"]["code"] == "level_none"
    assert ines.post(f"{path}/truth", {}).status_code == 200


def test_the_clock_stands_while_nobody_is_there(ines):
    bench = begin(ines)
    run = Run.objects.get()
    real = run.seen_at + timedelta(hours=5)
    assert runs.clock_of(run, real) == run.clock_at
    assert runs.clock_of(run, run.seen_at + timedelta(minutes=3)) == run.clock_at + timedelta(minutes=3)
    assert bench["run"]["ended_at"] is None


def test_the_same_seed_gives_the_same_truth_and_a_forgotten_world_is_built_again(ines):
    one, two, three = begin(ines), begin(ines), begin(ines, seed=8)
    told = []
    for bench in (one, two, three):
        ines.post(f"/api/practice/runs/{bench['run']['id']}/wait", {"minutes": 300})
        do(ines, bench, "open_cap")
        told.append(found(do(ines, bench, "level"))["said"]["sentence"])
    assert told[0] == told[1]
    runs._worlds.clear()
    again = ines.get(f"/api/practice/runs/{one['run']['id']}").json()
    assert again["done"][0]["found"]["said"]["sentence"] == told[0]
    answer = ines.post(f"/api/practice/runs/{one['run']['id']}/truth", {}).json()
    third = ines.post(f"/api/practice/runs/{three['run']['id']}/truth", {}).json()
    values = [[row["value"] for row in one["truth"]["aims"]] for one in (answer, third)]
    assert values[0] != values[1]


def test_the_truth_is_shown_at_the_end_and_stays(ines):
    bench = begin(ines)
    path = f"/api/practice/runs/{bench['run']['id']}/truth"
    assert ines.get(path).json()["code"] == "not_ended"
    do(ines, bench, "open_cap")
    open_a_job(ines, bench)
    told = ines.post(path, {}).json()
    assert told["run"]["reached"] is False
    assert told["run"]["unsafe"] == 1
    assert [row["said"]["code"] for row in told["truth"]["unsafe"]] == ["scalded"]
    assert told["truth"]["steps"][0]["said"]["code"] == "job_opened"
    assert 1 <= len(told["truth"]["next_time"]) <= 3
    assert ines.get(path).json()["truth"] == ines.post(path, {}).json()["truth"] == told["truth"]
    assert do(ines, bench, "feel").json()["code"] == "over"


def test_free_practice_on_any_layout(ines):
    layouts = [row["key"] for row in ines.get("/api/layouts?capacity_l=10").json()["layouts"]]
    for key in layouts:
        bench = begin(ines, lesson=None, layout=key, capacity_l=12.0, seed=3)
        assert found(do(ines, bench, "feel"))["said"]["values"]["surface_c"] > 0
    wrong = ines.post("/api/practice/runs", {"id": str(uuid.uuid4()), "layout": "bathtub", "capacity_l": 12})
    assert (wrong.status_code, wrong.json()["field"]) == (400, "layout")
    neither = ines.post("/api/practice/runs", {"id": str(uuid.uuid4())})
    assert neither.json()["field"] == "lesson"


def test_runs_that_are_left_by_the_dozen_are_forgotten(ines, settings):
    for _ in range(12):
        begin(ines)
    assert Run.objects.count() == 11  # ten that wait, and the one that has just begun
    assert len(list((settings.DATA / "practice").glob("*.sqlite3"))) == 11
    assert len(ines.get("/api/practice").json()["runs"]) == 11


# ---- leads ---------------------------------------------------------------------------------------------------------


def test_a_lead_reads_the_record_and_takes_it_along(ines, maud):
    bench = begin(ines)
    do(ines, bench, "open_cap")
    ines.post(f"/api/practice/runs/{bench['run']['id']}/truth", {})
    row = maud.get("/api/practice/record").json()["rows"][0]
    assert (row["person"], row["lesson"], row["reached"], row["unsafe"]) == ("Ines Halvard", FIRST, False, 1)
    assert row["said"]
    lines = list(csv.DictReader(io.StringIO(maud.get("/api/practice/record.csv").content.decode())))
    assert (lines[0]["person"], lines[0]["aims_reached"], lines[0]["unsafe_acts"]) == ("Ines Halvard", "no", "1")
    assert ines.get("/api/practice/record").status_code == 403


def test_a_lead_asks_for_a_lesson_before_high_voltage(ines, maud, depot):
    loop = depot.machines.filter(loops__high_voltage=True).first().loops.filter(high_voltage=True).first()
    machine = loop.machine
    given = {"machine_id": machine.pk, "loops": [{"loop_id": loop.pk, "job_type": "check"}]}
    assert ines.send("put", "/api/practice/asked/high_voltage", {"lesson": HYBRID}).status_code == 403
    assert maud.send("put", "/api/practice/asked/high_voltage", {"lesson": "none-such"}).json()["field"] == "lesson"
    asked = maud.send("put", "/api/practice/asked/high_voltage", {"lesson": HYBRID}).json()["asked"]
    assert {row["work"]: row["lesson"] for row in asked} == {"high_voltage": HYBRID, "cleaner": None}
    refused = ines.post("/api/jobs", given | {"id": str(uuid.uuid4())})
    assert (refused.status_code, refused.json()["code"]) == (409, "lesson_asked")
    assert "Two loops" in refused.json()["message"]
    bench = begin(ines, HYBRID)
    assert open_a_job(ines, bench, loop=1).status_code == 201  # within practice nothing is asked for
    Run.objects.filter(pk=bench["run"]["id"]).update(reached=True)
    answer = ines.post("/api/jobs", given | {"id": str(uuid.uuid4())})
    assert answer.json().get("code") != "lesson_asked"
    maud.send("put", "/api/practice/asked/high_voltage", {"lesson": None})
    assert not AskedLesson.objects.exists()


def test_a_lead_adds_a_lesson_of_their_own(ines, maud):
    text = (SHIPPED / "01-first-level-check.toml").read_text()
    assert maud.post("/api/practice/lessons", {"text": text}).json()["code"] == "key_taken"
    own = text.replace(FIRST, "our-van").replace("order = 1", "order = 50").replace("First level check", "Our van")
    assert ines.post("/api/practice/lessons", {"text": own}).status_code == 403
    page = maud.post("/api/practice/lessons", {"text": own}).json()
    assert [(row["name"], row["own"]) for row in page["lessons"]][-1] == ("Our van", True)
    assert maud.get("/api/practice/lessons/our-van").json()["text"] == own
    assert "first-level-check" in maud.get(f"/api/practice/lessons/{FIRST}").json()["text"]
    assert begin(ines, "our-van")["run"]["name"] == "Our van"
    for bad, field in (
        ("not toml [", "lesson.text"),
        (own.replace("found_percent = 48", "found_percent = 480"), "found_percent"),
        (own.replace('goal = "unsafe"', 'goal = "fun"'), "goal"),
        (own.replace("capacity_l = 9.0", ""), "capacity_l"),
        (own + "\nwrong = 1\n", "wrong"),
    ):
        answer = maud.post("/api/practice/lessons", {"text": bad})
        assert answer.status_code == 400
        assert answer.json()["field"].endswith(field.removeprefix("lesson."))
    assert maud.send("delete", "/api/practice/lessons/our-van").status_code == 200
    assert maud.send("delete", "/api/practice/lessons/our-van").status_code == 400
