"""What the calculators of flushing and of cooling down take and give, in JSON."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from config.shapes import Body, Number, answer_of
from temper_core.basis.errors import under
from temper_core.calculate import cooldown as core_schedule
from temper_core.calculate import flush as core_flush

Name = Annotated[str, Field(max_length=60)]
Litres = dict[Name, Number]


class FlushVesselIn(Body):
    """A vessel, full to begin with; old_percent: volume share of old coolant in it."""

    name: Name
    volume_l: Number
    old_percent: Number = 100.0


class RinseIn(Body):
    """Water through one vessel while its drain is open."""

    name: Name
    through_l: Number


class FlushRoundIn(Body):
    """Fill (null: to the cold mark), run with these groups circulating (null: all together), drain; or a rinse alone."""

    fill_l: Number | None = None
    mixes: list[list[Name]] | None = None
    drained_l: Litres = {}
    rinse: RinseIn | None = None

    def to_core(self) -> core_flush.FlushRound:
        """The round as the core takes it; raises CoreError."""
        rinse = None
        if self.rinse:
            with under("rinse"):
                rinse = core_flush.Rinse(self.rinse.name, self.rinse.through_l)
        return core_flush.FlushRound(self.fill_l, self.mixes, self.drained_l, rinse)


class FlushIn(Body):
    """How many rounds are enough, and what does each leave?"""

    vessels: list[FlushVesselIn]
    first_drain_l: Litres = {}
    rounds: list[FlushRoundIn] = []
    limit_percent: Number

    def to_core(self) -> core_flush.FlushQuestion:
        """The question as the core takes it; raises CoreError."""
        vessels, rounds = [], []
        for i, vessel in enumerate(self.vessels):
            with under(f"vessels.{i}"):
                vessels.append(core_flush.FlushVessel(vessel.name, vessel.volume_l, vessel.old_percent))
        for i, one in enumerate(self.rounds):
            with under(f"rounds.{i}"):
                rounds.append(one.to_core())
        return core_flush.FlushQuestion(tuple(vessels), self.first_drain_l, tuple(rounds), self.limit_percent)


FlushOut = answer_of("FlushOut", core_flush.FlushAnswer)


class CoolPointIn(Body):
    """A logged temperature, minutes after stopping."""

    minute: Number
    c: Number


class CooldownIn(Body):
    """When has it cooled? An estimate for planning, never a permission to open a loop."""

    from_c: Number
    ambient_c: Number
    until_c: Number
    loop_volume_l: Number | None = None
    points: list[CoolPointIn] = []

    def to_core(self) -> core_schedule.CooldownQuestion:
        """The question as the core takes it; raises CoreError."""
        points = []
        for i, point in enumerate(self.points):
            with under(f"points.{i}"):
                points.append(core_schedule.CoolPoint(point.minute, point.c))
        return core_schedule.CooldownQuestion(self.from_c, self.ambient_c, self.until_c, self.loop_volume_l, tuple(points))


CooldownOut = answer_of("CooldownOut", core_schedule.CooldownAnswer)
