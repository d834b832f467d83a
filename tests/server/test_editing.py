"""Entries are edited through the API: shown first, kept with the old ones struck, and taken back again."""

import uuid

import pytest

from instruments.models import Reading
from jobs.models import Entry


def drained(api, loop):
    """The railcar with its first drain, guessed far off; gives the entry."""
    assert api.record(loop, "drained", {"drained_l": 31.5, "measured": "weighed"}).status_code == 201
    return Entry.objects.get(loop=loop, kind="drained")


def edit(api, entry, path, value, *, act="put", **more):
    """Change one field of an entry."""
    body = {"id": str(uuid.uuid4()), "changes": [{"path": path, "value": value}]} | more
    address = f"/api/loops/{entry.loop_id}/entries/{entry.id}"
    return api.send("post", f"{address}/preview", body) if act == "preview" else api.send("put", address, body)


def state_of(api, loop):
    """The loop's state now."""
    return api.get(f"/api/loops/{loop.id}").json()["state"]


def test_the_form_has_the_figures_as_they_are(ines, railcar):
    entry = drained(ines, railcar)
    form = ines.get(f"/api/loops/{railcar.id}/entries/{entry.id}").json()
    fields = {field["path"]: field for field in form["fields"]}
    assert (fields["drained_l"]["value"], fields["drained_l"]["kind"]) == (31.5, "volume")
    assert form["said"]["values"]


def test_a_preview_shows_what_follows_and_stores_nothing(ines, railcar):
    entry, before = drained(ines, railcar), Entry.objects.count()
    shown = edit(ines, entry, "drained_l", 41.5, act="preview").json()
    inside = next(row for row in shown["follows"] if row["name"] == "Still inside")
    assert inside["before"]["values"]["inside_l"] == pytest.approx(26.5)
    assert inside["after"]["values"]["inside_l"] == pytest.approx(16.5)
    assert "41.5" in shown["said"]["sentence"]
    assert Entry.objects.count() == before


def test_an_edit_is_kept_and_the_old_entry_stays_struck(ines, railcar):
    entry = drained(ines, railcar)
    kept = edit(ines, entry, "drained_l", 41.5)
    assert kept.status_code == 200, kept.content
    assert state_of(ines, railcar)["inside"]["litres"] == pytest.approx(16.5)
    lines = ines.get(f"/api/loops/{railcar.id}/ledger").json()["entries"]
    old = next(row for row in lines if row["id"] == str(entry.id))
    new = next(row for row in lines if row["edits"] == str(entry.id) and row["kind"] == "drained")
    assert (old["voided"], new["voided"]) == (True, False)
    assert (old["editable"], new["editable"]) == (False, True)
    assert "31.5" in old["said"]["sentence"]
    assert "41.5" in new["said"]["sentence"]
    shelf = ines.get(f"/api/loops/{railcar.id}").json()["recent"][0]
    assert "41.5" in shelf["said"]["sentence"]


def test_an_edit_is_taken_back_and_the_first_figures_count_again(ines, railcar):
    entry = drained(ines, railcar)
    mark = edit(ines, entry, "drained_l", 41.5).json()["undo"]
    assert edit(ines, entry, "drained_l", 42.5).status_code == 200
    assert state_of(ines, railcar)["inside"]["litres"] == pytest.approx(15.5)
    newest = Entry.objects.filter(loop=railcar, kind="edited").latest("seq")
    assert ines.record(railcar, "voided", {"entry_id": str(newest.id), "reason": ""}).status_code == 201
    assert state_of(ines, railcar)["inside"]["litres"] == pytest.approx(16.5)
    assert ines.record(railcar, "voided", {"entry_id": mark, "reason": ""}).status_code == 201
    assert state_of(ines, railcar)["inside"]["litres"] == pytest.approx(26.5)


def test_sent_twice_it_is_kept_once_and_another_under_its_id_is_refused(ines, railcar):
    entry, id_ = drained(ines, railcar), str(uuid.uuid4())
    first = edit(ines, entry, "drained_l", 41.5, id=id_)
    count = Entry.objects.count()
    assert edit(ines, entry, "drained_l", 41.5, id=id_).json() == first.json()
    assert Entry.objects.count() == count
    assert edit(ines, entry, "drained_l", 40.5, id=id_).status_code == 409


