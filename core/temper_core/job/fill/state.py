"""The shapes of a filling as it stands: what is to be shut, what went in and comes of it, air, bleed, the final check."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from temper_core.basis.message import Message
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.vacuum import VacuumAnswer
from temper_core.job.fill.facts import FillMethod, LookedUnder, VacuumPulled
from temper_core.job.fill.rules import TopUps
from temper_core.machine.bleeding import BleedOutcome, BleedRecipe, FinishSign


@dataclass(frozen=True, slots=True)
class ClosingPoint:
    """One thing to shut or to seat before fluid goes in, confirmed by hand. tap: its drain's letter, where it is one."""

    key: str
    act: str
    detail: str
    tap: str
    done: bool


class FillStep(StrEnum):
    """What comes next in a filling."""

    SHUT = "shut"
    POUR = "pour"
    UNDER = "under"
    BLEED = "bleed"
    DONE = "done"


@dataclass(frozen=True, slots=True)
class MethodPlan:
    """A way to fill this loop, and how. advised: what its build asks for; warnings: what to know before."""

    method: FillMethod
    name: str
    steps: tuple[Message, ...]
    advised: bool
    warnings: tuple[Message, ...]


@dataclass(frozen=True, slots=True)
class PourLine:
    """One pour, the litres in so far, and what is inside once mixed: freeze point with its 95 % interval [degC].

    freeze_c None: past what is tabulated. method: how it went in; jobs signed before it was kept say gravity.
    """

    entry_id: str
    at: datetime
    by: str
    product: str
    product_l: float
    water_l: float
    total_l: float
    at_mark: bool
    bleeding: bool
    point: int | None
    strength_percent: float
    freeze_c: float | None
    likely: Interval | None
    method: FillMethod = FillMethod.GRAVITY


class SlipKind(StrEnum):
    """What went otherwise than planned."""

    WATER_FIRST = "water_first"
    WRONG_CAN = "wrong_can"
    LOOP_STRENGTH = "loop_strength"
    OFF_BLEND = "off_blend"
    TOO_MUCH_PRODUCT = "too_much_product"
    TOO_MUCH_WATER = "too_much_water"


@dataclass(frozen=True, slots=True)
class Replan:
    """What is left to pour to the target from here. feasible False: the best that still can be; said says what helps."""

    product_l: float
    water_l: float
    feasible: bool
    freeze_c: float | None
    said: Message


@dataclass(frozen=True, slots=True)
class Slip:
    """A pour that was not the plan: what happened, where it ends if it goes on like that, and the new plan."""

    kind: SlipKind
    entry_id: str
    said: Message
    unless_c: float | None
    unless: Message | None
    replan: Replan | None


@dataclass(frozen=True, slots=True)
class Air:
    """Expected less accepted [l]: air that is trapped, with its 95 % half-width. where: the vessel it likely sits in.

    trapped: more than the litres' own doubt.
    """

    expected_l: float
    accepted_l: float
    air_l: float
    half_l: float
    trapped: bool
    where: str | None
    said: Message


@dataclass(frozen=True, slots=True)
class VacuumState:
    """The last vacuum on this loop, and what follows from it."""

    entry_id: str
    facts: VacuumPulled
    answer: VacuumAnswer


@dataclass(frozen=True, slots=True)
class BleedStepState:
    """One step of a recipe as the guided steps show it. opens: cap or bleeder is opened when it begins."""

    number: int
    act: str
    seconds: float | None
    words: tuple[str, ...]
    heats: bool
    opens: bool
    top_up: bool


@dataclass(frozen=True, slots=True)
class BleedRunState:
    """A bleed under way. ends_at None: a hand ends the step, or it is held (left_s: what remains).

    gate: the step is over and the next opens a loop that ran shut: two signs first. over: its last step's time is over.
    """

    entry_id: str
    started_at: datetime
    by: str
    step: int
    began_at: datetime
    ends_at: datetime | None
    left_s: float | None
    held: bool
    gate: bool
    over: bool


@dataclass(frozen=True, slots=True)
class SignRow:
    """A finish sign that can be seen on this loop, and its name."""

    sign: FinishSign
    name: str


@dataclass(frozen=True, slots=True)
class BleedState:
    """The recipe in use, the run if one is under way, how the last one ended and what to do then.

    level_first: the level is made good before it is bled again, so the loop is opened: two signs before that.
    """

    recipe: BleedRecipe
    steps: tuple[BleedStepState, ...]
    run: BleedRunState | None
    attempts: int
    outcome: BleedOutcome | None
    signs: tuple[FinishSign, ...]
    asked: tuple[SignRow, ...]
    said: Message | None
    level_first: bool = False


@dataclass(frozen=True, slots=True)
class FillState:
    """A filling as it stands."""

    step: FillStep
    closing: tuple[ClosingPoint, ...]
    under: LookedUnder | None
    methods: tuple[MethodPlan, ...]
    vacuum: VacuumState | None
    pours: tuple[PourLine, ...]
    expected_l: float
    accepted_l: float
    ends_freeze_c: float | None
    ends_likely: Interval | None
    slip: Slip | None
    air: Air | None
    top_ups: TopUps | None
    bleed: BleedState


@dataclass(frozen=True, slots=True)
class PourState:
    """What went in since the last drain, and how far that is from the plan. room_l: space up to the cold mark. rest_fits:
    the rest of the plan goes in by half a litre or better. from_cans_l: of the planned product, top-ups while bleeding left
    aside; cans_l: with what is still to pour. planned_water_in_l: of the planned water."""

    product_l: float
    water_l: float
    left_product_l: float
    left_water_l: float
    room_l: float
    at_mark: bool
    rest_fits: bool = False
    from_cans_l: float = 0.0
    cans_l: float = 0.0
    planned_water_in_l: float = 0.0
