"""What the calculators of readings, boiling, expansion and vacuum take and give, in JSON."""

from __future__ import annotations

from typing import Literal

from compute.mixes import GlycolName
from config.shapes import Body, Number, answer_of
from temper_core import instruments as core_reading
from temper_core.basis.errors import under
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate import boil as core_boil
from temper_core.calculate import expansion as core_fill
from temper_core.calculate import vacuum as core_vacuum
from temper_core.science import Glycol


class ReadingIn(Body):
    """What is this reading's result? value, zero and resolution in the scale's own unit."""

    glycol: GlycolName
    scale: Literal[
        "freeze_ethylene",
        "freeze_propylene",
        "brix",
        "refractive_index",
        "specific_gravity",
        "strength_ethylene",
        "strength_propylene",
    ]
    value: Number
    sample_c: Number = 20.0
    compensated: bool = True
    zero: Number | None = None
    resolution: Number | None = None

    def to_core(self) -> core_reading.ReadingQuestion:
        """The question as the core takes it; raises CoreError."""
        return core_reading.ReadingQuestion(
            glycol=Glycol(self.glycol),
            scale=core_reading.Scale(self.scale),
            value=self.value,
            sample_c=self.sample_c,
            compensated=self.compensated,
            zero=self.zero,
            resolution=self.resolution,
        )


ReadingOut = answer_of("ReadingOut", core_reading.ReadingAnswer)


class BoilIn(Body):
    """When does it boil over? cap_gauge_kpa 0: cap off."""

    glycol: GlycolName
    strength_percent: Number
    altitude_m: Number
    cap_gauge_kpa: Number
    operating_c: Number | None = None

    def to_core(self) -> core_boil.BoilQuestion:
        """The question as the core takes it; raises CoreError."""
        strength = VolumePercent(self.strength_percent)
        return core_boil.BoilQuestion(Glycol(self.glycol), strength, self.altitude_m, self.cap_gauge_kpa, self.operating_c)


BoilOut = answer_of("BoilOut", core_boil.BoilAnswer)


class ExpansionIn(Body):
    """How far does it rise from cold to hot, and has the tank the room?"""

    glycol: GlycolName
    strength_percent: Number
    volume_l: Number
    cold_c: Number
    hot_c: Number
    room_l: Number | None = None

    def to_core(self) -> core_fill.ExpansionQuestion:
        """The question as the core takes it; raises CoreError."""
        return core_fill.ExpansionQuestion(
            glycol=Glycol(self.glycol),
            strength_percent=VolumePercent(self.strength_percent),
            volume_l=self.volume_l,
            cold_c=self.cold_c,
            hot_c=self.hot_c,
            room_l=self.room_l,
        )


ExpansionOut = answer_of("ExpansionOut", core_fill.ExpansionAnswer)


class HeldIn(Body):
    """How long the vacuum was watched, and how much of it was lost."""

    minutes: Number
    drop_kpa: Number


class VacuumIn(Body):
    """How much air does this vacuum leave, and does it hold? vacuum_kpa: below ambient, as the gauge shows it."""

    empty_volume_l: Number
    altitude_m: Number
    vacuum_kpa: Number
    loop_c: Number
    held: HeldIn | None = None

    def to_core(self) -> core_vacuum.VacuumQuestion:
        """The question as the core takes it; raises CoreError."""
        held = None
        if self.held:
            with under("held"):
                held = core_vacuum.Held(self.held.minutes, self.held.drop_kpa)
        return core_vacuum.VacuumQuestion(self.empty_volume_l, self.altitude_m, self.vacuum_kpa, self.loop_c, held)


VacuumOut = answer_of("VacuumOut", core_vacuum.VacuumAnswer)
