"""The log of readings over the API: pages, filters, files out and in."""

import csv
import io
import json
import uuid
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from instruments.exchange import COLUMNS, header_of
from instruments.models import Instrument, Reading
from jobs.models import Entry
from tests.server.conftest import loop_of

HEAD = "taken_at [ISO 8601],machine,place,instrument,value [scale]"


def lines(*rows, head=HEAD):
    return "\n".join([head, *rows]).encode()


def row(value=-30, machine="T-21", instrument="Glass 3", place="as_found", hours=100, **_):
    at = (timezone.now() - timedelta(hours=hours)).isoformat(timespec="minutes")
    return f"{at},{machine},{place},{instrument},{value}"


@pytest.fixture
def send(maud):
    """Post a file as a lead; what came of it."""

    def post(data, name="readings.csv", dry_run="no"):
        given = {"file": SimpleUploadedFile(name, data), "dry_run": dry_run}
        return maud.client.post("/api/readings/import", given, headers={"X-CSRFToken": maud.token})

    return post


def errors(answer):
    return [(error["line"], error["column"]) for error in answer.json()["errors"]]


def everything(ines, size=7, **asked):
    """Every page of the log, one after the other."""
    found, after = [], ""
    while True:
        query = "&".join([f"size={size}", *(f"{key}={value}" for key, value in asked.items())])
        page = ines.get(f"/api/readings?{query}" + (f"&after={after}" if after else "")).json()
        found += page["rows"]
        after = page["after"]
        if not after:
            return found


@pytest.mark.parametrize(
    "sort",
    [
        "-taken_at",
        "taken_at",
        "freeze_c",
        "-freeze_c",
        "machine",
        "-machine",
        "instrument",
        "-glycol_mass_percent",
        "person",
    ],
)
def test_pages_hold_every_reading_once_in_order(ines, sort):
    rows = everything(ines, sort=sort)
    assert sorted(r["id"] for r in rows) == sorted(Reading.objects.filter(voided=False).values_list("pk", flat=True))
    name = sort.removeprefix("-")
    keys = [r[name] for r in rows if r[name] is not None]
    if name == "taken_at" or name != "instrument":
        assert keys == sorted(keys, reverse=sort.startswith("-"))


@pytest.mark.parametrize(
    ("where", "holds"),
    [
        ("machine~contains~t-2", lambda r: r["machine"].startswith("T-2")),
        ("place~is~rinse", lambda r: r["place"] == "rinse"),
        ("freeze_c~<~-40", lambda r: r["freeze_c"] < -40),
        ("instrument~equals~Brix glass", lambda r: r["instrument"] == "Brix glass"),
        ("flags~is~in_doubt", lambda r: "in_doubt" in r["flags"]),
        ("flags~is~listed", lambda r: r["listed"]),
    ],
)
def test_a_condition_leaves_what_it_says_and_nothing_else(ines, where, holds):
    every, left = everything(ines), everything(ines, where=where)
    assert left
    assert {r["id"] for r in left} == {r["id"] for r in every if r["freeze_c"] is not None and holds(r)} | {
        r["id"] for r in every if r["freeze_c"] is None and not where.startswith("freeze") and holds(r)
    }


@pytest.mark.parametrize(
    ("query", "field"),
    [
        ("sort=colour", "sort"),
        ("size=0", "size"),
        ("size=many", "size"),
        ("after=nonsense", "after"),
        ("where=colour~is~green", "field"),
        ("where=freeze_c~<~cold", "value"),
        ("where=taken_at~after~then", "value"),
        ("where=x", "where"),
    ],
)
def test_what_the_log_cannot_be_asked_is_refused_by_name(ines, query, field):
    answer = ines.get(f"/api/readings?{query}")
    assert (answer.status_code, answer.json()["field"]) == (400, field)


def test_the_readings_of_another_depot_stay_there(ines, elsewhere, send):
    from people.models import Person
    from tests.server.conftest import Api

    assert Api(Person.objects.get(username="else")).get("/api/readings").json()["rows"] == []


def test_a_file_goes_out_and_comes_in_again_without_a_change(ines, send):
    out = b"".join(ines.get("/api/readings/export/csv").streaming_content)
    heads = out.decode().splitlines()[0].split(",")
    assert heads == [header_of(name) for name in COLUMNS]
    report = send(out).json()
    assert (report["error_count"], report["imported"]) == (0, 0)
    assert report["known"] == report["lines"] == Reading.objects.filter(voided=False, instrument__isnull=False).count()
    assert set(report["ignored"]) == {header_of(name) for name, (_, taken, _) in COLUMNS.items() if not taken}