def test_figures_that_cannot_be_are_refused_by_name(ines, railcar):
    entry = drained(ines, railcar)
    for path, value, code in (
        ("drained_l", 181.0, 400),
        ("drained_l", -3.0, 400),
        ("drained_l", "many", 400),
        ("drained_l", "41.5", 400),
        ("drained_l", True, 400),
        ("drained_l", None, 400),
        ("measured", "by eye", 400),
        ("entry_id", "x", 400),
        ("caught.0.gross_kg", 3.0, 400),
    ):
        answer = edit(ines, entry, path, value)
        assert answer.status_code == code, (path, value, answer.content)
        assert answer.json()["message"]
        assert "Value error" not in answer.json()["message"]
    assert edit(ines, entry, "drained_l", 31.5).json()["code"] == "nothing_changed"
    assert Entry.objects.filter(loop=railcar, kind="edited").count() == 0


def test_what_can_no_longer_follow_is_asked_about(ines, railcar):
    entry = drained(ines, railcar)
    assert ines.record(railcar, "round_filled", {"method": "fill_run_drain"}).status_code == 201
    address = f"/api/loops/{railcar.id}/entries/{entry.id}"
    body = {"id": str(uuid.uuid4()), "undo": True}
    shown = ines.send("post", f"{address}/preview", body).json()
    (row,) = shown["cannot_follow"]
    asked = ines.send("put", address, body)
    assert (asked.status_code, asked.json()["code"]) == (409, "cannot_follow")
    assert ines.send("put", address, body | {"undone": [row["entry_id"]]}).status_code == 200
    assert state_of(ines, railcar)["stage"] in ("open", "drain")
    assert state_of(ines, railcar)["drained_l"] is None


def test_a_technician_edits_their_own_and_a_lead_anybodys(ines, tomo, maud, railcar):
    entry = drained(ines, railcar)
    refused = edit(tomo, entry, "drained_l", 41.5)
    assert (refused.status_code, refused.json()["code"]) == (409, "not_yours")
    assert edit(maud, entry, "drained_l", 41.5).status_code == 200


def test_an_edit_must_have_seen_what_others_recorded(ines, tomo, railcar):
    entry = drained(ines, railcar)
    seen = str(entry.id)
    assert tomo.record(railcar, "round_filled", {"method": "fill_run_drain"}).status_code == 201
    assert edit(ines, entry, "drained_l", 41.5, seen=seen).json()["code"] == "ledger_moved"


def test_an_edited_reading_is_the_reading_in_the_table(ines, depot):
    loop = depot.machines.get(fleet_number="S-12").loops.get(position=1)
    ines.check_safe(loop, between=True)
    glass = depot.instruments.get(name="Glass 3")
    facts = {"value": -20.0, "place": "as_found", "instrument_id": glass.id, "sample_c": 20.0}
    entry = {"id": str(uuid.uuid4()), "kind": "read", "facts": facts}
    assert ines.post(f"/api/loops/{loop.id}/entries", {"entries": [entry], "between": True}).status_code == 201
    stored = Entry.objects.get(pk=entry["id"])
    undo = edit(ines, stored, "value", -36.0).json()["undo"]
    row = Reading.objects.get(entry=stored)
    assert (row.value, row.voided) == (-36.0, False)
    assert row.freeze_c < -30
    back = {"id": str(uuid.uuid4()), "kind": "voided", "facts": {"entry_id": undo, "reason": ""}}
    assert ines.post(f"/api/loops/{loop.id}/entries", {"entries": [back], "between": True}).status_code == 201
    assert Reading.objects.get(entry=stored).value == -20.0


def test_nothing_else_is_undone_on_the_side(ines, tomo, maud, railcar, depot):
    """Entries of a signed job, earlier ones, and those of other people do not go with an edit."""
    entry = drained(ines, railcar)
    signed = Entry.objects.filter(loop__machine__fleet_number="S-12", kind="drained").first()
    earlier = Entry.objects.filter(loop=railcar, seq__lt=entry.seq, kind="gate_observed").first()
    assert tomo.record(railcar, "round_filled", {"method": "fill_run_drain"}).status_code == 201
    others = Entry.objects.filter(loop=railcar, kind="round_filled").get()
    for gone in (signed, earlier, others):
        answer = edit(ines, entry, "drained_l", 41.5, undone=[str(gone.id)])
        assert answer.status_code == 409, answer.content
    assert Entry.objects.filter(kind="voided", facts__entry_id__in=[str(signed.id), str(others.id)]).count() == 0
    assert edit(maud, entry, "drained_l", 41.5).status_code == 200
