"""The check of words: it finds what docs/words.md replaced, and leaves alone what only looks like it."""

import pytest

from tools.words import phrases_in, replaced


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("Put it aside", ["put it aside"]),
        ("Safe to −41 °C", ["safe to"]),
        ("Check it is safe to open", []),
        ("It is safe to be opened", []),
        ("The LEDGER of a loop", ["ledger"]),
        ("ledgers", []),  # another word: the table names it if it is meant
        ("{policy} of the maker", []),  # a placeholder is no word
        ("Nobody knows what is inside", ["nobody knows"]),
        ("Enter current coolant", []),
    ],
)
def test_a_replaced_phrase_is_found(text, found):
    assert phrases_in(text) == found


def test_both_tables_are_read():
    phrases = replaced()
    assert {"change-out", "the runner", "tastes sweet", "reckon"} <= set(phrases)
    assert "not" not in phrases
    assert len(phrases) > 80
