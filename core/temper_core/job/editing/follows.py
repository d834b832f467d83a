"""What an edit changes: the figures of a loop before and after, those alone that differ as they are shown."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.job.inside.verdict import VERDICT_NAMES
from temper_core.job.job_types import STAGE_NAMES
from temper_core.job.loop_state import LoopState


@dataclass(frozen=True, slots=True)
class Change:
    """One figure or word that an edit changes. None: not known."""

    name: str
    before: Message | None
    after: Message | None


def what_follows(before: LoopState, after: LoopState) -> tuple[Change, ...]:
    """What is different after an edit, in the order of the job."""
    rows = zip(_shown(before), _shown(after), strict=True)
    return tuple(Change(name, was, now) for (name, was), (_, now) in rows if _text(was) != _text(now))


def _text(said: Message | None) -> str | None:
    return said.sentence if said else None


def _figure(value: float | None, name: str) -> Message | None:
    return None if value is None else say("figure", f"{{{name}}}", **{name: value})


def _shown(state: LoopState) -> Iterator[tuple[str, Message | None]]:
    plan, together, poured = state.plan, state.repeats, state.poured
    yield "Drained", _figure(state.drained_l, "drained_l")
    yield "Still inside", _figure(state.inside.litres, "inside_l")
    yield "Old coolant left", _figure(state.inside.finished_old_percent, "old_percent")
    yield "Plan, product", _figure(plan.concentrate_l if plan else None, "product_l")
    yield "Plan, water", _figure(plan.water_l if plan else None, "water_l")
    yield "Poured, product", _figure(poured.product_l, "product_l")
    yield "Poured, water", _figure(poured.water_l, "water_l")
    yield "Predicted to freeze at", _figure(state.predicted_freeze_c, "freeze_c")
    yield "Measured", _figure(together.freeze_c if together else None, "freeze_c")
    yield "Protects to", _figure(state.claim.safe_to_c, "safe_c")
    yield "Verdict", say("verdict", VERDICT_NAMES[state.proof.verdict]) if state.proof else None
    yield "Stage", say("stage", STAGE_NAMES[state.stage]) if state.stage else None
    yield "Next", state.next_action.act if state.next_action else None
