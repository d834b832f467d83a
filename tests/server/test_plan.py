"""The lead's plan: what comes due, moved and assigned; the calendar follows; one list of matters; figures and their file."""

import csv
import io
import threading
from datetime import date, timedelta
from http.server import ThreadingHTTPServer

import pytest
from icalendar import Calendar

from demo.weather import Answer, low_of
from depots import weather
from depots.models import NightLow
from depots.nights import tonight
from jobs.board import board_of
from jobs.models import Appointment, Entry
from people.models import Person


def plan(api, weeks=6):
    """The plan as somebody sees it."""
    answer = api.get(f"/api/plan?weeks={weeks}")
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_weeks_add_up_and_every_row_stands_in_one(maud):
    found = plan(maud)
    assert len(found["weeks"]) == 6
    assert {row["kind"] for row in found["rows"]} >= {"level_check", "reading", "zero_check", "frost"}
    for figure in ("hours", "coolant_l"):
        total = sum(row[figure] for row in found["rows"])
        assert sum(week[figure] for week in found["weeks"]) == pytest.approx(total, abs=0.1)
    assert sum(week["many"] for week in found["weeks"]) == len(found["rows"])
    assert [row["day"] for row in found["rows"]] == sorted(row["day"] for row in found["rows"])


def test_a_lead_moves_and_assigns_and_the_calendar_follows_per_person_too(maud, ines):
    row = next(row for row in plan(maud)["rows"] if row["kind"] == "reading")
    day = (date.fromisoformat(row["day"]) + timedelta(days=5)).isoformat()
    person = Person.objects.get(username="ines")
    moved = maud.send("put", f"/api/plan/{row['key']}", {"day": day, "person_id": person.pk}).json()
    found = next(one for one in moved["rows"] if one["key"] == row["key"])
    assert (found["day"], found["planned"], found["person"]["username"], found["due_on"]) == (
        day,
        True,
        "ines",
        row["due_on"],
    )

    def events(path):
        calendar = Calendar.from_ical(ines.get(path).content)
        return {str(event["uid"]).split("@")[0]: event for event in calendar.walk("VEVENT")}

    mine = events(f"/api/calendar.ics?person={person.pk}")
    assert list(mine) == [row["key"]]
    assert mine[row["key"]].decoded("dtstart").isoformat() == day
    assert "Assigned to Ines" in mine[row["key"]]["description"]
    assert len(events("/api/calendar.ics")) > 3
    maud.send("put", f"/api/plan/{row['key']}", {"day": None, "person_id": None})
    back = next(one for one in plan(maud)["rows"] if one["key"] == row["key"])
    assert (back["day"], back["planned"], back["person"]) == (row["day"], False, None)


def test_a_calendar_of_nobody_is_refused(ines, elsewhere):
    for given in ("nobody", "99999", Person.objects.get(username="else").pk):
        assert ines.get(f"/api/calendar.ics?person={given}").json()["field"] == "person"


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"day": "2020-01-01", "person_id": None}, "day"),
        ({"day": "2099-01-01", "person_id": None}, "day"),
        ({"day": "soon", "person_id": None}, "day"),
        ({"day": None, "person_id": 99999}, "person_id"),
    ],
)
def test_what_cannot_be_planned(maud, body, field):
    row = plan(maud)["rows"][0]
    answer = maud.send("put", f"/api/plan/{row['key']}", body)
    assert (answer.status_code, answer.json()["field"]) == (400, field)
    assert not Appointment.objects.exists()


def test_what_is_not_due_any_more_is_not_planned(maud):
    answer = maud.send("put", "/api/plan/service-1-20200101", {"day": None, "person_id": None})
    assert (answer.status_code, answer.json()["code"]) == (400, "not_due")


def test_how_many_weeks_are_asked_for(maud):
    assert len(plan(maud, 53)["weeks"]) == 53
    for given in ("0", "54", "many", "-1", "1.5"):
        assert maud.get(f"/api/plan?weeks={given}").json()["field"] == "weeks"


