"""After a job: the sheet and its PDF read back, the label's code decoded, calendars parsed by another library, rechecks."""

import io
import re
import uuid
from datetime import UTC, datetime, timedelta

import pytest
import vobject
import zxingcpp
from django.utils import timezone
from PIL import Image
from pypdf import PdfReader

from jobs.models import Entry, JobLoop
from temper_core.basis.message import MINUS
from tests.server.conftest import loop_of


@pytest.fixture
def shuttle(depot):
    """S-12's engine loop, proven yesterday."""
    return loop_of("S-12")


def between(api, loop, *rows, **more):
    """Entries without a job, behind the safe-to-open check where one of them opens the loop."""
    if any(kind in ("poured", "read") for kind, _ in rows):
        api.check_safe(loop, between=True)
    rows = [(kind, {"water": "tap"} | facts if kind == "poured" else facts) for kind, facts in rows]
    entries = [{"id": str(uuid.uuid4()), "kind": kind, "facts": facts} | more for kind, facts in rows]
    return api.post(f"/api/loops/{loop.id}/entries", {"entries": entries, "between": True})


def pdf_text(api, loop, query=""):
    """What a reader of the PDF sees."""
    response = api.get(f"/api/loops/{loop.id}/sheet.pdf{query}")
    assert response["Content-Type"] == "application/pdf"
    return " ".join(page.extract_text() for page in PdfReader(io.BytesIO(response.content)).pages)


# ---- sheet --------------------------------------------------------------------------------------------------------


def test_the_pdf_says_what_the_page_says(ines, shuttle):
    """Read back with pypdf."""
    page = ines.get(f"/api/loops/{shuttle.id}/sheet").json()
    text = re.sub(r"\s+", "", pdf_text(ines, shuttle))
    lines = [line for part in page["sheet"]["parts"] for line in part["lines"]]
    assert len(lines) > 12
    for line in lines:
        assert re.sub(r"\s+", "", line["said"]["sentence"]) in text, line
        assert re.sub(r"\s+", "", line["name"]) in text
    assert "S-12" in text
    assert page["proven"]


def test_the_sheet_holds_the_strength_the_bleed_the_leak_proof_and_what_comes(ines, shuttle):
    said = {
        line["name"]: line["said"]["sentence"]
        for part in ines.get(f"/api/loops/{shuttle.id}/sheet").json()["sheet"]["parts"]
        for line in part["lines"]
    }
    assert said["Reads"].startswith(MINUS)
    assert "heater blows hot" in said["Bled"]
    assert said["Leak test"].startswith("tight: pressure 100 kPa")
    assert "Next service" in said
    assert any(name.startswith("By ") for name in said)


def test_the_customer_reads_plain_words_and_no_trade(ines, shuttle):
    text = pdf_text(ines, shuttle, "?plain=true")
    assert "Keep children and animals away" in " ".join(text.split())
    assert not re.search(r"heater core|degas|kPa|residual|refractometer", text)


def test_the_sheet_in_american_units(ines, shuttle):
    text = pdf_text(ines, shuttle, "?units=us")
    assert "US qt" in text
    assert "°F" in text
    assert "°C" not in text


@pytest.mark.parametrize(("query", "field"), [("?units=furlong", "units"), ("?job=abc", "job")])
def test_a_sheet_asked_for_wrongly_says_what_is_allowed(ines, shuttle, query, field):
    response = ines.get(f"/api/loops/{shuttle.id}/sheet.pdf{query}")
    assert (response.status_code, response.json()["field"]) == (400, field)


def test_a_job_of_another_loop_has_no_sheet_here(ines, shuttle, groomer):
    other = JobLoop.objects.filter(loop=groomer).first().job_id
    assert ines.get(f"/api/loops/{shuttle.id}/sheet?job={other}").status_code == 404


def test_a_sheet_of_a_job_in_work_says_that_it_is(ines, groomer):
    assert ines.get(f"/api/loops/{groomer.id}/sheet").json()["signed_at"] is None
    assert "In progress" in pdf_text(ines, groomer)


