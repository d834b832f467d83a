"""The entries of filling, bleeding, proving and coming back that the jobs API takes."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from config.boundary import Body, Litres, Number
from jobs.entry_base import EntryBase, Note
from temper_core.job.verify.facts import FinishPoint, LeakMethod, Level
from temper_core.machine.bleeding import BleedOutcome, BleedRecipe, FinishSign

Key = Annotated[str, Field(max_length=60)]


class ClosedFacts(Body):
    """Points of the closing check, each felt by hand."""

    points: Annotated[list[Key], Field(max_length=40)]


class LookedUnderFacts(Body):
    """Underneath, at half fill."""

    dry: bool
    where: Key = ""


class HeldIn(Body):
    """How long the vacuum was watched, and what of it was lost."""

    minutes: Number
    drop_kpa: Number


class VacuumPulledFacts(Body):
    """A vacuum on the drained loop, below ambient."""

    vacuum_kpa: Number
    loop_c: Number
    held: HeldIn | None = None


class BleedStartedFacts(Body):
    """A bleed by this recipe, from now."""

    recipe: BleedRecipe


class BleedSteppedFacts(Body):
    """On to a step (from 0)."""

    step: int


class BleedHeldFacts(Body):
    """The clock stands."""


class BleedGoesOnFacts(Body):
    """The clock runs again."""


class BleedEndedFacts(Body):
    """How the bleed ended, and by which signs."""

    outcome: BleedOutcome
    signs: Annotated[list[FinishSign], Field(max_length=7)] = []
    neck_open: bool = False
    note: Note = ""


class CorrectedFacts(Body):
    """Out of the mixed loop, and back in."""

    out_l: Litres
    product_id: int | None
    product_l: Litres
    water_l: Litres


class LeakProofIn(Body):
    """A hold by value."""

    method: LeakMethod
    start_kpa: Number
    drop_kpa: Number
    minutes: Number


class FinishCheckedFacts(Body):
    """The last look before a name goes under it."""

    level: Level
    level_c: Number
    leak: LeakProofIn | None = None
    no_leak_proof: Note = ""
    done: Annotated[list[FinishPoint], Field(max_length=8)] = []


class LevelSeenFacts(Body):
    """The level, cold, between services."""

    level: Level
    note: Note = ""


class AmendedFacts(Body):
    """A correction to a signed job; entry_id: what it is about, if one entry."""

    text: Note
    entry_id: Annotated[str, Field(max_length=40)] = ""


class ClosedIn(EntryBase):
    """closed"""

    kind: Literal["closed"]
    facts: ClosedFacts


class LookedUnderIn(EntryBase):
    """looked under"""

    kind: Literal["looked_under"]
    facts: LookedUnderFacts


class VacuumPulledIn(EntryBase):
    """vacuum pulled"""

    kind: Literal["vacuum_pulled"]
    facts: VacuumPulledFacts


class BleedStartedIn(EntryBase):
    """bleed started"""

    kind: Literal["bleed_started"]
    facts: BleedStartedFacts


class BleedSteppedIn(EntryBase):
    """bleed stepped"""

    kind: Literal["bleed_stepped"]
    facts: BleedSteppedFacts


class BleedHeldIn(EntryBase):
    """bleed held"""

    kind: Literal["bleed_held"]
    facts: BleedHeldFacts


class BleedGoesOnIn(EntryBase):
    """bleed goes on"""

    kind: Literal["bleed_goes_on"]
    facts: BleedGoesOnFacts


class BleedEndedIn(EntryBase):
    """bleed ended"""

    kind: Literal["bleed_ended"]
    facts: BleedEndedFacts


class CorrectedIn(EntryBase):
    """corrected"""

    kind: Literal["corrected"]
    facts: CorrectedFacts


class FinishCheckedIn(EntryBase):
    """finish checked"""

    kind: Literal["finish_checked"]
    facts: FinishCheckedFacts


class LevelSeenIn(EntryBase):
    """level seen"""

    kind: Literal["level_seen"]
    facts: LevelSeenFacts


class AmendedIn(EntryBase):
    """amended"""

    kind: Literal["amended"]
    facts: AmendedFacts
