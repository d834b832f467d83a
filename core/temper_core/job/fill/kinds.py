"""The kinds of entry of this stage."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind, WithoutJob, opens_cap, opens_drain
from temper_core.job.fill import apply, sentences, validate
from temper_core.job.fill.bleed import apply as bleed_apply
from temper_core.job.fill.bleed import validate as bleed_validate
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    LookedUnder,
    Poured,
    StrengthAdjusted,
    VacuumPulled,
)
from temper_core.job.fill.top_up import poured_between
from temper_core.job.job_types import Stage

_BETWEEN = WithoutJob(validate.poured_between, poured_between)

KINDS = (
    EntryKind(
        "closed",
        Closed,
        apply.closed,
        sentences.closed,
        validate.closed,
        did="confirmed what is closed",
        stages=(Stage.FILL,),
    ),
    EntryKind(
        "looked_under",
        LookedUnder,
        apply.looked_under,
        sentences.looked_under,
        validate.looked_under,
        did="looked underneath",
        stages=(Stage.FILL,),
    ),
    EntryKind(
        "vacuum_pulled",
        VacuumPulled,
        apply.vacuum_pulled,
        sentences.vacuum_pulled,
        validate.vacuum_pulled,
        did="pulled a vacuum",
    ),
    EntryKind(
        "poured",
        Poured,
        apply.poured,
        sentences.poured,
        validate.poured,
        opens_cap,
        without_job=_BETWEEN,
        did="poured",
        stages=(Stage.FILL,),
    ),
    EntryKind(
        "bleed_started",
        BleedStarted,
        bleed_apply.bleed_started,
        sentences.bleed_started,
        bleed_validate.bleed_started,
        did="started the bleed",
        stages=(Stage.FILL,),
    ),
    EntryKind(
        "bleed_stepped",
        BleedStepped,
        bleed_apply.bleed_stepped,
        sentences.bleed_stepped,
        bleed_validate.bleed_stepped,
        did="moved to the next bleed step",
    ),
    EntryKind(
        "bleed_held",
        BleedHeld,
        bleed_apply.bleed_held,
        sentences.bleed_held,
        bleed_validate.bleed_held,
        did="paused the bleed",
    ),
    EntryKind(
        "bleed_goes_on",
        BleedGoesOn,
        bleed_apply.bleed_goes_on,
        sentences.bleed_goes_on,
        bleed_validate.bleed_goes_on,
        did="resumed the bleed",
    ),
    EntryKind(
        "bleed_ended",
        BleedEnded,
        bleed_apply.bleed_ended,
        sentences.bleed_ended,
        bleed_validate.bleed_ended,
        did="ended the bleed",
        stages=(Stage.FILL,),
    ),
    EntryKind(
        "strength_adjusted",
        StrengthAdjusted,
        apply.corrected,
        sentences.corrected,
        validate.corrected,
        opens_drain,
        did="swapped some coolant",
        stages=(Stage.VERIFY,),
    ),
)
