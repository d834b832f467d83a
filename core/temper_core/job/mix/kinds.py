"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind
from temper_core.job.job_types import Stage
from temper_core.job.mix import apply, sentences, validate
from temper_core.job.mix.facts import Planned

KINDS = (
    EntryKind(
        "planned",
        Planned,
        apply.planned,
        sentences.planned,
        validate.planned,
        did="planned the mix",
        stages=(
            Stage.IDENTIFY,
            Stage.MIX,
        ),
    ),
)
