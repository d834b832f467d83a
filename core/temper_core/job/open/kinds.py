"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind, WithoutJob
from temper_core.job.job_types import Stage
from temper_core.job.open import apply, sentences
from temper_core.job.open.facts import EngineRun, GateObserved, ReadyConfirmed

KINDS = (
    EntryKind(
        "gate_observed",
        GateObserved,
        apply.gate_observed,
        sentences.gate_observed,
        without_job=WithoutJob(),
        did="made the safe-to-open check",
        stages=(Stage.OPEN,),
    ),
    EntryKind(
        "ready_confirmed", ReadyConfirmed, apply.ready_confirmed, sentences.ready_confirmed, did="confirmed what is ready"
    ),
    EntryKind("engine_run", EngineRun, apply.engine_run, sentences.engine_run, did="ran the engine"),
)
