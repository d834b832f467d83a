"""A lesson: a machine whose truth is given, a story, what should be true at the end. Its form: docs/lessons.md."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping
from dataclasses import MISSING, dataclass, fields
from enum import StrEnum
from functools import lru_cache
from pathlib import Path
from typing import Any, TypeVar, get_type_hints

from temper_core.basis.errors import CoreError, check_between, under
from temper_core.job.job_types import JobType
from temper_core.job.loop import CapacitySource
from temper_core.machine.layouts import BY_KEY
from temper_core.products.chemistry import Base, Family
from temper_core.simulate.thermal import Thermostat

SHIPPED = Path(__file__).with_name("lessons")
LONGEST_TEXT, LONGEST_KEY = 600, 60


class Goal(StrEnum):
    """What can be asked of the truth at the end."""

    FREEZE_C = "freeze_c"
    OLD_PERCENT = "old_percent"
    LEVEL_L = "level_l"
    AIR_L = "air_l"
    CLEANER_PERCENT = "cleaner_percent"
    OTHER_PERCENT = "other_percent"
    UNSAFE = "unsafe"
    SIGNED = "signed"
    ZEROED = "zeroed"
    MISSED_C = "missed_c"
    CONDUCTS = "conducts"
    FOUND_LOSS = "found_loss"


@dataclass(frozen=True, slots=True)
class Aim:
    """One thing that should be so at the end: between low and high, where both are given. instead: said where it is not.

    level_l: how far from the cold mark, air counted as if it were gone; missed_c: the last claim less the truth; conducts:
    µS/cm; found_loss: how often a low level was recorded after something was poured.
    """

    goal: Goal
    text: str
    instead: str
    low: float | None = None
    high: float | None = None
    loop: int = 0

    def __post_init__(self) -> None:
        if self.low is None and self.high is None:
            raise CoreError("low", "An aim needs low, high or both.", "required")
        if self.low is not None and self.high is not None and self.low > self.high:
            raise CoreError("low", f"low ({self.low:g}) is above high ({self.high:g}). Swap them.", "not_rising")

    def met(self, value: float) -> bool:
        """Whether it is so."""
        return (self.low is None or value >= self.low) and (self.high is None or value <= self.high)


@dataclass(frozen=True, slots=True)
class TrueOf:
    """One loop: what the papers say of it, and what is so. Percent of coolant by volume; litres at 20 degC.

    missing_l: below the cold mark, caught_l of it taken by air, so that it is not seen. air_share: of what goes in, caught
    as air until it is bled. leak_l_day: lost while it stands. other_percent: of the coolant inside, of another base.
    """

    name: str
    layout: str
    capacity_l: float
    found_percent: float
    capacity_source: CapacitySource = CapacitySource.MANUAL
    believed_percent: float | None = None
    believed_base: Base | None = Base.ETHYLENE
    believed_family: Family | None = Family.OAT
    base: Base = Base.ETHYLENE
    families: tuple[Family, ...] = ()
    missing_l: float = 0.0
    caught_l: float = 0.0
    air_share: float = 0.02
    leak_l_day: float = 0.0
    other_percent: float = 0.0
    thermostat: Thermostat = Thermostat.WORKS
    dirt: bool = False
    oil: bool = False
    cap_kpa: float = 100.0
    high_voltage: bool = False
    low_conductivity: bool = False
    us_cm: float = 40.0
    ph: float = 8.2
    nitrite_mg_l: float = 0.0

    def __post_init__(self) -> None:
        if self.layout not in BY_KEY:
            raise CoreError("layout", f"No layout is called '{self.layout}': {', '.join(BY_KEY)} are.", "unknown_layout")
        if self.base is Base.NONE:
            raise CoreError("base", "A practice loop holds a glycol: ethylene or propylene.", "glycol_free")
        check_between("capacity_l", self.capacity_l, 1, 400, "L", "Of a practice loop.")
        check_between("found_percent", self.found_percent, 0, 70, "%")
        check_between("missing_l", self.missing_l, 0, self.capacity_l / 2, "L", "At most half of the loop.")
        check_between("caught_l", self.caught_l, 0, self.missing_l, "L", "At most what is missing.")
        check_between("air_share", self.air_share, 0, 0.3, "", "A share of what is poured.")
        check_between("leak_l_day", self.leak_l_day, 0, 20, "L")
        check_between("other_percent", self.other_percent, 0, 100, "%")
        check_between("ph", self.ph, 5, 12, "")
        check_between("nitrite_mg_l", self.nitrite_mg_l, 0, 5000, "mg/l")


@dataclass(frozen=True, slots=True)
class Lesson:
    """key: small letters, digits and hyphens. story: what whoever brings it says. learn: what it is for. trap: what usually
    goes wrong, told at the end. scale_off_percent: the bench scale shows so much too much. glass_off_k: so much too
    cold the first refractometer shows water. ran_min: the engine ran so long and was stopped just now.
    """

    key: str
    order: int
    name: str
    story: str
    learn: tuple[str, ...]
    trap: str
    job_type: JobType
    machine: str
    coldest_c: float
    loops: tuple[TrueOf, ...]
    aims: tuple[Aim, ...]
    ambient_c: float = 12.0
    ran_min: float = 0.0
    scale_off_percent: float = 0.0
    glass_off_k: float = 0.0

    def __post_init__(self) -> None:
        if (
            not self.key
            or len(self.key) > LONGEST_KEY
            or not all(part.isalnum() and part == part.lower() for part in self.key.split("-"))
        ):
            raise CoreError(
                "key",
                f"'{self.key}': small letters, digits and hyphens between them are allowed, at most {LONGEST_KEY}.",
                "key",
            )
        for name in ("name", "story", "trap", "machine"):
            text = getattr(self, name)
            if not text.strip() or len(text) > LONGEST_TEXT:
                raise CoreError(name, f"{name} needs 1 to {LONGEST_TEXT} characters.", "length")
        if not 1 <= len(self.loops) <= 3:
            raise CoreError("loops", f"{len(self.loops)} loops: a lesson has 1 to 3.", "out_of_range")
        if not self.aims:
            raise CoreError("aims", "A lesson needs at least one aim.", "required")
        for number, aim in enumerate(self.aims):
            with under(f"aims.{number}"):
                check_between("loop", aim.loop, 0, len(self.loops) - 1, "", "Loops are counted from 0.")
        check_between("coldest_c", self.coldest_c, -45, 10, "°C")
        check_between("ambient_c", self.ambient_c, -20, 40, "°C")
        check_between("ran_min", self.ran_min, 0, 240, "minutes")
        check_between("scale_off_percent", self.scale_off_percent, -20, 20, "%")
        check_between("glass_off_k", self.glass_off_k, -6, 6, "K")


T = TypeVar("T")


def lesson_of(text: str) -> Lesson:
    """A lesson from TOML. Raises CoreError: which value, what is allowed."""
    try:
        given = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise CoreError("text", f"This is not TOML: {error}. See the form of a lesson.", "not_toml") from None
    with under("lesson"):
        return _made(Lesson, given)


def _made(kind: type[T], given: Mapping[str, Any]) -> T:
    """A dataclass from plain data; nested ones, tuples and words of a list too."""
    hints = get_type_hints(kind)
    known = {field.name: field for field in fields(kind)}  # type: ignore[arg-type]
    for name in given:
        if name not in known:
            raise CoreError(name, f"'{name}' is not known here: {', '.join(known)} are.", "unknown_field")
    for name, field in known.items():
        if name not in given and field.default is MISSING and field.default_factory is MISSING:
            raise CoreError(name, f"{name} is missing.", "required")
    return kind(**{name: _value(name, hints[name], value) for name, value in given.items()})


def _value(name: str, hint: Any, value: Any) -> Any:
    if value == "unknown" and type(None) in getattr(hint, "__args__", ()):
        return None
    kinds = [one for one in getattr(hint, "__args__", ()) if one not in (type(None), Ellipsis)] or [hint]
    kind = kinds[0]
    if getattr(hint, "__origin__", None) is tuple:
        if not isinstance(value, list):
            raise CoreError(name, f"{name} is a list.", "not_a_list")
        return tuple(_inner(f"{name}.{number}", kind, one) for number, one in enumerate(value))
    return _inner(name, kind, value)


def _inner(name: str, kind: Any, value: Any) -> Any:
    if hasattr(kind, "__dataclass_fields__"):
        if not isinstance(value, Mapping):
            raise CoreError(name, f"{name} is a table.", "not_a_table")
        with under(name):
            return _made(kind, value)
    if isinstance(kind, type) and issubclass(kind, StrEnum):
        if value not in [one.value for one in kind]:
            raise CoreError(name, f"'{value}' is not allowed: {', '.join(one.value for one in kind)} are.", "unknown_word")
        return kind(value)
    if kind is float and isinstance(value, int | float) and not isinstance(value, bool):
        if not math.isfinite(value):
            raise CoreError(name, f"{name} is {value}: enter a number.", "not_finite")
        return float(value)
    if kind is int and isinstance(value, bool) or not isinstance(value, kind):
        raise CoreError(name, f"{name} is {value!r}: {kind.__name__} is asked for.", "wrong_kind")
    return value


@lru_cache(maxsize=1)
def shipped() -> tuple[Lesson, ...]:
    """The lessons that come with it, in rising order."""
    found = [lesson_of(path.read_text(encoding="utf-8")) for path in SHIPPED.glob("*.toml")]
    return tuple(sorted(found, key=lambda lesson: lesson.order))
