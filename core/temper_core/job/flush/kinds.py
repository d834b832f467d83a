"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind, opens_cap
from temper_core.job.flush import apply, sentences, validate
from temper_core.job.flush.facts import FlushEnded, RoundFilled, VesselRinsed, WasteKept
from temper_core.job.job_types import Stage

KINDS = (
    EntryKind(
        "round_filled",
        RoundFilled,
        apply.round_filled,
        sentences.round_filled,
        validate.round_filled,
        opens_cap,
        did="filled a round",
        stages=(Stage.FLUSH,),
    ),
    EntryKind(
        "vessels_rinsed",
        VesselRinsed,
        apply.vessels_rinsed,
        sentences.vessels_rinsed,
        validate.vessels_rinsed,
        opens_cap,
        did="rinsed",
        stages=(Stage.FLUSH,),
    ),
    EntryKind(
        "flush_ended",
        FlushEnded,
        apply.flush_ended,
        sentences.flush_ended,
        validate.flush_ended,
        did="ended the flush",
        stages=(Stage.FLUSH,),
    ),
    EntryKind(
        "waste_kept",
        WasteKept,
        apply.waste_kept,
        sentences.waste_kept,
        validate.waste_kept,
        while_paused=True,
        did="recorded waste",
        quiet=True,
    ),
)
