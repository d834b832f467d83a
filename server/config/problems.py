"""One map from exceptions to answers: {"field", "code", "message", "said"}, whatever went wrong."""

from __future__ import annotations

import sys
from typing import Any

from django.core.exceptions import PermissionDenied as DjangoPermissionDenied
from django.http import Http404, HttpRequest, JsonResponse
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import set_rollback

from config.refusals import NOT_FOUND, Problem, refusal_of, refused_as
from config.storage import storage_problem
from temper_core.basis.message import Message

REFUSALS = dict.fromkeys((400, 401, 403, 404, 409), Problem)  # what most addresses may answer


def problem(status: int, code: str, message: str, field: str = "", said: Message | None = None) -> Response:
    """Answer a refusal."""
    return Response(refused_as(status, code, message, field, said).body, status=status)


_BY_EXCEPTION: tuple[tuple[type[Exception], int, str, str], ...] = (
    (exceptions.NotAuthenticated, 401, "signed_out", "You are signed out. Sign in: nothing you typed is lost."),
    (exceptions.AuthenticationFailed, 401, "signed_out", "You are signed out. Sign in: nothing you typed is lost."),
    (exceptions.NotFound, 404, "not_found", NOT_FOUND),
    (Http404, 404, "not_found", NOT_FOUND),
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
    refused = refusal_of(error)
    if refused is not None:
        return Response(refused.body, status=refused.status)
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
