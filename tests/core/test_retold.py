"""What was signed keeps its codes and figures, and is told in the words of today."""

import json
from dataclasses import asdict

from temper_core.basis.message import say
from temper_core.views.retold import messages_in, retold
from tests.core.test_ledger import HOT, filled
from tests.core.test_ledger import read as a_reading

OLD = {
    "code": "proven",
    "sentence": "Reads −44.6 °C, 0.4 K off.",
    "template": "x",
    "values": {"freeze_c": -44.6, "off_k": 0.4},
}
TODAY = {"proven": say("proven", "Read {freeze_c}, {off_k} off.", freeze_c=0, off_k=0)}


def test_a_sentence_is_made_again_from_its_figures():
    told = retold({"proof": {"said": OLD, "verdict": "proven"}, "rows": [OLD, 3]}, TODAY)
    assert told["proof"]["said"]["sentence"] == "Read −44.6 °C, 0.4 °C off."
    assert told["proof"]["said"]["values"] == OLD["values"]
    assert told["proof"]["verdict"] == "proven"
    assert told["rows"] == [told["proof"]["said"], 3]


def test_what_today_does_not_say_keeps_its_words():
    assert retold([OLD], {}) == [OLD]
    assert retold([OLD], {"proven": say("proven", "Target {target_c}.", target_c=0)}) == [OLD]  # that figure was not kept


def test_every_message_of_a_state_is_found():
    book = filled()
    book.add(HOT, a_reading(-46.6))
    state = book.state
    codes = {message.code for message in messages_in(state)}
    assert {state.claim.said.code, state.standing.code, state.next_action.act.code} <= codes
    assert all(code in json.dumps(asdict(state), default=str) for code in codes)


def test_told_again_in_the_same_words_it_is_the_same():
    said = say("x", "At {at_c}.", at_c=-3.0)
    stored = json.loads(json.dumps(asdict(said)))
    assert retold(stored, {"x": said}) == stored
