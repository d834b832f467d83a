"""One error family: which value, what is allowed, what to do.

Every refusal carries the dotted path of the value that cannot be (`field`), a machine code and one sentence,
so the API, the form and the log read fields and nobody parses a sentence.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager

from temper_core.basis.message import Message

# how a figure's unit is given in the name of a message's placeholder; other units are the same in every system on show
_SUFFIX = {"L": "_l", "°C": "_c", "K": "_k", "kPa": "_kpa"}


class CoreError(ValueError):
    """A question that cannot be answered as it was put.

    message: a sentence, or a message where figures with units stand in it; `said` is that message, for showing the
    refusal in other units, and its code is the error's.
    """

    code = "refused"

    def __init__(self, field: str, message: str | Message, code: str | None = None) -> None:
        self.said = message if isinstance(message, Message) else None
        self.message = message.sentence if isinstance(message, Message) else message
        super().__init__(self.message)
        self.field = field
        if self.said is not None:
            self.code = self.said.code
        if code is not None:
            self.code = code

    def __reduce__(self) -> tuple[type[CoreError], tuple[str, str | Message, str]]:
        return (CoreError, (self.field, self.said or self.message, self.code))


class OutOfRange(CoreError):
    """A number outside what is allowed."""

    code = "out_of_range"

    def __init__(self, field: str, value: float, low: float, high: float, unit: str, todo: str) -> None:
        self.value, self.low, self.high, self.unit = value, low, high, unit
        shown_unit = "°C" if unit == "K" else unit  # a difference of temperature, as people say it
        shown = f"{value:g} {shown_unit}" if math.isfinite(value) else str(value)
        message = f"{shown} is not possible: {low:g} to {high:g} {shown_unit} is allowed. {todo}"
        suffix = _SUFFIX.get(unit)
        if suffix is None or not math.isfinite(value):
            super().__init__(field, message)
            return
        template = f"{{value{suffix}}} is not possible: {{low{suffix}}} to {{high{suffix}}} is allowed. {todo}"
        values = {f"value{suffix}": float(value), f"low{suffix}": float(low), f"high{suffix}": float(high)}
        super().__init__(field, Message(self.code, message, template, values))


class Conflict(CoreError):
    """The record has moved on, or is closed. Reload, then choose."""

    code = "conflict"


def check_between(field: str, value: float, low: float, high: float, unit: str, todo: str = "Check the figure.") -> None:
    """Refuse a value outside low..high, bounds included; NaN fails the comparison and is refused too."""
    if not low <= value <= high:
        raise OutOfRange(field, value, low, high, unit, todo)


@contextmanager
def under(prefix: str) -> Iterator[None]:
    """Name refusals raised inside by their place in the larger question: `volume_l` becomes `inside.volume_l`."""
    try:
        yield
    except CoreError as error:
        error.field = f"{prefix}.{error.field}" if error.field else prefix
        raise


@contextmanager
def called(name: str) -> Iterator[None]:
    """Name refusals raised inside by the question's own word for the value."""
    try:
        yield
    except CoreError as error:
        error.field = name
        raise
