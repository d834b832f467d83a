"""The entry of a reading."""

from __future__ import annotations

from typing import Literal

from config.boundary import Body, Number
from jobs.entry_base import EntryBase
from temper_core.instruments import Edge
from temper_core.job.readings import Place
from temper_core.science import Branch


class ReadFacts(Body):
    """A reading in the unit of the instrument's scale, or the steps that show; instrument_id null for one that was told.

    zero null: the instrument's last one. sample_c: asked for with every instrument. branch: which of two strengths a told
    freeze temperature means.
    """

    value: Number
    place: Place
    instrument_id: int | None = None
    zero: Number | None = None
    sample_c: Number | None = None
    after_hot_run: bool = False
    edge: Edge = Edge.SHARP
    branch: Branch = Branch.LEAN


class ReadIn(EntryBase):
    """read"""

    kind: Literal["read"]
    facts: ReadFacts