@pytest.mark.parametrize("kind", ["csv", "json"])
def test_readings_thrown_away_come_back_from_the_file(ines, send, kind):
    out = b"".join(ines.get(f"/api/readings/export/{kind}?where=flags~is~listed").streaming_content)
    before = {r.entry_id: (r.value, r.freeze_c, r.sd_mass_percent, r.taken_at) for r in Reading.objects.filter(listed=True)}
    Entry.objects.filter(pk__in=before).delete()
    report = send(out, f"readings.{kind}").json()
    assert report["imported"] == len(before)
    for r in Reading.objects.filter(listed=True):
        value, freeze_c, sd, at = before[r.entry_id]
        assert (r.value, r.freeze_c, r.sd_mass_percent) == (value, freeze_c, sd)
        assert abs((r.taken_at - at).total_seconds()) < 1


def test_a_file_with_errors_is_refused_whole_and_repaired_it_is_taken_once(ines, send):
    """The line numbers are those a table program shows; the header is line 1."""
    bad = lines(row(), row(machine="X-99", hours=90), row(value="-30,5", hours=80), row(instrument="Strips", hours=70))
    count = Reading.objects.count()
    answer = send(bad)
    assert answer.json()["imported"] == 0
    assert errors(answer)[:1] == [(3, "machine")]
    assert (5, "instrument") in errors(answer)
    assert Reading.objects.count() == count
    good = lines(row(), row(hours=90), row(value=-30.5, hours=80))
    assert send(good, dry_run="yes").json()["new"] == 3
    assert Reading.objects.count() == count
    assert send(good).json()["imported"] == 3
    assert send(good).json() == send(good, dry_run="yes").json() | {"imported": 0}
    assert Reading.objects.count() == count + 3


@pytest.mark.parametrize(
    ("line", "column"),
    [
        (row(value=""), "value"),
        (row(value="minus thirty"), "value"),
        (row(value=400), "value"),
        (row(place="somewhere"), "place"),
        (row(place=""), "place"),
        (row(hours=-5), "taken_at"),
        ("yesterday,T-21,as_found,Glass 3,-30", "taken_at"),
        (row(instrument="Counter 1", value=-30), "value"),
        (row(instrument="Five balls", value=2.5), "value"),
        (row(instrument="Spindle", value=1.06) + ",x", None),
    ],
    ids=["empty", "words", "off", "place", "no place", "future", "no date", "index", "half a step", "a cell too many"],
)
def test_each_bad_line_says_its_column_and_what_to_do(send, line, column):
    answer = send(lines(line), dry_run="yes").json()
    assert [error["column"] for error in answer["errors"]] == ([column] if column else [])
    assert all(error["message"].endswith(".") for error in answer["errors"])


@pytest.mark.parametrize(
    ("data", "name", "field"),
    [
        (b"when,what\n1,2\n", "a.csv", "taken_at [ISO 8601]"),
        (lines(row(), head=HEAD.replace("value [scale]", "value [K]")), "a.csv", "value"),
        (lines(row() + ",20", head=HEAD + ",sample"), "a.csv", "sample"),
        (lines(row() + ",-30", head=HEAD + ",value [scale]"), "a.csv", "value"),
        (b"\xff\xfe\x00h", "a.csv", "file"),
        (b"[1, 2]", "a.json", "file"),
        (lines(row()), "a.xlsx", "file"),
        (b"", "a.csv", "taken_at [ISO 8601]"),
    ],
    ids=["other columns", "kelvin", "no unit", "twice", "not text", "not readings", "a workbook", "nothing"],
)
def test_a_file_that_cannot_be_read_is_refused_with_the_reason(send, data, name, field):
    answer = send(data, name)
    assert (answer.status_code, answer.json()["field"]) == (400, field)


def test_units_stand_in_the_header_and_are_converted(send):
    """-22 degF are -30 degC, 68 degF are 20 degC: the definition."""
    head = HEAD.replace("value [scale]", "value [degF]") + ",sample [degF]"
    assert send(lines(row(value=-22) + ",68", head=head)).json()["imported"] == 1
    reading = Reading.objects.get(listed=True, value=-30.0)
    assert reading.sample_c == pytest.approx(20.0)


