"""One loop as it really is: what is in its vessels, how warm and tight it is, where air is caught, what leaks out."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from random import Random

from temper_core.basis.policy import Policy
from temper_core.job.loop import Loop
from temper_core.machine.circuit import NodeKind, circulating
from temper_core.machine.drain_points import still_vessels
from temper_core.machine.layouts import generic_equipment, generic_layout
from temper_core.practice.lesson import Lesson, TrueOf
from temper_core.products.chemistry import Fluid, Material, Requirement
from temper_core.simulate import thermal
from temper_core.simulate.machine import TrueMachine
from temper_core.simulate.truth import draw

SCALDS_C = 50.0
PUSHES_KPA = 4.0
GLANCE_MIN = 1.0  # how finely time runs while something is warm
STILL_GLANCE_MIN = 60.0  # where nothing is warm and nothing runs
OPEN_ENOUGH = 0.3  # of the thermostat, for the coolant to reach the radiator
MIXES_MIN = 3.0  # so long with the thermostat open until all of it is one fluid
HEATER_AIR = 0.4  # of the air that is caught: what sits in heater and its hoses
CLEANER_WORKS = 0.3  # of its working strength: from there on it attacks what it should not
NO_TANK_ROOM = 0.05  # of the loop: the space under the neck
IDLE_W_L = 1000.0  # heat of an idling engine for each litre of its loop: large engines have large loops
PUMP_W_L = 60.0  # of electronics that idle, a litre
BLED_EACH_MIN = 0.08  # of the caught air that a hot run with the thermostat open carries up in a minute


def loop_as_believed(lesson: Lesson, number: int) -> Loop:
    """The loop as the papers have it: what the fleet's record of it says."""
    of = lesson.loops[number]
    return Loop(
        str(number),
        of.name,
        of.capacity_l,
        of.capacity_source,
        generic_layout(of.layout, of.capacity_l),
        Requirement(of.families, materials=(Material.ALUMINIUM,), low_conductivity=of.low_conductivity),
        lesson.coldest_c,
        Fluid(of.believed_base, of.believed_family, of.believed_percent),
        of.cap_kpa,
        equipment=generic_equipment(of.layout),
        high_voltage=of.high_voltage,
    )


