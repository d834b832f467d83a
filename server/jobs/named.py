"""People in what is stored at a sign-off: by their number, their name is joined when it is read."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from temper_core.basis.message import say

_MARK = re.compile(r"\x1fperson:(\d+)\x1f")
_MESSAGE = frozenset({"code", "sentence", "template", "values"})


def without_names(data: Any, numbers: Mapping[str, int]) -> Any:
    """Data as JSON has it, with a mark in place of each name that stands alone; sentences are made of the marks.

    numbers: name -> number of the person.
    """
    if isinstance(data, str):
        return f"\x1fperson:{numbers[data]}\x1f" if data in numbers else data
    if isinstance(data, list):
        return [without_names(row, numbers) for row in data]
    if not isinstance(data, Mapping):
        return data
    made = {key: without_names(value, numbers) for key, value in data.items()}
    if made.keys() >= _MESSAGE and made["values"] != data["values"]:
        made["sentence"] = say(made["code"], made["template"], **made["values"]).sentence
    return made


def numbers_in(data: Any) -> set[int]:
    """Numbers of the people whose mark stands somewhere in the data."""
    return {int(number) for text in _texts(data) for number in _MARK.findall(text)}


def with_names(data: Any, name_of: Callable[[int], str]) -> Any:
    """The data with names in place of the marks."""
    if isinstance(data, str):
        return _MARK.sub(lambda found: name_of(int(found[1])), data) if "\x1f" in data else data
    if isinstance(data, list):
        return [with_names(row, name_of) for row in data]
    if isinstance(data, Mapping):
        return {key: with_names(value, name_of) for key, value in data.items()}
    return data


def _texts(data: Any) -> Iterable[str]:
    if isinstance(data, str):
        yield data
    elif isinstance(data, Mapping):
        for value in data.values():
            yield from _texts(value)
    elif isinstance(data, list):
        for row in data:
            yield from _texts(row)
