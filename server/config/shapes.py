"""Shapes of the API: plain data checked by pydantic, numbers strictly numbers, units converted once.

No Django in here: a browser without a network checks and answers with the very same shapes.
"""

from __future__ import annotations

from dataclasses import fields
from typing import Annotated, Any, get_type_hints

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, Strict, WithJsonSchema, create_model

from temper_core.basis.quantity import to_litres

Number = Annotated[float, Strict(), Field(allow_inf_nan=False)]


class Body(BaseModel):
    """A request body: unknown names are refused, so that a typo never passes as 'left out'."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class Answer(BaseModel):
    """A response body; core dataclasses are serialised as they are."""

    model_config = ConfigDict(frozen=True)


class Quantity(Body):
    """A value with its unit as typed: l, ml, us_qt, us_gal or imp_gal."""

    value: Number
    unit: str


def _litres(given: Any) -> Any:
    if isinstance(given, dict):
        quantity = Quantity.model_validate(given)
        return to_litres("", quantity.value, quantity.unit)
    return given


_LITRES_SCHEMA = {
    "anyOf": [
        {"type": "number"},
        {
            "type": "object",
            "properties": {"value": {"type": "number"}, "unit": {"type": "string"}},
            "required": ["value", "unit"],
        },
    ],
    "description": "Litres at 20 degC, or a value with its unit (l, ml, us_qt, us_gal, imp_gal).",
}
Litres = Annotated[Number, BeforeValidator(_litres), WithJsonSchema(_LITRES_SCHEMA)]


def answer_of(name: str, result: type[Any]) -> type[Answer]:
    """A core result as a response body: the same fields, all of them always there, documented by its docstring."""
    hints = get_type_hints(result)
    shown: dict[str, Any] = {row.name: (hints[row.name], ...) for row in fields(result)}
    return create_model(name, __base__=Answer, __doc__=result.__doc__, **shown)
