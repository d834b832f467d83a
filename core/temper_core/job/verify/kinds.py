"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind
from temper_core.job.job_types import Stage
from temper_core.job.verify import apply, sentences, validate
from temper_core.job.verify.facts import FinishChecked, SignedOff

KINDS = (
    EntryKind(
        "finish_checked",
        FinishChecked,
        apply.finish_checked,
        sentences.finish_checked,
        validate.finish_checked,
        validate.finish_opens,
        did="made the final check",
        stages=(Stage.VERIFY,),
    ),
    EntryKind("signed_off", SignedOff, apply.signed_off, sentences.signed_off, validate.signed_off, did="signed off"),
)
