"""Two stories of one loop: what the depot says of what waits on a tablet, and what comes of an edit before it is sent."""

import json
import uuid

import pytest

from jobs.models import Entry
from tests.server.test_kit import Tablet, loop_of


@pytest.fixture
def apart(ines, tomo, depot):
    """Ines paused D-17 without a network while Tomo paused it at the depot: loop, tablet, the entry that waits, seen."""
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    kit = json.loads(tablet.text)
    seen = max(row["seq"] for one in kit["loops"] if one["id"] == loop.id for row in one["rows"])
    assert tablet.record(loop, "paused", {"note": "mine"})[0] == 201
    theirs = {"id": str(uuid.uuid4()), "kind": "paused", "facts": {"note": "theirs"}}
    assert tomo.post(f"/api/loops/{loop.id}/entries", {"entries": [theirs], "seen": None}).status_code == 201
    return loop, tablet, tablet.waits[0]["body"] | {"apart": True}, seen


def meet(api, loop, **given):
    """The depot's answer: status and body."""
    answer = api.post(f"/api/kit/loops/{loop.id}", given)
    return answer.status_code, answer.json()


def test_what_this_tablet_sent_is_nobody_elses_story(ines, depot):
    """The line dropped halfway: the half that was sent does not stand against the other half."""
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    kit = json.loads(tablet.text)
    seen = max(row["seq"] for one in kit["loops"] if one["id"] == loop.id for row in one["rows"])
    for kind in ("paused", "resumed", "paused"):
        assert tablet.record(loop, kind, {})[0] == 201
    first, *rest = tablet.waits
    tablet.send(ines, [first])
    waits = [{"n": n, "body": row["body"] | {"seen": None, "apart": True}} for n, row in enumerate(rest)]
    ours = [first["body"]["entries"][0]["id"]]
    said = meet(ines, loop, seen=seen, waits=waits, ours=ours)[1]
    assert [one["met"]["asks"] for one in said["mine"]] == [False, False]
    assert said["theirs"] == []
    said = meet(ines, loop, seen=seen, waits=waits)[1]  # without saying so it would stand against it
    assert [one["met"]["asks"] for one in said["mine"]] == [False, True]  # a second pause, a pause in between


def test_an_entry_that_asks_is_edited_before_it_is_sent(ines, apart):
    loop, _, body, seen = apart
    waits = [{"n": 7, "body": body}]
    (mine,) = meet(ines, loop, seen=seen, waits=waits)[1]["mine"]
    assert mine["met"]["asks"]
    assert {row["path"]: row["value"] for row in mine["form"] if row["path"] == "note"} == {"note": "mine"}
    edit = {"entry_id": body["entries"][0]["id"], "changes": [{"path": "note", "value": "until the fuse is here"}]}
    status, said = meet(ines, loop, seen=seen, waits=waits, edit=edit)
    assert status == 200
    (edited,) = said["edited"]["entries"]
    assert (edited["id"], edited["facts"]["note"]) == (body["entries"][0]["id"], "until the fuse is here")
    assert said["mine"][0]["said"]["sentence"] == "Paused: until the fuse is here"
    assert Entry.objects.filter(loop=loop, kind="paused", person__username="ines").count() == 0  # nothing is stored
    answer = ines.post(f"/api/loops/{loop.id}/entries", said["edited"] | {"apart": True, "seen": None})
    assert answer.status_code == 201
    assert Entry.objects.get(pk=edited["id"]).facts["note"] == "until the fuse is here"


def test_litres_of_a_mixture_are_edited_as_litres_of_each(ines, depot):
    loop = loop_of("T-22")
    pour = {"id": str(uuid.uuid4()), "kind": "poured", "facts": {"product_id": None, "mixture_l": 4.0, "product_share": 0.0}}
    pour["facts"]["water"] = "demineralised"
    waits = [{"n": 1, "body": {"entries": [pour], "seen": None}}]
    edit = {"entry_id": pour["id"], "changes": [{"path": "water_l", "value": 3.5}]}
    status, said = meet(ines, loop, seen=10_000, waits=waits, edit=edit)
    assert status == 200, said
    facts = said["edited"]["entries"][0]["facts"]
    assert (facts["product_l"], facts["water_l"], facts["mixture_l"]) == (0.0, 3.5, None)


@pytest.mark.parametrize(
    ("change", "code", "names"),
    [
        ({"path": "cheese", "value": 1}, "not_on_the_form", "cannot be edited"),
        ({"path": "parked", "value": "on the moon"}, "invalid", "parked"),
        (None, "nothing_changed", "Nothing is changed"),
    ],
)
def test_an_edit_that_cannot_be_is_refused_in_words(ines, apart, change, code, names):
    loop, _, body, seen = apart
    edit = {"entry_id": body["entries"][0]["id"], "changes": [change] if change else []}
    status, said = meet(ines, loop, seen=seen, waits=[{"n": 7, "body": body}], edit=edit)
    assert status == 400
    assert names in json.dumps(said)
    assert said["code"] == code or code == "invalid"


def test_an_edit_of_what_does_not_wait_and_more_than_a_meeting_holds_are_refused(ines, apart):
    loop, _, body, seen = apart
    edit = {"entry_id": str(uuid.uuid4()), "changes": [{"path": "note", "value": "x"}]}
    assert meet(ines, loop, seen=seen, waits=[{"n": 7, "body": body}], edit=edit)[0] == 404
    one = body["entries"][0]
    many = [{"n": n, "body": body | {"entries": [one | {"id": str(uuid.uuid4())} for _ in range(8)]}} for n in range(51)]
    status, said = meet(ines, loop, seen=seen, waits=many)
    assert (status, said["code"]) == (400, "many")


def test_a_page_that_knows_more_than_the_kit_is_told_so(ines, depot):
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    status, said = tablet.record(loop, "paused", {}, seen=str(uuid.uuid4()))
    assert (status, said["code"]) == (409, "kit_older")


def test_what_waits_stands_again_after_an_entry_before_it_was_set_aside(ines, depot):
    """Its request says what its page had seen last, under an id that is gone."""
    loop = loop_of("D-17")
    tablet = Tablet(ines, depot)
    assert tablet.record(loop, "paused", {})[0] == 201
    seen = tablet.waits[0]["body"]["entries"][0]["id"]
    assert tablet.record(loop, "temperature_logged", {"c": 31.0}, seen=seen)[0] == 201
    first, second = tablet.waits
    aside = first["body"]["entries"][0]
    aside = {
        "id": str(uuid.uuid4()),
        "kind": "set_aside",
        "happened_at": aside["happened_at"],
        "facts": {"was": "paused", "said": "Paused", "figures": "{}", "at": aside["happened_at"]},
    }
    rows = [first | {"body": first["body"] | {"entries": [aside]}}, second]
    again = Tablet(ines, depot)
    refused = json.loads(again.bay.again(json.dumps(rows), depot.now.isoformat()))
    assert refused == []
