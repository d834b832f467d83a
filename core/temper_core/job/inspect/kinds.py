"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.dose.validate import mixed_before_strips
from temper_core.job.entry_kind import EntryKind
from temper_core.job.inspect import apply, sentences, validate
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Sampled, Tested
from temper_core.job.job_types import Stage

KINDS = (
    EntryKind("sampled", Sampled, apply.sampled, sentences.sampled, opens=validate.sample_opens, did="looked at a sample"),
    EntryKind(
        "tested", Tested, apply.tested, sentences.tested, mixed_before_strips, validate.check_opens, did="made a test"
    ),
    EntryKind("skipped", Skipped, apply.skipped, sentences.skipped, did="left tests out"),
    EntryKind(
        "job_type_chosen",
        JobTypeChosen,
        apply.job_type_chosen,
        sentences.job_type_chosen,
        validate.job_type_chosen,
        did="chose the job type",
        stages=(Stage.INSPECT,),
    ),
)