# ---- matters for a lead ---------------------------------------------------------------------------------------------


def test_a_decision_against_advice_is_read_answered_and_done(maud):
    before = maud.get("/api/attention").json()
    row = next(row for row in before["waiting"] if row["kind"] == "against_advice")
    fact = {"entry_id": row["id"], "answer": "Right: it had to go."}
    entry = {"id": "0a0a0a0a-0000-4000-8000-000000000001", "kind": "acknowledged", "facts": fact}
    body = {"entries": [entry], "seen": None, "between": False}
    assert maud.post(f"/api/loops/{row['loop_id']}/entries", body).status_code == 201
    after = maud.get("/api/attention").json()
    assert len(after["waiting"]) == len(before["waiting"]) - 1
    done = next(one for one in after["done"] if one["id"] == row["id"])
    assert (done["answer"], done["answered_by"]) == ("Right: it had to go.", "Maud Stellan")
    assert len(maud.get("/api/board").json()["overrides"]) == len(after["waiting"])
    void = {"id": "0a0a0a0a-0000-4000-8000-000000000002", "kind": "voided", "facts": {"entry_id": entry["id"], "reason": ""}}
    assert maud.post(f"/api/loops/{row['loop_id']}/entries", body | {"entries": [void]}).status_code == 201
    again = maud.get("/api/attention").json()
    assert (len(again["waiting"]), again["done"]) == (len(before["waiting"]), [])


# ---- figures --------------------------------------------------------------------------------------------------------


def test_figures_are_the_litres_that_were_poured_and_their_file_says_the_same(maud, depot):
    found = maud.get("/api/figures?months=12").json()
    litres = sum(row["value"] for row in found["rows"] if row["kind"] == "coolant")
    poured = Entry.objects.acting().filter(kind__in=("poured", "strength_adjusted"), loop__machine__depot=depot)
    expected = sum(
        row.facts["product_l"] + row.facts["water_l"] for row in poured if row.happened_at.date() >= date(2020, 1, 1)
    )
    assert 0 < litres <= expected + 1e-6
    assert {row["kind"] for row in found["rows"]} >= {"coolant", "jobs", "hours"}
    answer = maud.get("/api/figures.csv?months=12")
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    assert len(rows) == len(found["rows"])
    assert sum(float(row["value"]) for row in rows if row["what"] == "coolant") == pytest.approx(litres, abs=0.01)
    assert maud.get("/api/figures?months=61").json()["field"] == "months"


def test_a_name_that_looks_like_a_formula_stays_a_text(maud, depot):
    depot.machines.filter(fleet_number="S-12").update(fleet_number="=1+1")
    rows = list(csv.DictReader(io.StringIO(maud.get("/api/figures.csv").content.decode())))
    assert "'=1+1" in {row["machine"] for row in rows}


# ---- the night, and the simulated weather service ------------------------------------------------------------------


@pytest.fixture
def service(settings):
    """The stand-in as a thread; its address is the server's."""
    server = ThreadingHTTPServer(("127.0.0.1", 0), Answer)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    settings.WEATHER = f"http://127.0.0.1:{server.server_port}/night"
    weather._heard.clear()
    yield server
    server.shutdown()
    weather._heard.clear()


def test_the_forecast_counts_until_a_lead_enters_another(maud, depot, service):
    NightLow.objects.all().delete()
    assert tonight(depot).service == "not_connected"  # nobody asked it yet
    weather.refresh(depot)
    night = tonight(depot)
    assert (night.low.source, night.low.low_c, night.service, night.wrong) == (
        "forecast",
        low_of(depot.night),
        "connected",
        "",
    )
    assert maud.post("/api/night", {"low_c": -3}).json()["low"] == {
        "night": depot.night.isoformat(),
        "low_c": -3,
        "source": "entered",
    }
    assert maud.post("/api/night", {"low_c": None}).json()["low"]["source"] == "forecast"
    weather.refresh(depot)
    assert NightLow.objects.filter(person=None).count() == 1  # the same is not kept twice


