"""The kinds of entry between services."""

from __future__ import annotations

from temper_core.job.between import apply, sentences, validate
from temper_core.job.between.facts import Amended, LevelSeen, Spilled
from temper_core.job.entry_kind import EntryKind, WithoutJob

KINDS = (
    EntryKind(
        "level_seen",
        LevelSeen,
        apply.level_seen,
        sentences.level_seen,
        opens=validate.level_opens,
        in_job=False,
        without_job=WithoutJob(),
        did="checked the level",
    ),
    EntryKind(
        "spilled",
        Spilled,
        apply.spilled,
        sentences.spilled,
        validate.spilled,
        in_job=False,
        without_job=WithoutJob(validate.spilled),
        did="recorded a spill",
    ),
    EntryKind(
        "amended",
        Amended,
        apply.amended,
        sentences.amended,
        in_job=False,
        without_job=WithoutJob(validate.amended),
        did="added a correction",
        quiet=True,
    ),
)
