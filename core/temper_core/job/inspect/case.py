"""All that is known of a loop when its type of job is judged."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from temper_core.basis.message import Message
from temper_core.basis.policy import Policy
from temper_core.job.inspect.facts import CHECK_ROWS, LOOK_ROWS, Check, Sampled, Sign, Tested
from temper_core.job.job_types import JobType
from temper_core.job.life.due import Due
from temper_core.products.chemistry import Requirement
from temper_core.products.compatibility import Judged
from temper_core.products.compatibility import Reason as ChemistryReason


@dataclass(frozen=True, slots=True)
class Strength:
    """Protection as found [degC]; safe_c: its warm end. read: with an instrument."""

    freeze_c: float | None
    safe_c: float | None
    coldest_c: float
    margin_k: float
    entry_id: str | None = None
    past_useful: bool = False


@dataclass(frozen=True, slots=True)
class Case:
    """All that a judgement of one loop looks at."""

    asked: JobType
    samples: Sequence[tuple[str, Sampled]] = ()
    tests: Sequence[tuple[str, Tested]] = ()
    need: Requirement = Requirement()
    wrong: ChemistryReason | None = None  # why the filling does not belong here
    known: bool = True  # somebody knows what is inside
    other_on_top: bool = False
    watered: bool = False
    chosen: Judged | None = None
    strength: Strength | None = None
    due: Due | None = None
    cleans: int = 0  # times it was cleaned lately
    cap_gauge_kpa: float | None = None
    conductivity_limit_us_cm: float | None = None
    falling: Message | None = None  # what the history of its readings says of a leak
    policy: Policy = field(default_factory=Policy)

    def last(self, check: Check) -> tuple[str, Tested] | None:
        """The newest result of a check."""
        return next(((i, t) for i, t in reversed(self.tests) if t.check is check), None)

    def signs(self, sign: Sign) -> list[tuple[str, str, str]]:
        """What speaks for something: entry, where, what; one line per place and word."""
        found = []
        for entry_id, sample in self.samples:
            for look in sample.looks:
                if LOOK_ROWS[look].sign is sign:
                    found.append((entry_id, PLACE[sample.spot.value], LOOK_ROWS[look].name.lower()))
        for entry_id, tested in self._newest():
            if tested.sign() is sign:
                row = CHECK_ROWS[tested.check]
                said = next(o.says for o in row.outcomes if o.key == tested.outcome)
                found.append((entry_id, row.name.lower(), said))
        return found

    def _newest(self) -> list[tuple[str, Tested]]:
        newest = {tested.check: (entry_id, tested) for entry_id, tested in self.tests}
        return [newest[check] for check in Check if check in newest]


PLACE = {"neck": "at the neck", "bottle": "in the bottle", "radiator": "in the radiator", "drain": "at the drain"}
