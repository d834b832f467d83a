"""Files of one's own: columns matched, progress, sent twice, undone and put back."""

import json
import uuid

import pytest
from django.core.cache import cache
from django.core.files.uploadedfile import SimpleUploadedFile

from instruments.exchange import guessed, template_csv
from instruments.models import Reading, ReadingImport
from jobs.chain import ledger_breaks
from jobs.models import Entry

OWN = b"Date;Vehicle no;Freeze \xc2\xb0F;Remark\n2026-11-04T10:00;T-21;-22;ok\n2026-11-05T10:00;G-07;-24;ok\n"
MATCHED = {"Date": "taken_at [ISO 8601]", "Vehicle no": "machine", "Freeze \N{DEGREE SIGN}F": "value [degF]"}


@pytest.fixture
def send(maud):
    """Post a file; the answer."""

    def post(data=OWN, path="/api/readings/import", dry_run="no", **more):
        given = {"file": SimpleUploadedFile("own.csv", data), "dry_run": dry_run} | more
        return maud.client.post(path, given, headers={"X-CSRFToken": maud.token})

    return post


def said(columns=MATCHED, always=None):
    always = {"place": "as_found", "instrument": "Glass 3"} if always is None else always
    return {"columns": json.dumps(columns), "always": json.dumps(always)}


def test_what_columns_seem_to_be_is_offered_with_what_stands_in_them(send):
    answer = send(path="/api/readings/import/columns").json()
    assert [(row["head"], row["first"], row["guess"]) for row in answer["file"]] == [
        ("Date", "2026-11-04T10:00", "taken_at [ISO 8601]"),
        ("Vehicle no", "T-21", "machine"),
        ("Freeze \N{DEGREE SIGN}F", "-22", "value [degF]"),
        ("Remark", "ok", ""),
    ]
    place = next(row for row in answer["taken"] if row["heads"] == ["place"])
    assert place["needed"]
    assert place["choices"] == ["as_found", "rinse", "finished"]


@pytest.mark.parametrize(
    ("heads", "guesses"),
    [
        (["taken_at [ISO 8601]", "value [degC]"], ["taken_at [ISO 8601]", "value [degC]"]),
        (["value [degC]", "Value"], ["value [degC]", ""]),  # nothing is guessed twice
        (["Zeit", "Maschine", "Wert"], ["taken_at [ISO 8601]", "machine", "value [scale]"]),
        (["Sample temp in degF"], ["sample [degF]"]),
        (["", "Remark"], ["", ""]),
    ],
)
def test_guesses(heads, guesses):
    assert guessed(heads) == guesses


def test_a_file_of_ones_own_is_taken_with_what_somebody_says_of_it(send):
    assert send(**said()).json()["imported"] == 2
    row = Reading.objects.filter(listed=True, source__isnull=False, source__file_name="own.csv").order_by("taken_at")[0]
    assert row.value == pytest.approx(-30)  # -22 degF
    assert (row.loop.machine.fleet_number, row.place, row.instrument.name) == ("T-21", "as_found", "Glass 3")
    assert ledger_breaks() == []


@pytest.mark.parametrize(
    ("more", "word"),
    [
        (said(always={}), "place"),
        (said(always={"place": "as_found", "instrument": "Glass 3", "machine": "T-21"}), "cannot be the same"),
        (said(columns={**MATCHED, "Remark": "machine"}), "there twice"),
        ({"columns": "[1]"}, "JSON object"),
        ({"columns": '{"Date": 3}'}, "JSON object"),
        ({"columns": "no json"}, "JSON object"),
        ({"id": "no-uuid"}, "UUID"),
    ],
)
def test_what_cannot_be_said_of_a_file_is_refused_in_words(send, more, word):
    answer = send(**more)
    assert answer.status_code == 400
    assert word in answer.json()["message"]
    assert not ReadingImport.objects.filter(file_name="own.csv").exists()


@pytest.mark.parametrize(
    "data",
    [
        b"[]",
        b"3",
        b'{"readings": null}',
        b'{"readings": [1, 2]}',
        b'{"readings": {"a": 1}}',
        b'{"readings":' + b"[" * 100_000 + b"]" * 100_000 + b"}",
    ],
)
@pytest.mark.parametrize("path", ["/api/readings/import", "/api/readings/import/columns"])
def test_what_is_no_json_of_readings_is_told_in_a_sentence(maud, path, data):
    given = {"file": SimpleUploadedFile("own.json", data), "dry_run": "no"}
    answer = maud.client.post(path, given, headers={"X-CSRFToken": maud.token})
    assert (answer.status_code, answer.json()["code"]) == (400, "not_json")


