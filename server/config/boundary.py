"""The API's boundary: a request's body in its shape, an answer out of its shape."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel
from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser
from rest_framework.request import Request
from rest_framework.response import Response

from temper_core.basis.errors import CoreError

B = TypeVar("B", bound=BaseModel)


class BoundedJSONParser(JSONParser):
    """JSON that is nested deeper than anything here is a bad request, not a failure of the server."""

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        """The body as data; ParseError for what is no JSON, or too deep."""
        try:
            return super().parse(stream, media_type, parser_context)
        except RecursionError:
            raise ParseError("nested too deep") from None


def body_of(request: Request, shape: type[B]) -> B:
    """The request's body in its shape; refusals answer 400 with the first bad field."""
    if not isinstance(request.data, dict):
        raise CoreError("", "The request must be a JSON object.", "not_json")
    return shape.model_validate(request.data)


def answer(model: BaseModel, status: int = 200) -> Response:
    """A response from its shape."""
    return Response(model.model_dump(mode="json"), status=status)
