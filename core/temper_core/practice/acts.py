"""What hands do at the machine, and what eyes and instruments find there."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import Message
from temper_core.calculate.mix import LARGEST_LOOP_L

LONGEST_NAME = 80


class Do(StrEnum):
    """Everything that can be done. Its value is the name in the record of a run."""

    FEEL = "feel"
    LEVEL = "level"
    HEATER = "heater"
    ENGINE_ON = "engine_on"
    ENGINE_OFF = "engine_off"
    OPEN_CAP = "open_cap"
    CLOSE_CAP = "close_cap"
    DRAIN = "drain"
    SHUT_DRAINS = "shut_drains"
    POUR = "pour"
    BLEED = "bleed"
    SAMPLE = "sample"
    LOOK_WATER = "look_water"
    LOOK_SAMPLE = "look_sample"
    SET_ZERO = "set_zero"
    PEN = "pen"
    STRIPS = "strips"
    KNOWN_WEIGHT = "known_weight"
    LABEL = "label"


MINUTES: dict[Do, float] = {  # how long each takes: common practice, no source
    Do.FEEL: 1,
    Do.LEVEL: 1,
    Do.HEATER: 0.5,
    Do.ENGINE_ON: 0.5,
    Do.ENGINE_OFF: 0.2,
    Do.OPEN_CAP: 1,
    Do.CLOSE_CAP: 0.5,
    Do.DRAIN: 8,
    Do.SHUT_DRAINS: 2,
    Do.POUR: 4,
    Do.BLEED: 2,
    Do.SAMPLE: 2,
    Do.LOOK_WATER: 2,
    Do.LOOK_SAMPLE: 2,
    Do.SET_ZERO: 1,
    Do.PEN: 2,
    Do.STRIPS: 2,
    Do.KNOWN_WEIGHT: 1,
    Do.LABEL: 1,
}


@dataclass(frozen=True, slots=True)
class Act:
    """One act at one loop (from 0). Of a drain, where: its letter, or the vessel that is emptied by itself; of a bleeder its
    number. Of a pour, what: a product's name, a kind of water or a cleaner; litres, or to_mark. heater_full: of the heater.
    """

    do: Do
    loop: int = 0
    where: str = ""
    what: str = ""
    litres: float | None = None
    to_mark: bool = False
    heater_full: bool = False
    glass: str = ""

    def __post_init__(self) -> None:
        check_between("loop", self.loop, 0, 9, "", "Loops are counted from 0.")
        for name in ("where", "what", "glass"):
            if len(getattr(self, name)) > LONGEST_NAME:
                raise CoreError(name, f"Longer than {LONGEST_NAME} characters. Nothing here is called so.", "too_long")
        if self.litres is not None:
            check_between("litres", self.litres, 0.02, LARGEST_LOOP_L, "L", "Litres of what is poured.")


@dataclass(frozen=True, slots=True)
class Glass:
    """What stands in the eyepiece: the boundary between water (0) and the end of the scale (1), even in refractive index.

    blur: half the height of the soft edge, as a share of the scale. off: past its end.
    """

    name: str
    scale: str
    boundary: float
    blur: float
    off: bool = False


@dataclass(frozen=True, slots=True)
class JarSeen:
    """A sample in a jar: words of the inspection by their keys, sediment [mm]."""

    looks: tuple[str, ...]
    sediment_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class Found:
    """What an act yields: a sentence; what is seen; unsafe: how it could have hurt somebody, one for each way."""

    said: Message
    glass: Glass | None = None
    jar: JarSeen | None = None
    unsafe: tuple[Message, ...] = ()
