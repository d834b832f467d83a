"""The kinds of entry of the visit itself: about its job, or about another entry."""

from __future__ import annotations

from temper_core.job.entries import Acknowledged, Edited, JobOpened, PhotoAdded, Voided
from temper_core.job.entry_kind import EntryKind, nothing, undo_alone
from temper_core.job.visit import apply, sentences, validate

KINDS = (
    EntryKind(
        "job_opened",
        JobOpened,
        apply.job_opened,
        sentences.job_opened,
        validate.job_opened,
        undo=undo_alone,
        any_time=True,
        did="opened the job",
        by_client=False,
    ),
    EntryKind(
        "photo_added",
        PhotoAdded,
        nothing,
        sentences.photo_added,
        validate.photo_added,
        any_time=True,
        did="added a photo",
        quiet=True,
        by_client=False,
    ),
    EntryKind(
        "acknowledged",
        Acknowledged,
        apply.acknowledged,
        sentences.acknowledged,
        validate.acknowledged,
        any_time=True,
        did="saw an override",
        quiet=True,
    ),
    EntryKind("voided", Voided, nothing, sentences.voided, any_time=True, did="undid an entry"),
    EntryKind("edited", Edited, nothing, sentences.edited, any_time=True, did="edited an entry", by_client=False),
)
