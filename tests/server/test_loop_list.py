"""The list of loops and the list of people: what each row says, as many queries for one loop as for many."""

import uuid
from datetime import timedelta

from django.db.models import F

from jobs.loop_list import LINES
from jobs.models import Entry, JobLoop


def line_of(api, fleet_number, position=0):
    """A loop's line by its machine's number."""
    rows = [row for row in api.get("/api/loops").json()["loops"] if row["machine"]["fleet_number"] == fleet_number]
    return rows[position]["line"]


def test_every_loop_has_a_line(ines, depot):
    rows = ines.get("/api/loops").json()["loops"]
    assert len(rows) == sum(machine.loops.count() for machine in depot.machines.all())
    assert [row["machine"]["fleet_number"] for row in rows if row["line"] is None] == []


def test_a_loop_in_work_names_its_stage_and_what_is_inside(ines):
    line = line_of(ines, "G-07")
    assert (line["stage"], line["base"]) == ("mix", "ethylene")
    assert set(line["signs"]) == {"in_work", "not_protected"}
    assert line["claim"]["why"] == "rinse_water"
    assert line["advised"] is None


def test_a_loop_at_rest_protects_as_it_was_signed_off(ines):
    row = next(row for row in ines.get("/api/loops").json()["loops"] if row["machine"]["fleet_number"] == "W-02")
    signed = JobLoop.objects.filter(loop=row["loop_id"]).latest("signed_at").result["state"]["claim"]
    assert row["line"]["claim"]["safe_to_c"] == signed["safe_to_c"]
    assert row["line"]["signs"] == ["due"]  # its first level check


def test_what_was_never_read_says_so_and_glycol_free_is_not_protected(ines):
    assert "not_read" in line_of(ines, "B-14")["signs"]
    assert line_of(ines, "RS-1")["signs"] == ["not_protected"]


def test_a_check_that_nobody_made_is_overdue(ines):
    week = {"happened_at": F("happened_at") - timedelta(days=6)}
    Entry.objects.filter(loop__machine__fleet_number="S-12").update(**week)
    JobLoop.objects.filter(loop__machine__fleet_number="S-12").update(signed_at=F("signed_at") - timedelta(days=6))
    LINES.forget()
    line = line_of(ines, "S-12")
    assert {"overdue", "due"} <= set(line["signs"])
    assert line["asked"]["check"] is True
    assert line["asked"]["overdue"] is True


def test_a_weak_reading_between_services_advises_to_adjust_the_strength(ines, depot):
    loop = depot.machines.get(fleet_number="S-12").loops.get(position=1)
    glass = depot.instruments.get(name="Glass 3")
    ines.check_safe(loop, between=True)
    read = {"value": -20.0, "place": "as_found", "instrument_id": glass.id, "zero": None, "sample_c": 20.0}
    read |= {"after_hot_run": False, "edge": "sharp"}
    entry = {"id": str(uuid.uuid4()), "kind": "read", "facts": read}
    answer = ines.post(f"/api/loops/{loop.id}/entries", {"entries": [entry], "between": True})
    assert answer.status_code == 201, answer.content
    line = line_of(ines, "S-12")
    assert "not_protected" in line["signs"]
    assert line["advised"] == "adjust_strength"


def test_a_line_is_made_again_after_an_entry_and_only_then(ines, railcar, monkeypatch):
    from jobs import loop_list

    made, work_out = [], loop_list._line

    def counted(loop, *rest):
        made.append(loop.id)
        return work_out(loop, *rest)

    monkeypatch.setattr(loop_list, "_line", counted)
    ines.get("/api/loops")
    assert len(made) == len(set(made)) > 10
    made.clear()
    ines.get("/api/loops")
    assert made == []
    ines.open_up(railcar)
    ines.get("/api/loops")
    assert made == [railcar.id]


def test_as_many_queries_for_many_loops_as_for_few(ines, django_assert_max_num_queries):
    with django_assert_max_num_queries(14):
        ines.get("/api/loops")
    with django_assert_max_num_queries(8):  # all from memory
        ines.get("/api/loops")


def test_a_loop_that_cannot_be_calculated_has_no_line_and_hides_no_other(ines, railcar):
    Entry.objects.filter(loop=railcar).update(facts={"nonsense": True})
    rows = ines.get("/api/loops").json()["loops"]
    assert [row["loop_id"] for row in rows if row["line"] is None] == [railcar.id]


def test_a_lead_sees_everybody_of_the_depot(maud):
    people = maud.get("/api/people").json()["people"]
    assert [row["person"]["username"] for row in people] == ["ines", "maud", "tomo"]
    assert all(row["active"] for row in people)
