"""What the catalogue's API takes and gives."""

from __future__ import annotations

from datetime import date, datetime
from decimal import Decimal
from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body, Litres, Number
from temper_core.products.agents import AgentKind
from temper_core.products.chemistry import Base, Family, Form
from temper_core.products.water import WaterJudged, WaterKind

Name = Annotated[str, Field(max_length=60)]
Price = Annotated[Decimal, Field(ge=0, max_digits=8, decimal_places=2)]


class ProductOut(Answer):
    """A coolant of the depot; strength by volume of the default concentrate (None without glycol); price in its currency.

    glycol_stated: false where the label is silent, and the figure is what is usual. label_entered: false for a line of the
    starter list until somebody entered its label.
    """

    id: int
    uuid: UUID | None = None
    name: str
    base: Base
    family: Family
    form: Form
    glycol_mass_percent: float
    glycol_stated: bool = True
    label_entered: bool = True
    strength_percent: float | None
    standards: tuple[str, ...]
    container_sizes_l: tuple[float, ...]
    price_per_l: Decimal | None
    minimum_l: float | None = None


class Fits(Answer):
    """How many of the depot's loops a product may go into; those it fits as they stand by name."""

    fits: int
    after_change_out: int
    emergency: int
    no: int
    where: list[str]


class ProductLine(Answer):
    """A coolant in the list of products, with the loops it may go into."""

    product: ProductOut
    fits: Fits
    edited_at: datetime


class AgentOut(Answer):
    """A cleaner or an additive by its label; price of one container."""

    id: int
    uuid: UUID | None = None
    name: str
    kind: AgentKind
    container_ml: float
    treats_l: float
    light_min: float | None
    heavy_min: float | None
    limit_min: float | None
    rinse_below_percent: float | None
    nitrite_mg_l: float | None
    molybdate_mg_l: float | None
    families: list[Family]
    price: Decimal | None
    minimum_l: float | None
    edited_at: datetime


class WaterOut(Answer):
    """A water source with its analysis and what it may be used for."""

    id: int
    uuid: UUID | None = None
    name: str
    kind: WaterKind
    chloride_mg_l: float | None
    sulphate_mg_l: float | None
    hardness_mg_l: float | None
    solids_mg_l: float | None
    ph: float | None
    analysed_on: date | None
    price_per_l: Decimal | None
    minimum_l: float | None
    edited_at: datetime
    judged: WaterJudged


class Catalogue(Answer):
    """All that can go into a loop of this depot."""

    products: list[ProductLine]
    agents: list[AgentOut]
    waters: list[WaterOut]


class _Line(Body):
    """id: the client's, for a new line; seen: when it was last edited, for a change."""

    id: UUID | None = None
    seen: datetime | None = None
    name: Name
    minimum_l: Litres | None = None


class ProductIn(_Line):
    """A coolant as its label has it. glycol_mass_percent null: the label does not state it."""

    base: Base
    family: Family
    form: Form
    glycol_mass_percent: Number | None
    standards: list[Name] = []
    container_sizes_l: Annotated[list[Litres], Field(max_length=8)] = []
    price_per_l: Price | None = None


class AgentIn(_Line):
    """A cleaner or an additive as it shall be."""

    kind: AgentKind
    container_ml: Number
    treats_l: Litres
    light_min: Number | None = None
    heavy_min: Number | None = None
    limit_min: Number | None = None
    rinse_below_percent: Number | None = None
    nitrite_mg_l: Number | None = None
    molybdate_mg_l: Number | None = None
    families: Annotated[list[Family], Field(max_length=8)] = []
    price: Price | None = None


class WaterIn(_Line):
    """A water source as it shall be."""

    kind: WaterKind
    chloride_mg_l: Number | None = None
    sulphate_mg_l: Number | None = None
    hardness_mg_l: Number | None = None
    solids_mg_l: Number | None = None
    ph: Number | None = None
    analysed_on: date | None = None
    price_per_l: Price | None = None