@dataclass(slots=True)
class TrueLoop:
    """Everything that is so of one loop now. ran_open_min: this run, thermostat open; poured: litres by what it was."""

    of: TrueOf
    loop: Loop
    machine: TrueMachine
    body: thermal.Body
    warmth: thermal.Warmth
    cap_open: bool = False
    drains_open: list[str] = field(default_factory=list)
    running: bool = False
    heater_full: bool = False
    ran_open_min: float = 0.0
    ran_min: float = 0.0
    top_air_l: float = 0.0
    heater_air_l: float = 0.0
    leaked_l: float = 0.0
    spat_l: float = 0.0
    cleaner_min: float = 0.0
    conducts_us_cm: float = 0.0
    poured: dict[str, float] = field(default_factory=dict)
    drained_l: float = 0.0

    @property
    def air_l(self) -> float:
        """Air that is caught."""
        return self.top_air_l + self.heater_air_l

    def catch(self, air_l: float) -> None:
        """So much air is caught below what goes in."""
        in_heater = HEATER_AIR * air_l if self.has_heater else 0.0
        self.heater_air_l += in_heater
        self.top_air_l += air_l - in_heater

    @property
    def room_l(self) -> float:
        """Below the cold mark as it is seen: air that is caught stands in for coolant."""
        return self.machine.layout.volume_l - self.machine.inside_l - self.air_l

    @property
    def mean_c(self) -> float:
        """Of all of its coolant."""
        share = self.body.radiator_l / self.body.volume_l
        return share * self.warmth.cold_c + (1 - share) * self.warmth.hot_c

    @property
    def seen_room_l(self) -> float:
        """Below the mark as it is seen now: what is warm has swollen."""
        return self.room_l - thermal.EXPANSION_PER_K * self.machine.inside_l * max(0.0, self.mean_c - 20)

    @property
    def hot(self) -> bool:
        """Whether a bare hand cannot stay on it."""
        return self.warmth.hot_c > SCALDS_C

    @property
    def pressure_kpa(self) -> float:
        """What pushes when it is opened."""
        return 0.0 if self.cap_open else thermal.pressure_kpa(self.body, self.warmth)

    @property
    def old_percent(self) -> float:
        """Old coolant, as a share of the full loop."""
        return self.machine.old_percent

    @property
    def groups(self) -> list[list[str]]:
        """What is one fluid while it runs as it runs now."""
        still = still_vessels(self.machine.layout, self.loop.equipment)
        return circulating(self.machine.layout, self.ran_open_min >= MIXES_MIN, self.heater_full, still)

    @property
    def cooled(self) -> bool:
        """As cold as the bay."""
        return abs(self.warmth.hot_c - self.body.ambient_c) < 0.3

    def tank(self) -> str | None:
        """The vessel whose level is looked at; None without a tank."""
        return next((node.id for node in self.machine.layout.nodes if node.kind is NodeKind.TANK), None)

    def pass_minutes(self, minutes: float) -> None:
        """Time passes: it warms or cools, mixes while it runs, leaks; air goes up while it runs hot."""
        left = minutes
        while left > 1e-9:
            still = not self.running and self.cooled
            step = min(STILL_GLANCE_MIN if still else GLANCE_MIN, left)
            left -= step
            self._warm(step)
            if self.of.leak_l_day > 0:
                lost = min(self.of.leak_l_day * step / 1440, max(0.0, self.machine.inside_l - 0.2))
                self.machine.contents = self.machine.contents.lose(lost)
                self.leaked_l += lost
            total = self.machine.contents.total
            if total.cleaner_l > CLEANER_WORKS * max(0.01, self.machine.inside_l):
                self.cleaner_min += step
            if self.running:
                self._run(step)

    def _swell(self) -> None:
        """What is warm and finds no room runs out of the neck or the overflow."""
        layout = self.machine.layout
        headroom = layout.room_l if layout.room_l is not None else NO_TANK_ROOM * layout.volume_l
        over = -self.seen_room_l - headroom
        if over > 0:
            self.machine.contents = self.machine.contents.lose(over)
            self.spat_l += over

    def _warm(self, minutes: float) -> None:
        body = replace(self.body, cap_kpa=0.0) if self.cap_open else self.body
        if not self.running and self.cooled:
            return
        before = self.warmth.boiled_l
        self.warmth = thermal.after(body, self.warmth, minutes * 60, self.running)
        self._swell()
        if self.warmth.boiled_l > before:
            lost = min(self.warmth.boiled_l - before, max(0.0, self.machine.inside_l - 0.2))
            self.machine.contents = self.machine.contents.lose(lost)
            self.leaked_l += lost

    def _run(self, minutes: float) -> None:
        self.ran_min += minutes
        opened = not any(pipe.via.value == "thermostat" for pipe in self.machine.layout.pipes)
        if opened or thermal.opened(self.body, self.warmth.hot_c) >= OPEN_ENOUGH:
            self.ran_open_min += minutes
            left = (1 - BLED_EACH_MIN) ** minutes
            self.top_air_l *= left
            self.heater_air_l *= left if self.heater_full else 1.0
        self.machine.contents = self.machine.contents.circulate(self.groups)

    @property
    def has_heater(self) -> bool:
        """Whether a heater hangs in this loop."""
        return any(node.kind is NodeKind.HEATER for node in self.machine.layout.nodes)


def true_loop(lesson: Lesson, number: int, rng: Random, policy: Policy) -> TrueLoop:
    """The loop as the lesson and the seed have it: its litres and errors are drawn by the depot's own rules."""
    of = lesson.loops[number]
    loop = loop_as_believed(lesson, number)
    glycol = of.base.glycol
    assert glycol is not None
    truth = draw(loop, glycol, of.found_percent, rng, policy, level_seen=True)
    found = min(70.0, max(0.0, of.found_percent + rng.gauss(0.0, 0.6)))
    truth = replace(truth, found_percent=found, missing_l=max(0.0, of.missing_l + rng.gauss(0.0, 0.05)))
    machine = TrueMachine(truth)
    if of.other_percent:
        machine.contents = machine.contents.with_other(of.other_percent / 100)
    volume = machine.layout.volume_l
    cold = sum(n.volume_l for n in machine.layout.nodes if n.kind is NodeKind.RADIATOR) or 0.3 * volume
    gas = (machine.layout.room_l or 0.05 * volume) + of.missing_l
    body = thermal.Body(
        volume,
        cold,
        max(0.1, gas),
        of.cap_kpa,
        lesson.ambient_c,
        idle_w=(PUMP_W_L if of.low_conductivity else IDLE_W_L) * volume,
        thermostat=of.thermostat,
    )
    one = TrueLoop(of, loop, machine, body, thermal.cold(body), conducts_us_cm=of.us_cm)
    one.catch(of.caught_l)
    if lesson.ran_min:
        one.warmth = thermal.after(body, one.warmth, lesson.ran_min * 60, True)
    return one