@pytest.mark.parametrize("when", ["0001-01-01T00:00", "1900-01-01", "1969-12-31T23:59+00:00"])
def test_a_year_nobody_read_in_is_refused_by_its_line(send, when):
    answer = send(OWN.replace(b"2026-11-04T10:00", when.encode()), **said()).json()
    assert [(row["line"], row["column"]) for row in answer["errors"]] == [(2, "taken_at")]
    assert "is before 1970" in answer["errors"][0]["message"]


def test_sent_twice_under_one_id_it_is_imported_once_and_answers_alike(send):
    key = str(uuid.uuid4())
    first, second = send(id=key, **said()), send(id=key, **said())
    assert first.json() == second.json()
    assert ReadingImport.objects.get(pk=key).imported == 2
    assert send(**said()).json() == first.json() | {"new": 0, "known": 2, "imported": 0}


def test_somebody_elses_import_id_is_refused(send, elsewhere, maud):
    from people.models import Person

    ines = Person.objects.get(username="ines")
    row = ReadingImport.objects.filter(depot=ines.depot).first()
    ReadingImport.objects.filter(pk=row.pk).update(person=ines)
    answer = send(id=str(row.pk), **said())
    assert (answer.status_code, answer.json()["code"]) == (409, "id_taken")


def test_a_whole_import_is_undone_and_put_back(send, maud):
    key = str(uuid.uuid4())
    send(id=key, **said())
    before = maud.get("/api/readings?size=100").json()
    many = Entry.objects.count()
    rows = maud.send("put", f"/api/readings/imports/{key}", {"undone": True}).json()["imports"]
    assert rows[0]["undone_by"] == "Maud Stellan"
    after = maud.get("/api/readings?size=100").json()
    assert len(before["rows"]) - len(after["rows"]) == 2
    assert Entry.objects.count() == many  # they stay in the record
    assert send(**said()).json()["undone"] == 2
    maud.send("put", f"/api/readings/imports/{key}", {"undone": False})
    assert maud.get("/api/readings?size=100").json()["rows"] == before["rows"]


def test_one_that_was_cut_off_counts_nowhere_and_goes_on_when_sent_again(send, maud, monkeypatch):
    from instruments import importing

    monkeypatch.setattr(importing, "CHUNK", 1)
    real, done = importing.Importer.store, []

    def dies(self, lines, source):
        if done:
            raise RuntimeError("the power went")
        done.append(real(self, lines, source))

    key = str(uuid.uuid4())
    monkeypatch.setattr(importing.Importer, "store", dies)
    with pytest.raises(RuntimeError):
        send(id=key, **said())
    monkeypatch.setattr(importing.Importer, "store", real)
    before = maud.get("/api/readings?size=100").json()["rows"]
    assert not [row for row in before if row["taken_at"].startswith("2026-11-04T10:00")]
    answer = maud.send("put", f"/api/readings/imports/{key}", {"undone": False})
    assert (answer.status_code, answer.json()["code"]) == (409, "unfinished")
    assert send(id=key, **said()).json()["imported"] == 2
    assert len(maud.get("/api/readings?size=100").json()["rows"]) == len(before) + 2
    assert ledger_breaks() == []


def test_how_far_it_is_can_be_asked(send, maud):
    cache.clear()
    key = str(uuid.uuid4())
    assert maud.get(f"/api/readings/imports/{key}/progress").json() == {"done": None}
    send(id=key, dry_run="yes", **said())
    done = maud.get(f"/api/readings/imports/{key}/progress").json()["done"]
    assert 0.6 < done <= 1  # the header counts as a line
    cache.clear()


def test_the_template_is_a_file_that_is_understood(send, ines):
    answer = ines.get("/api/readings/template.csv")
    assert answer.content.decode() == template_csv()
    filled = template_csv().encode() + b"2026-11-04T10:00,T-21,1,as_found,no,Glass 3,-30,,,sharp,tomo\r\n"
    assert send(filled).json()["imported"] == 1
