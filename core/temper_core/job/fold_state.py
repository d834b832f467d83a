"""What the walk through a record carries from entry to entry, and what can be asked of it at any time."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.job.doubt.program import Step
from temper_core.job.life.age import AgePart
from temper_core.job.loop import Loop
from temper_core.job.state import JobState, LoopLife, SinceSignOff
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Fluid
from temper_core.science import Glycol


@dataclass(slots=True)
class LedgerFold:
    """A loop as its entries so far leave it; `fold.state_of` turns it into a LoopState.

    now: the depot's clock, None where nothing is asked of it. contents: what is inside, by vessel; found: what is believed
    of it, base and family; strength_known: somebody reported or read its strength; strength_read: it was read, or is carried
    over from a verified job. ran_seq: number of the last run that was recorded: a check recorded before it is older,
    whatever its clock says. acts: what was done to what is inside, and what was seen of it, for the doubt of both.
    """

    loop: Loop
    policy: Policy
    contents: Contents
    found: Fluid
    base: Base | None
    now: datetime | None = None
    strength_known: bool = False
    strength_read: bool = False
    changed_at: datetime | None = None
    last_entry_id: str | None = None
    ran_seq: int = 0
    acts: list[Step] = field(default_factory=list)
    job: JobState = field(default_factory=JobState)
    since: SinceSignOff = field(default_factory=SinceSignOff)
    life: LoopLife = field(default_factory=LoopLife)

    @property
    def by_litres(self) -> Contents:
        """What the litres alone say is inside."""
        return self.job.verify.before_sign_off or self.contents

    @property
    def glycol(self) -> Glycol:
        """The curves that apply; a glycol-free fill counts as water on the ethylene curves."""
        return self.contents.glycol

    @property
    def inside_strength_percent(self) -> float | None:
        """Strength of what is inside, mixed; None when not known it."""
        return self.contents.strength if self.strength_known else None

    @property
    def other_percent(self) -> float:
        """Coolant of another base, or of one not known, that the full loop holds [% of its volume]."""
        return 100 * self.contents.total.other_l / self.loop.capacity_l

    @property
    def bases_mixed(self) -> bool:
        """More of another base is inside than may stay: no scale is right, and not known how far it protects."""
        return self.other_percent > self.policy["old_limit_change_percent"]


def start(loop: Loop, policy: Policy, now: datetime | None = None) -> LedgerFold:
    """The fold of an empty record: full of what is believed."""
    fluid = loop.believed
    glycol = (fluid.base.glycol if fluid.base else None) or Glycol.ETHYLENE
    strength = VolumePercent(fluid.strength_percent or 0.0)
    return LedgerFold(
        loop=loop,
        policy=policy,
        contents=Contents.full(loop.layout, glycol, strength),
        found=fluid,
        base=fluid.base,
        strength_known=fluid.strength_percent is not None or fluid.base is Base.NONE,
        now=now,
        life=LoopLife((fluid.family,) if fluid.family else (), (AgePart(1.0, family=fluid.family),)),
    )


def capacity_sd_l(loop: Loop, policy: Policy) -> float:
    """Standard deviation of a loop's capacity [l]."""
    if loop.capacity_sd_l is not None:
        return loop.capacity_sd_l
    return loop.capacity_l * policy[f"capacity_sd_{loop.capacity_source.value}"] / 100
