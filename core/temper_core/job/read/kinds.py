"""The kinds of entry of a reading."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind, WithoutJob, nothing
from temper_core.job.job_types import Stage
from temper_core.job.read import apply, sentences, validate
from temper_core.job.read.facts import Listed, Read

KINDS = (
    EntryKind(
        "read",
        Read,
        apply.reading,
        sentences.reading,
        validate.reading,
        validate.reading_opens,
        validate.reading_can_be,
        without_job=WithoutJob(validate.reading_between, apply.reading_between),
        did="took a reading",
        stages=(Stage.VERIFY,),
    ),
    EntryKind("listed", Listed, nothing, sentences.listed, did="imported a reading", by_client=False),
)