def test_a_loop_that_never_had_a_job_has_an_empty_sheet(ines, sled):
    assert ines.get(f"/api/loops/{sled.id}/sheet").json()["job_id"] is None
    assert "No job yet" in pdf_text(ines, sled)


def test_a_name_beyond_latin_1_is_printed(ines, shuttle, depot):
    shuttle.machine.kind = "Świetlny wóz"
    shuttle.machine.save()
    assert "Świetlny wóz" in pdf_text(ines, shuttle)


def test_a_correction_stands_beside_the_signed_job_and_changes_nothing_of_it(ines, shuttle):
    before = ines.get(f"/api/loops/{shuttle.id}/sheet").json()
    assert between(ines, shuttle, ("amended", {"text": "The glass was not wiped between."})).status_code == 201
    after = ines.get(f"/api/loops/{shuttle.id}/sheet").json()
    assert after["sheet"] == before["sheet"]
    assert [row["text"] for row in after["corrections"]] == ["The glass was not wiped between."]
    assert "not wiped between" in pdf_text(ines, shuttle)


# ---- label --------------------------------------------------------------------------------------------------------


def test_the_labels_code_holds_the_loops_address(ines, shuttle):
    """Decoded from its drawing with ZXing."""
    label = ines.get(f"/api/loops/{shuttle.id}/label").json()
    assert label["address"].endswith(f"/of/{shuttle.uuid}")
    assert label["measured"]
    assert label["safe_c"] > label["freeze_c"]
    assert [row.text for row in zxingcpp.read_barcodes(_drawn(label["qr"]))] == [label["address"]]


def _drawn(rows):
    """The modules as a picture, eight pixels each."""
    picture = Image.new("L", (8 * len(rows[0]), 8 * len(rows)), 255)
    for y, row in enumerate(rows):
        for x, module in enumerate(row):
            if module == "1":
                picture.paste(0, [8 * x, 8 * y, 8 * x + 8, 8 * y + 8])
    return picture


# ---- rechecks and calendar ----------------------------------------------------------------------------------------


def coming(api, number):
    """The board's rechecks of one machine."""
    rows = api.get("/api/board").json()["coming"]
    return [row["why"] for row in rows if row["machine"]["fleet_number"] == number]


def test_the_board_owes_the_rechecks_and_a_look_with_a_reading_settles_them(ines, shuttle, depot):
    assert coming(ines, "S-12") == ["first"]
    assert between(ines, shuttle, ("level_seen", {"level": "at_mark"})).status_code == 201
    assert coming(ines, "S-12") == ["second"]
    glass = depot.instruments.get(name="Glass 3")
    depot.policy_overrides = {"recheck_second_days": 1.0}
    depot.save()
    reading = {"value": -38, "place": "as_found", "instrument_id": glass.id, "sample_c": 19, "zero": 0.0}
    between(ines, shuttle, ("level_seen", {"level": "at_mark"}), ("read", reading))
    assert coming(ines, "S-12") == []


def test_overdue_is_first_and_said_so(ines, shuttle):
    past = timezone.now() - timedelta(days=9)
    JobLoop.objects.filter(loop=shuttle).update(signed_at=past)
    row = ines.get("/api/board").json()["coming"][0]
    assert row["overdue"]
    assert row["machine"]["fleet_number"] in ("S-12", "P-06", "V-31", "W-05")


def test_a_recheck_that_was_forgotten_for_months_is_history(ines, shuttle):
    JobLoop.objects.filter(loop=shuttle).update(signed_at=timezone.now() - timedelta(days=200))
    assert coming(ines, "S-12") in ([], [None])


def test_water_on_top_is_a_dilution_that_is_owed_a_reading(ines, shuttle):
    before = ines.get(f"/api/loops/{shuttle.id}").json()["state"]["claim"]
    rows = (("level_seen", {"level": "low"}), ("poured", {"product_id": None, "product_l": 0, "water_l": 1.0}))
    state = between(ines, shuttle, *rows).json()["state"]
    assert state["claim"]["why"] == "diluted"
    assert state["claim"]["freeze_c"] > before["freeze_c"] + 2
    assert coming(ines, "S-12") == ["unprotected", "second"]  # the look does for the recheck and the dilution
    assert Entry.objects.filter(loop=shuttle, kind="poured", job=None).count() == 1


