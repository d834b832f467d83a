"""The calculators by name: what each asks, what it says, and the core's function that answers. No Django in here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from pydantic import BaseModel, TypeAdapter

from compute import flushing, mixes, others
from temper_core.basis.policy import Policy
from temper_core.calculate.boil import BoilAnswer, boil
from temper_core.calculate.cooldown import CooldownAnswer, cooldown
from temper_core.calculate.expansion import ExpansionAnswer, expansion
from temper_core.calculate.flush import FlushAnswer, flush
from temper_core.calculate.mix import (
    BatchAnswer,
    CorrectionAnswer,
    MixAnswer,
    ReadyMixAnswer,
    TopUpAnswer,
    WholeCansAnswer,
    batch,
    correct,
    mix,
    ready_mix,
    top_up,
    whole_cans,
)
from temper_core.calculate.vacuum import VacuumAnswer, vacuum
from temper_core.instruments import ReadingAnswer, read

Solve = Callable[..., Any]


@dataclass(frozen=True)
class Calculator:
    """One calculator. does: in one sentence; asks, says: its shapes; by_policy: it answers under the depot's rules."""

    name: str
    does: str
    asks: type[BaseModel]
    says: type[BaseModel]
    result: Any
    solve: Solve
    by_policy: bool = False

    @cached_property
    def _result(self) -> TypeAdapter[Any]:
        return TypeAdapter(self.result)

    def answer(self, body: BaseModel, policy: Policy) -> Any:
        """What the core says to a question in its shape, as plain data; raises CoreError."""
        question = body.to_core()  # type: ignore[attr-defined]
        said = self.solve(question, policy) if self.by_policy else self.solve(question)
        return self._result.dump_python(said, mode="json")


CALCULATORS = [
    Calculator(
        "mix",
        "Litres of concentrate and of water that reach a freeze point on top of what is inside.",
        mixes.MixIn,
        mixes.MixOut,
        MixAnswer,
        mix,
        by_policy=True,
    ),
    Calculator(
        "ready-mix",
        "The result of ready-mix alone, by how much it misses, and the concentrate that mends it.",
        mixes.ReadyMixIn,
        mixes.ReadyMixOut,
        ReadyMixAnswer,
        ready_mix,
    ),
    Calculator(
        "correction",
        "Litres to swap in a full loop for concentrate or water.",
        mixes.CorrectionIn,
        mixes.CorrectionOut,
        CorrectionAnswer,
        correct,
    ),
    Calculator(
        "batch",
        "Containers to open, marks on bucket and jug, what to buy, what is left over, the cost.",
        mixes.BatchIn,
        mixes.BatchOut,
        BatchAnswer,
        batch,
    ),
    Calculator(
        "whole-cans",
        "Whole cans instead of a little out of one more, and what that does to the freeze point.",
        mixes.WholeCansIn,
        mixes.WholeCansOut,
        WholeCansAnswer,
        whole_cans,
    ),
    Calculator(
        "top-up",
        "What a top-up makes of a loop.",
        mixes.TopUpIn,
        mixes.TopUpOut,
        TopUpAnswer,
        top_up,
    ),
    Calculator(
        "reading",
        "What a mark on an instrument's scale really says.",
        others.ReadingIn,
        others.ReadingOut,
        ReadingAnswer,
        read,
        by_policy=True,
    ),
    Calculator(
        "boil",
        "Boiling point with this cap at this altitude.",
        others.BoilIn,
        others.BoilOut,
        BoilAnswer,
        boil,
    ),
    Calculator(
        "expansion",
        "How far the fluid rises from cold to hot.",
        others.ExpansionIn,
        others.ExpansionOut,
        ExpansionAnswer,
        expansion,
    ),
    Calculator(
        "flush",
        "What each round of a flush leaves, and how many reach the limit of the finished loop.",
        flushing.FlushIn,
        flushing.FlushOut,
        FlushAnswer,
        flush,
    ),
    Calculator(
        "cooldown",
        "When a loop has cooled: an estimate for planning only.",
        flushing.CooldownIn,
        flushing.CooldownOut,
        CooldownAnswer,
        cooldown,
        by_policy=True,
    ),
    Calculator(
        "vacuum",
        "How deep a pump gets here, how much air stays, how much fluid is drawn, and whether it holds.",
        others.VacuumIn,
        others.VacuumOut,
        VacuumAnswer,
        vacuum,
        by_policy=True,
    ),
]
