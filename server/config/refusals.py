"""Refusals of the core and of the shapes as the API says them; no Django in here, see config.shapes."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, NamedTuple

from pydantic import BaseModel
from pydantic import ValidationError as SchemaError

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.message import Message
from temper_core.job.kinds import REGISTRY


class Problem(BaseModel):
    """A refusal: which value (dotted path, empty when it is no single one), a code, and what to do.

    said: the message with its figures as data, where it has any with units, for showing it in other units.
    """

    field: str
    code: str
    message: str
    said: Message | None = None


class NotAllowed(Exception):
    """Not this person's to do."""


class NotFound(Exception):
    """No such row in this depot."""


NOT_FOUND = "Not found in your depot. Check the address."


class Refused(NamedTuple):
    """The status and the body of a refusal."""

    status: int
    body: dict[str, Any]


def refused_as(status: int, code: str, message: str, field: str = "", said: Message | None = None) -> Refused:
    """A refusal in its one shape."""
    body: dict[str, Any] = {"field": field, "code": code, "message": message}
    if said is not None:
        body["said"] = asdict(said) | {"values": dict(said.values)}
    return Refused(status, body)


def refusal_of(error: Exception) -> Refused | None:
    """What the API answers to an error of the core or of a shape; None for any other."""
    if isinstance(error, Conflict):
        return refused_as(409, error.code, error.message, error.field, error.said)
    if isinstance(error, CoreError):
        return refused_as(400, error.code, error.message, error.field, error.said)
    if isinstance(error, SchemaError):
        return schema_refused(error)
    if isinstance(error, NotFound):
        return refused_as(404, "not_found", NOT_FOUND)
    if isinstance(error, NotAllowed):
        return refused_as(403, "not_allowed", str(error))
    return None


_SAID = {
    "missing": "is missing: it is needed here.",
    "extra_forbidden": "is not known here: check its name.",
    "float_type": "must be a number, not text.",
    "float_parsing": "must be a number, not text.",
    "finite_number": "must be a finite number.",
    "int_type": "must be a whole number.",
    "bool_type": "must be true or false.",
    "string_type": "must be text.",
    "uuid_parsing": "must be a UUID.",
}


def schema_refused(error: SchemaError) -> Refused:
    """A body that has not the shape asked for: its first bad field."""
    first = error.errors(include_url=False, include_input=False)[0]
    loc = first["loc"]
    path = [str(part) for before, part in zip((None, *loc), loc, strict=False) if not _is_branch(part, before)]
    field = ".".join(path)
    name = path[-1] if path else "The request"
    refused = first.get("ctx", {}).get("error")
    if isinstance(refused, CoreError):  # raised by a unit or by a record of the core: its own field is below ours
        below = [refused.field] if refused.field and refused.field != name else []
        return refused_as(400, refused.code, refused.message, ".".join([*path, *below]), refused.said)
    said = _SAID.get(first["type"], f"is not possible: {first['msg']}.")
    return refused_as(400, first["type"], f"{name} {said}", field)


def _is_branch(part: int | str, before: int | str | None) -> bool:
    """Pydantic names the branch of a union it tried; that is no field of ours. An entry's kind follows its number."""
    if not isinstance(part, str):
        return False
    if isinstance(before, int) and part in REGISTRY:
        return True
    return part.startswith(("function-", "is-instance", "constrained-")) or part in ("float", "Quantity")
