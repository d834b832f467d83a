"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.dose import apply, sentences, validate
from temper_core.job.dose.facts import Dosed
from temper_core.job.entry_kind import EntryKind, opens_cap
from temper_core.job.job_types import Stage

KINDS = (
    EntryKind(
        "dosed",
        Dosed,
        apply.dosed,
        sentences.dosed,
        validate.dosed,
        opens_cap,
        did="dosed an additive",
        stages=(Stage.INSPECT,),
    ),
)
