"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.drain import apply, sentences, validate
from temper_core.job.drain.facts import Drained
from temper_core.job.entry_kind import EntryKind, opens_drain
from temper_core.job.job_types import Stage

KINDS = (
    EntryKind(
        "drained",
        Drained,
        apply.drained,
        sentences.drained,
        validate.drained,
        opens_drain,
        did="drained",
        stages=(
            Stage.DRAIN,
            Stage.FLUSH,
        ),
    ),
)
