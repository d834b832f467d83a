"""A bleed recipe as data: timed steps that let the air out of a loop, and the signs that it is out.

Common practice, no source; recipes differ from loop to loop, and the maker's own goes first.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between, under

MOST_STEPS = 24
LONGEST_S = 7200.0


class CapState(StrEnum):
    """How the neck stands during a step."""

    OPEN = "open"
    FUNNEL = "funnel"
    ENGAGED = "engaged"
    TIGHT = "tight"


class Setting(StrEnum):
    """Heater, blower or air conditioning during a step; any: as it is."""

    ANY = "any"
    OFF = "off"
    LOW = "low"
    FULL = "full"


NECK_OPEN = frozenset({CapState.OPEN, CapState.FUNNEL})


@dataclass(frozen=True, slots=True)
class BleedStep:
    """One step. seconds None: until a hand says so. rpm None: engine off; pump: the loop's own electric pump runs.

    bleeder: the number of the bleeder that is open meanwhile. top_up: the level is made good during it.
    """

    act: str = ""
    seconds: float | None = None
    rpm: float | None = None
    pump: bool = False
    heater: Setting = Setting.ANY
    blower: Setting = Setting.ANY
    ac: Setting = Setting.ANY
    cap: CapState = CapState.TIGHT
    bleeder: int | None = None
    squeeze: bool = False
    nose_up: bool = False
    top_up: bool = False

    def __post_init__(self) -> None:
        if len(self.act) > 140:
            raise CoreError("act", "Longer than 140 characters. Shorten it: it is read from two metres away.", "too_long")
        if self.seconds is not None:
            check_between("seconds", self.seconds, 1, LONGEST_S, "s", "Leave it empty for a step ended by hand.")
        if self.rpm is not None:
            check_between("rpm", self.rpm, 300, 6000, "rpm", "Leave it empty when the engine is off.")
        if self.bleeder is not None:
            check_between("bleeder", self.bleeder, 1, 20, "", "The number of the bleeder in the drawing.")
        if self.seconds is None and not self.act.strip():
            raise CoreError("act", "The step has no time. Say until when.", "required")

    @property
    def heats(self) -> bool:
        """The engine runs, so the loop warms."""
        return self.rpm is not None

    @property
    def neck_open(self) -> bool:
        """No pressure can build."""
        return self.cap in NECK_OPEN

    def opens_after(self, before: BleedStep | None) -> bool:
        """Something is opened when this step begins: a bleeder, or a neck that was shut."""
        return self.bleeder is not None or (self.neck_open and before is not None and not before.neck_open)


@dataclass(frozen=True, slots=True)
class BleedRecipe:
    """The steps in order. stated_in: where the loop's own recipe was read; empty for a generic one."""

    name: str
    steps: tuple[BleedStep, ...]
    stated_in: str = ""

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise CoreError("name", "The recipe has no name. Give it one.", "required")
        if not 1 <= len(self.steps) <= MOST_STEPS:
            raise CoreError("steps", f"{len(self.steps)} steps: 1 to {MOST_STEPS} are allowed.", "out_of_range")
        for i, step in enumerate(self.steps):
            with under(f"steps.{i}"):
                if step.pump and step.heats:
                    raise CoreError("pump", "Engine and electric pump in one step. Choose one.", "not_both")


class FinishSign(StrEnum):
    """Signs that the air is out; it takes two."""

    HEATER_HOT = "heater_hot"
    BOTTOM_HOT = "bottom_hot"
    NO_BUBBLES = "no_bubbles"
    SOLID_STREAM = "solid_stream"
    LEVEL_STEADY = "level_steady"
    FAN_CYCLED = "fan_cycled"
    SWIRL = "swirl"


SIGN_NAMES = {
    FinishSign.HEATER_HOT: "Heater blows hot",
    FinishSign.BOTTOM_HOT: "Bottom hose hot",
    FinishSign.NO_BUBBLES: "No bubbles",
    FinishSign.SOLID_STREAM: "Solid stream at the bleeder",
    FinishSign.LEVEL_STEADY: "Level steady",
    FinishSign.FAN_CYCLED: "Fan has cycled",
    FinishSign.SWIRL: "Swirl in the tank",
}
SIGNS_ASKED = 2
THERMOSTAT_SIGNS = frozenset({FinishSign.BOTTOM_HOT, FinishSign.FAN_CYCLED})
HOT_SIGNS = THERMOSTAT_SIGNS | {FinishSign.HEATER_HOT}  # seen only on an engine that ran


class BleedOutcome(StrEnum):
    """How a bleed ended."""

    FINISHED = "finished"
    OVERHEATING = "overheating"
    NO_HEAT = "no_heat"
    STOPPED = "stopped"


OUTCOME_NAMES = {
    BleedOutcome.FINISHED: "finished",
    BleedOutcome.OVERHEATING: "stopped, overheating",
    BleedOutcome.NO_HEAT: "stopped, no heat",
    BleedOutcome.STOPPED: "stopped",
}


_ON = {Setting.FULL: "full", Setting.LOW: "low", Setting.OFF: "off"}


def step_words(step: BleedStep) -> tuple[str, ...]:
    """What has to stand how during a step, one short word each.

    >>> step_words(BleedStep(seconds=40, rpm=2500, heater=Setting.FULL, cap=CapState.FUNNEL, squeeze=True))
    ('2500 rpm', 'heater on full', 'funnel on the neck', 'squeeze the hoses')
    """
    words = [f"{step.rpm:g} rpm" if step.rpm is not None else ("pump on" if step.pump else "engine off")]
    if step.heater is not Setting.ANY:
        words.append({Setting.FULL: "heater on full", Setting.LOW: "heater half", Setting.OFF: "heater off"}[step.heater])
    words += [f"{name} {_ON[value]}" for name, value in (("blower", step.blower), ("AC", step.ac)) if value in _ON]
    cap = {CapState.OPEN: "neck open", CapState.FUNNEL: "funnel on the neck", CapState.ENGAGED: "cap just engaged"}
    words.append(cap.get(step.cap, "cap tight"))
    if step.bleeder is not None:
        words.append(f"bleeder {step.bleeder} open")
    words += [word for word, on in (("squeeze the hoses", step.squeeze), ("front up", step.nose_up)) if on]
    return (*words, "keep it topped up") if step.top_up else tuple(words)