def test_what_was_recorded_between_services_can_be_taken_back_by_who_did(ines, tomo, shuttle):
    state = between(ines, shuttle, ("poured", {"product_id": None, "product_l": 0, "water_l": 1.0})).json()["state"]
    void = ("voided", {"entry_id": state["last_entry_id"]})
    assert between(tomo, shuttle, void).status_code == 409
    assert ines.record(shuttle, *void).json()["state"]["claim"]["why"] == "read"


def test_without_a_job_only_what_needs_none_is_recorded(ines, shuttle, groomer):
    response = between(ines, shuttle, ("drained", {"drained_l": 1, "measured": "weighed"}))
    assert (response.status_code, response.json()["code"]) == (409, "no_job")
    response = between(ines, groomer, ("level_seen", {"level": "low"}))
    assert (response.status_code, response.json()["code"]) == (409, "job_open")
    long_ago = (timezone.now() - timedelta(days=400)).isoformat()
    response = between(ines, shuttle, ("level_seen", {"level": "low"}), happened_at=long_ago)
    assert response.json()["code"] == "too_early"


def test_the_next_job_on_the_board_starts_from_the_dilution(ines, shuttle):
    between(ines, shuttle, ("poured", {"product_id": None, "product_l": 0, "water_l": 2.0}))
    body = {
        "id": str(uuid.uuid4()),
        "machine_id": shuttle.machine_id,
        "loops": [{"loop_id": shuttle.id, "job_type": "check"}],
    }
    assert ines.post("/api/jobs", body).status_code == 201
    strip = next(row for row in ines.get("/api/board").json()["strips"] if row["loop_id"] == shuttle.id)
    bench = ines.get(f"/api/loops/{shuttle.id}").json()
    assert strip["row"]["claim"]["why"] == bench["state"]["claim"]["why"]
    assert strip["row"]["claim"]["freeze_c"] == pytest.approx(bench["state"]["claim"]["freeze_c"], abs=1e-4)


def test_the_calendar_reads_back_in_another_library(ines, shuttle):
    """Written by icalendar, parsed by vobject (RFC 5545)."""
    response = ines.get("/api/calendar.ics")
    assert response["Content-Type"].startswith("text/calendar")
    calendar = vobject.readOne(response.content.decode())
    plan = ines.get("/api/plan?weeks=26").json()["rows"]
    events = list(calendar.vevent_list)
    assert len(events) == len(plan) > 5
    assert len({event.uid.value for event in events}) == len(events)
    mine = [event for event in events if "S-12" in event.summary.value]
    due = [row for row in plan if row["machine"] and row["machine"]["fleet_number"] == "S-12"]
    assert sorted(event.dtstart.value.isoformat() for event in mine) == sorted(row["day"] for row in due)
    assert {event.url.value.rsplit("/loops/", 1)[1] for event in mine} == {f"{row['loop_id']}/check" for row in due}
    assert all(event.valarm.trigger.value == timedelta(hours=7) for event in mine)


# ---- frost --------------------------------------------------------------------------------------------------------


def test_the_frost_plan_names_what_is_not_protected(ines, depot, monkeypatch):
    depot.policy_overrides = {"frost_from_week": 1.0, "frost_until_week": 53.0}
    depot.save()
    page = ines.get("/api/season").json()
    assert page["dates"]["season"] == "frost"
    rows = {row["machine"]["fleet_number"]: row["plan"] for row in page["rows"]}
    assert "Drain for storage" in rows["RS-1"]["act"]["sentence"]
    assert rows["RS-1"]["loud"]
    assert "W-02" not in rows
    assert ines.get("/api/board").json()["frost"]["machines"] == len(page["rows"])


def test_out_of_season_there_is_no_plan(ines, depot):
    week = (datetime.now(UTC) + timedelta(weeks=20)).isocalendar().week
    until = (datetime.now(UTC) + timedelta(weeks=24)).isocalendar().week
    depot.policy_overrides = {"frost_from_week": float(week), "frost_until_week": float(until)}
    depot.save()
    assert ines.get("/api/season").json()["rows"] == []
