"""What was said of a job when it was signed, in today's words: its codes and figures stay, the sentences are made again."""

from __future__ import annotations

import string
from collections.abc import Iterator, Mapping
from dataclasses import fields, is_dataclass
from typing import Any

from temper_core.basis.message import Message, say

_PARTS = frozenset({"code", "sentence", "template", "values"})


def messages_in(view: object) -> Iterator[Message]:
    """Every message in a view or a state, wherever it stands."""
    if isinstance(view, Message):
        yield view
    elif is_dataclass(view):
        for row in fields(view):
            yield from messages_in(getattr(view, row.name))
    elif isinstance(view, Mapping):
        for value in view.values():
            yield from messages_in(value)
    elif isinstance(view, list | tuple):
        for value in view:
            yield from messages_in(value)


def retold(stored: Any, today: Mapping[str, Message]) -> Any:
    """Stored data (of JSON) with the sentence of every message made again from today's template of its code.

    today: messages by code. One whose code is not among them, or whose figures do not fill its template, keeps its words.
    """
    if isinstance(stored, list):
        return [retold(row, today) for row in stored]
    if not isinstance(stored, dict):
        return stored
    if set(stored) == _PARTS:
        said, values = today.get(stored["code"]), stored["values"]
        if said is None or not {name for _, name, _, _ in string.Formatter().parse(said.template) if name} <= set(values):
            return stored
        return stored | {"template": said.template, "sentence": say(said.code, said.template, **values).sentence}
    return {key: retold(value, today) for key, value in stored.items()}
