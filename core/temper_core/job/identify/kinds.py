"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind, WithoutJob
from temper_core.job.identify import apply, sentences, validate
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.job_types import Stage

KINDS = (
    EntryKind(
        "contents_reported",
        ReportedContents,
        apply.contents_reported,
        sentences.contents_reported,
        validate.contents_reported,
        did="entered the current coolant",
        stages=(Stage.IDENTIFY,),
    ),
    EntryKind(
        "metered",
        Metered,
        apply.metered,
        sentences.metered,
        validate.metered,
        without_job=WithoutJob(validate.metered),
        did="read the meters",
    ),
)
