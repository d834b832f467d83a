"""What is stored at a sign-off names nobody: people are numbers in it, and are called as they are called now when read."""

import json

import pytest

from jobs.models import JobLoop
from jobs.named import numbers_in, with_names, without_names
from people.models import Person
from temper_core.basis.message import say

SAID = say("paused", "Paused by {who}, {left_l} left", who="Ines Halvard", left_l=2.0)
MESSAGE = {"code": SAID.code, "sentence": SAID.sentence, "template": SAID.template, "values": dict(SAID.values)}


def test_names_become_marks_and_names_again():
    data = {"by": "Ines Halvard", "note": "as Ines Halvard said", "rows": [{"who": "Tomo Reik"}, MESSAGE, 3, None]}
    kept = without_names(data, {"Ines Halvard": 1, "Tomo Reik": 2})
    assert "Ines" not in json.dumps([kept["by"], kept["rows"]])
    assert kept["note"] == data["note"]  # what somebody wrote is theirs
    assert numbers_in(kept) == {1, 2}
    assert with_names(kept, {1: "Ines Halvard", 2: "Tomo Reik"}.get) == data
    renamed = with_names(kept, {1: "Ines Brae", 2: "Tomo Reik"}.get)
    assert renamed["rows"][1]["sentence"] == "Paused by Ines Brae, 2.0 L left"


def test_nothing_is_touched_where_nobody_is_named():
    assert without_names(MESSAGE, {"Tomo Reik": 2}) == MESSAGE
    assert numbers_in(MESSAGE) == set()


@pytest.mark.django_db
def test_signed_jobs_of_the_demo_name_nobody_and_are_read_with_names(ines, depot):
    names = {person.name for person in Person.objects.filter(depot=depot)}
    parts = JobLoop.objects.exclude(result=None)
    for part in parts:
        stored = json.dumps([part.result["state"], part.handed_on], ensure_ascii=False)
        assert [name for name in names if name in stored] == []
    named = [part for part in parts if numbers_in(part.result)]
    assert named
    shown = json.dumps(named[0].named, ensure_ascii=False)
    assert any(name in shown for name in names)
    Person.objects.filter(username="ines").update(last_name="Brae")
    loop = named[0].loop_id
    assert "Ines Halvard" not in ines.get(f"/api/loops/{loop}/ledger").content.decode()
