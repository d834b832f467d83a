"""The kind of entry that says where a machine is parked."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind, WithoutJob
from temper_core.job.parking import apply, sentences
from temper_core.job.parking.facts import Parked

KINDS = (
    EntryKind(
        "parked",
        Parked,
        apply.parked,
        sentences.parked,
        while_paused=True,
        without_job=WithoutJob(),
        did="said where it is parked",
        quiet=True,
    ),
)