def test_times_without_a_zone_are_by_the_depots_clock_and_other_separators_are_read(send, depot):
    head = HEAD.replace(",", ";")
    assert send(lines("2026-02-03T14:00;T-21;as_found;Glass 3;-31", head=head)).json()["imported"] == 1
    reading = Reading.objects.get(taken_at__year=2026, taken_at__month=2)
    assert reading.taken_at.astimezone(depot.now.tzinfo).hour == 14


def test_the_same_line_twice_in_a_file_is_named(send):
    line = row()
    assert errors(send(lines(line, row(hours=50), line))) == [(4, "id")]


def test_no_cell_of_the_file_is_a_formula(ines, depot):
    """OWASP, CSV injection: a cell that begins with = + - @, tab or return is taken for a formula."""
    Instrument.objects.filter(name="Brix glass").update(name='=HYPERLINK("x")')
    out = b"".join(ines.get("/api/readings/export/csv").streaming_content).decode()
    cells = [cell for cells in csv.reader(io.StringIO(out)) for cell in cells]
    risky = [cell for cell in cells if cell.startswith(("=", "+", "@", "\t", "\r"))]
    assert risky == []
    negative = [cell for cell in cells if cell.startswith("-")]
    assert all(float(cell) < 0 for cell in negative)
    assert '\'=HYPERLINK("x")' in cells


def test_what_was_guarded_comes_in_as_it_was(ines, send):
    Instrument.objects.filter(name="Brix glass").update(name="=glass")
    out = b"".join(ines.get("/api/readings/export/csv").streaming_content)
    assert send(out, dry_run="yes").json()["error_count"] == 0


def test_json_says_what_it_is(ines):
    out = json.loads(b"".join(ines.get("/api/readings/export/json").streaming_content))
    assert out["format"] == "temper readings"
    assert {"value [scale]", "sample [degC]"} <= out["readings"][0].keys()


def test_listed_readings_stand_on_the_trend_and_decide_nothing_on_the_bench(ines, send):
    loop = loop_of("S-12")
    before = ines.get(f"/api/loops/{loop.id}").json()
    events = len(ines.get(f"/api/loops/{loop.id}/history").json()["history"]["events"])
    assert (
        send(lines(row(value=-5, machine="S-12", hours=2), row(value=-5, machine="S-12", hours=1))).json()["imported"] == 2
    )
    after = ines.get(f"/api/loops/{loop.id}").json()
    assert after["state"]["claim"] == before["state"]["claim"]
    assert after["state"]["last_entry_id"] == before["state"]["last_entry_id"]
    assert len(ines.get(f"/api/loops/{loop.id}/history").json()["history"]["events"]) == events + 2


def test_the_watch_names_a_leak_a_contradiction_and_an_instrument_apart(ines):
    watch = ines.get("/api/readings/watch").json()
    flags = {(flag["code"], flag["about"].split(" ")[0]) for flag in watch["flags"]}
    assert ("falling", "P-06") in flags
    assert ("disagrees", "Brix") in flags
    (leak,) = [flag for flag in watch["flags"] if flag["code"] == "falling" and flag["about"].startswith("P-06")]
    slope = ines.get(f"/api/loops/{leak['loop_id']}/history").json()["history"]["slope"]
    assert leak["said"]["values"]["loss_percent"] == pytest.approx(-slope["percent_per_month"])
    (pair,) = [row for row in watch["compared"] if {row["first"], row["second"]} == {"Brix glass", "Glass 3"}]
    assert pair["agreement"]["count"] == len(pair["pairs"]) == 12


def test_a_reading_that_contradicts_is_flagged_in_the_log(ines):
    loop = loop_of("S-12")
    facts = {"value": -15, "place": "as_found", "instrument_id": Instrument.objects.get(name="Glass 3").id}
    entry = {"id": str(uuid.uuid4()), "kind": "read", "facts": facts | {"sample_c": 19}}
    ines.check_safe(loop, between=True)
    assert ines.post(f"/api/loops/{loop.id}/entries", {"entries": [entry], "between": True}).status_code == 201
    first = ines.get("/api/readings?size=1").json()["rows"][0]
    assert first["entry_id"] == entry["id"]
    assert "contradicts" in first["flags"]
    flags = ines.get("/api/readings/watch").json()["flags"]
    assert ("contradicts", loop.id) in {(flag["code"], flag["loop_id"]) for flag in flags}