@pytest.mark.parametrize(
    ("said", "wrong"),
    [
        (b"no json", "not with a night's low"),
        (b'{"night": "2026-11-30", "low_c": -500}', "not with a night's low"),
        (b'{"night": "1999-01-01", "low_c": -5}', "another night"),
        (None, "does not answer"),
    ],
)
def test_a_service_that_is_not_what_it_should_be_is_said_and_the_coldest_counts(depot, settings, monkeypatch, said, wrong):
    settings.WEATHER = "http://127.0.0.1:9/night"
    NightLow.objects.all().delete()
    if said is not None:
        monkeypatch.setattr("urllib.request.urlopen", lambda *_, **__: io.BytesIO(said))
    assert wrong in weather.refresh(depot).wrong
    night = tonight(depot)
    assert (night.service, night.low.source, night.low.low_c) == ("not_connected", "coldest", depot.coldest_c)
    weather._heard.clear()


def test_without_frost_in_the_year_the_coldest_does_not_count(depot, monkeypatch):
    NightLow.objects.all().delete()
    depot.policy_overrides = {"frost_from_week": 1.0, "frost_until_week": 2.0, "frost_ahead_weeks": 0.0}
    assert tonight(depot).low is None
    assert all(strip.frost_low_c is None for strip in board_of(depot).strips)


@pytest.mark.parametrize("low_c", [-71, 41, "cold", True])
def test_a_low_that_cannot_be_is_refused(maud, low_c):
    assert maud.post("/api/night", {"low_c": low_c}).json()["field"] == "low_c"


def test_a_machine_at_rest_outdoors_is_on_the_board_when_it_can_freeze(maud, depot):
    before = {strip.machine.fleet_number for strip in board_of(depot).strips}
    maud.post("/api/night", {"low_c": -34})
    cold = [strip for strip in board_of(depot).strips if strip.machine.fleet_number not in before]
    assert cold
    assert {(strip.band, strip.row.stage, strip.parking) for strip in cold} == {("act_now", None, "outdoors")}
    entry = {"id": "0b0b0b0b-0000-4000-8000-000000000001", "kind": "parked", "facts": {"where": "indoors"}}
    one = cold[0]
    body = {"entries": [entry], "seen": None, "between": True}
    assert maud.post(f"/api/loops/{one.loop_id}/entries", body).status_code == 201
    assert one.loop_id not in {strip.loop_id for strip in board_of(depot).strips}


# ---- the wall -------------------------------------------------------------------------------------------------------


def test_a_wall_is_read_by_its_link_until_a_lead_revokes_it(maud, nobody):
    made = maud.post("/api/wall-links", {"name": "Bay 1"}).json()
    path = f"/api{made['path']}"
    answer = nobody.get(path)
    board = answer.json()
    assert len(board["strips"]) > 9
    assert (board["overrides"], board["rejudged"]) == ([], [])
    assert {strip["by"]["username"] for strip in board["strips"] if strip["by"]} == {""}
    assert board["night"]["by"]["username"] == ""
    assert nobody.send("get", path, HTTP_IF_NONE_MATCH=answer["ETag"]).status_code == 304
    assert nobody.post(path, {}).status_code in (403, 405)  # only to be read
    assert nobody.get(path + "x").status_code == 404
    (link,) = maud.get("/api/wall-links").json()["links"]
    assert (link["name"], link["revoked_at"]) == ("Bay 1", None)
    revoked = maud.send("delete", f"/api/wall-links/{link['id']}").json()["links"]
    assert revoked[0]["revoked_at"]
    assert nobody.get(path).json()["code"] == "no_link"
    assert maud.post("/api/wall-links", {"name": " "}).json()["field"] == "name"
