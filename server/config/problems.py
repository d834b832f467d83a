"""One map from exceptions to answers: {"field", "code", "message", "said"}, whatever went wrong."""

from __future__ import annotations

import sys
from dataclasses import asdict
from typing import Any

from django.core.exceptions import PermissionDenied as DjangoPermissionDenied
from django.http import Http404, HttpRequest, JsonResponse
from pydantic import BaseModel
from pydantic import ValidationError as SchemaError
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import set_rollback

from config.storage import storage_problem
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


REFUSALS = dict.fromkeys((400, 401, 403, 404, 409), Problem)  # what most addresses may answer


def problem(status: int, code: str, message: str, field: str = "", said: Message | None = None) -> Response:
    """Answer a refusal."""
    body: dict[str, Any] = {"field": field, "code": code, "message": message}
    if said is not None:
        body["said"] = asdict(said) | {"values": dict(said.values)}
    return Response(body, status=status)


_BY_EXCEPTION: tuple[tuple[type[Exception], int, str, str], ...] = (
    (exceptions.NotAuthenticated, 401, "signed_out", "You are signed out. Sign in: nothing you typed is lost."),
    (exceptions.AuthenticationFailed, 401, "signed_out", "You are signed out. Sign in: nothing you typed is lost."),
    (exceptions.NotFound, 404, "not_found", "Not found in your depot. Check the address."),
    (Http404, 404, "not_found", "Not found in your depot. Check the address."),
    (exceptions.MethodNotAllowed, 405, "method_not_allowed", "This address does not take that request."),
    (exceptions.Throttled, 429, "throttled", "Too many tries. Wait a while."),
    (exceptions.UnsupportedMediaType, 415, "not_json", "Send JSON."),
    (exceptions.ParseError, 400, "not_json", "The request is not valid JSON: numbers are written 12.5, without NaN."),
)


def problem_handler(error: Exception, context: dict[str, Any]) -> Response | None:
    """DRF's exception hook. What is unknown stays a 500 that Django logs; its text is never echoed."""
    stored = storage_problem(error)
    if stored is not None:
        set_rollback()
        answered = problem(stored.status, stored.code, stored.message)
        if stored.again_s is not None:
            answered["Retry-After"] = str(stored.again_s)
        return answered
    if isinstance(error, Conflict):
        return problem(409, error.code, error.message, error.field, error.said)
    if isinstance(error, CoreError):
        return problem(400, error.code, error.message, error.field, error.said)
    if isinstance(error, SchemaError):
        return _schema_problem(error)
    if isinstance(error, exceptions.AuthenticationFailed) and error.get_codes() == "token":
        return problem(401, "token", "This token opens nothing: it was revoked, has run out, or was never made.")
    for kind, status, code, message in _BY_EXCEPTION:
        if isinstance(error, kind):
            return problem(status, code, message)
    if isinstance(error, exceptions.PermissionDenied | DjangoPermissionDenied):
        detail = getattr(error, "detail", None)
        code = getattr(detail, "code", "not_allowed")
        return problem(403, str(code), str(detail or error or "Your role may not do this."))
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


def _schema_problem(error: SchemaError) -> Response:
    first = error.errors(include_url=False, include_input=False)[0]
    loc = first["loc"]
    path = [str(part) for before, part in zip((None, *loc), loc, strict=False) if not _is_branch(part, before)]
    field = ".".join(path)
    name = path[-1] if path else "The request"
    refused = first.get("ctx", {}).get("error")
    if isinstance(refused, CoreError):  # raised by a unit or by a record of the core: its own field is below ours
        below = [refused.field] if refused.field and refused.field != name else []
        return problem(400, refused.code, refused.message, ".".join([*path, *below]), refused.said)
    said = _SAID.get(first["type"], f"is not possible: {first['msg']}.")
    return problem(400, first["type"], f"{name} {said}", field)


def _is_branch(part: int | str, before: int | str | None) -> bool:
    """Pydantic names the branch of a union it tried; that is no field of ours. An entry's kind follows its number."""
    if not isinstance(part, str):
        return False
    if isinstance(before, int) and part in REGISTRY:
        return True
    return part.startswith(("function-", "is-instance", "constrained-")) or part in ("float", "Quantity")


def server_error(request: HttpRequest) -> JsonResponse:
    """What failed outside a view, in the same shape: the session could not be kept, say."""
    stored = storage_problem(sys.exc_info()[1])
    if stored is None:
        words = "Something went wrong here. Nothing you typed is lost: try again, and tell whoever looks after the server."
        return JsonResponse({"field": "", "code": "server_error", "message": words}, status=500)
    answered = JsonResponse({"field": "", "code": stored.code, "message": stored.message}, status=stored.status)
    if stored.again_s is not None:
        answered["Retry-After"] = str(stored.again_s)
    return answered


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    """A write without the token of its page."""
    words = "This page is out of date. Reload it, then try again: nothing you typed is lost."
    return JsonResponse({"field": "", "code": "csrf", "message": words}, status=403)
